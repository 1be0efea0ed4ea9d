import type { Json } from '../submission';
import { pointRecipe, proposeRecipe, readDiscovery, usualRecipe, type DiscoveryRecipe, type RecipeRole } from '.';

const wrapped = {
  data: {
    sheets: [
      { id: 's1', name: 'Samples', cols: [{ id: 'c1', caption: 'pH', kind: 'number', must: true }] },
      {
        id: 's2',
        name: 'Sites',
        cols: [{ id: 'c2', caption: 'Site', kind: 'string', choices: [{ id: 'a', name: 'AB-07' }] }],
      },
    ],
  },
};
const bare: Json = [
  { field: 'email', label: 'E-mail', type: 'text', required: true },
  { field: 'tags', label: 'Tags', type: 'choices', options: ['a', 'b'] },
];
const byName = {
  objects: {
    contact: { label: 'Contact', properties: { email: { type: 'string' }, age: { type: 'number' } } },
    site: { label: 'Site', properties: { code: { type: 'string' }, at: { type: 'string' } } },
  },
};

const read = (answer: Json, recipe: DiscoveryRecipe) => {
  const found = readDiscovery(answer, recipe);
  if ('fault' in found) throw new Error(found.fault);
  return found.operations.map(each => [
    each.label,
    each.fields.map(({ key, label, type, required }) => [key, label, type, required]),
  ]);
};
const pointed = (answer: Json, ...points: [RecipeRole, string][]): DiscoveryRecipe =>
  points.reduce<DiscoveryRecipe>((recipe, [role, pointer]) => {
    const next = pointRecipe(recipe, role, answer, pointer);
    if ('refusal' in next) throw new Error(next.refusal);
    return next;
  }, usualRecipe);

describe('what stands where is pointed at', () => {
  test('tables in a list that is wrapped', () => {
    const recipe = pointed(
      wrapped,
      ['columnKey', '/data/sheets/0/cols/0/id'],
      ['columnLabel', '/data/sheets/0/cols/0/caption'],
      ['columnType', '/data/sheets/1/cols/0/kind'],
      ['columnRequired', '/data/sheets/0/cols/0/must'],
      ['columnOptions', '/data/sheets/1/cols/0/choices'],
      ['tableKey', '/data/sheets/0/id'],
      ['tableLabel', '/data/sheets/0/name'],
    );
    expect(recipe).toMatchObject({ tables: '/data/sheets', columns: '/cols', tableKey: '/id', isOneTable: false });
    expect(read(wrapped, recipe)).toEqual([
      ['Add a record to Samples', [['c1', 'pH', 'number', true]]],
      ['Add a record to Sites', [['c2', 'Site', 'text', false]]],
    ]);
  });
  test('an option of a column stands for its options, and moves nothing else', () => {
    const begun: [RecipeRole, string][] = [
      ['columnKey', '/data/sheets/0/cols/0/id'],
      ['columnLabel', '/data/sheets/0/cols/0/caption'],
      ['tableKey', '/data/sheets/0/id'],
    ];
    const before = pointed(wrapped, ...begun);
    const after = pointed(wrapped, ...begun, ['columnOptions', '/data/sheets/1/cols/0/choices/0/name']);
    expect(after).toEqual({ ...before, column: { ...before.column, options: '/choices' } });
    const one = pointed(bare, ['columnKey', '/0/field'], ['columnOptions', '/1/options/0']);
    expect(one).toMatchObject({ isOneTable: true, columns: '', column: { key: '/field', options: '/options' } });
  });
  test('a bare list of columns is one table', () => {
    const recipe = pointed(bare, ['columnKey', '/0/field'], ['columnLabel', '/0/label']);
    expect(recipe).toMatchObject({ tables: '', columns: '', isOneTable: true });
    expect(read(bare, recipe)).toEqual([
      [
        'Add a record to records',
        [
          ['email', 'E-mail', 'text', true],
          ['tags', 'Tags', 'choices', false],
        ],
      ],
    ]);
  });
  test('columns and tables by their names in objects', () => {
    const recipe = pointed(
      byName,
      ['columnType', '/objects/contact/properties/email/type'],
      ['tableLabel', '/objects/contact/label'],
    );
    expect(read(byName, recipe)).toEqual([
      [
        'Add a record to Contact',
        [
          ['email', 'email', 'text', false],
          ['age', 'age', 'number', false],
        ],
      ],
      [
        'Add a record to Site',
        [
          ['code', 'code', 'text', false],
          ['at', 'at', 'text', false],
        ],
      ],
    ]);
  });
  test.each<[string, Json, RecipeRole, string]>([
    ['nothing there', wrapped, 'columnKey', '/data/none'],
    ['no list around it', { a: 1 }, 'columnKey', '/a'],
    ['a column, and nothing in it', wrapped, 'columnKey', '/data/sheets/0/cols/0'],
    ['what stands in a column is no table’s', wrapped, 'tableKey', '/data/sheets/0/cols/0/id'],
  ])('%s is refused', (_, answer, role, pointer) =>
    expect(pointRecipe(usualRecipe, role, answer, pointer)).toHaveProperty('refusal'),
  );
});

describe('a recipe is proposed where the names of the parts tell', () => {
  test.each<[string, Json, string[]]>([
    ['wrapped tables', wrapped, ['Add a record to Samples', 'Add a record to Sites']],
    ['a bare list', bare, ['Add a record to records']],
    ['by names', byName, ['Add a record to Contact', 'Add a record to Site']],
  ])('%s', (_, answer, labels) => {
    const recipe = proposeRecipe(answer)!;
    expect(read(answer, recipe).map(([label]) => label)).toEqual(labels);
  });
  test.each<[string, Json]>([
    ['records', { data: [{ id: 1, name: 'Ana' }] }],
    ['words', 'hello'],
    ['nothing', {}],
  ])('not for %s', (_, answer) => expect(proposeRecipe(answer)).toBeNull());
});
