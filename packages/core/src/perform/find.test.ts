import type { Json, Submission } from '../submission';
import { newLine, type Call, type Find, type Line } from '../route';
import type { AnswerField, Operation } from '../target';
import { targetField } from '../testing';
import { Problem } from '../transform';
import {
  compileStages,
  foresee,
  perform,
  pointFind,
  proposeFinds,
  proposeIdentity,
  recordsIn,
  type Ask,
  type Done,
  type FindRole,
  type Stage,
} from '.';

const part = (pointer: string): AnswerField => ({ pointer, label: pointer.slice(1), type: 'text' });
const path = (key: string) => targetField(key, { in: 'path', pointer: key, required: true });
const query = (key: string) => targetField(key, { in: 'query', pointer: key });

/** Tags of a target that answers each operation in a shape of its own. */
const operations: Operation[] = [
  { id: 'make', label: 'Create a tag', method: 'POST', path: '/tags', fields: [targetField('name'), targetField('colour'), targetField('note')], answer: [part('/tag/id'), part('/tag/name')] },
  { id: 'search', label: 'Search tags', method: 'POST', path: '/tags/search', fields: [targetField('name', { pointer: '/filter/name' }), targetField('limit', { type: 'integer' })], answer: [{ pointer: '/data/items', label: 'items', type: 'json', items: [part('/id'), part('/attributes/name')] }] },
  { id: 'list', label: 'List tags', method: 'GET', path: '/tags', body: 'none', fields: [query('q')], answer: [{ pointer: '', label: '', type: 'json', items: [part('/id'), part('/name')] }] },
  { id: 'named', label: 'Tag by its name', method: 'GET', path: '/tags/named/{name}', body: 'none', fields: [path('name')], answer: [part('/id'), part('/name')] },
  { id: 'change', label: 'Change a tag', method: 'PATCH', path: '/tags/{id}', fields: [path('id'), targetField('colour')] },
  { id: 'attach', label: 'Attach a tag', method: 'POST', path: '/notes', fields: [targetField('tag_id'), targetField('text')] },
]; // prettier-ignore
const target = { id: 't', name: 'Tags', baseUrl: 'https://tags.example.org', operations };

const from = (to: string, field: string): Line => ({ ...newLine(`l-${to}`, to), source: { from: 'field', field } });
const fixed = (to: string, value: Json): Line => ({ ...newLine(`l-${to}`, to), source: { from: 'constant', value } });
const find: Find = {
  operationId: 'search',
  line: from('name', 'tag'),
  lines: [fixed('limit', 5)],
  readsOnly: true,
  list: '/data/items',
  equals: '/attributes/name',
  whenNone: 'create',
  whenSeveral: 'hold',
  update: null,
};
const calls = (more: Partial<Call> = {}): Call[] => [
  { id: 'tag', targetId: 't', operationId: 'make', lines: [from('name', 'tag'), from('colour', 'colour')], find, identity: { found: '/id', made: '/tag/id' }, ...more },
  { id: 'note', targetId: 't', operationId: 'attach', lines: [from('tag_id', '@record/tag'), from('text', 'text')] },
]; // prettier-ignore

const submission: Submission = {
  form: null,
  id: 'S-1',
  submittedAt: null,
  meta: {},
  files: [],
  questions: [],
  fields: ['tag', 'colour', 'text'].map(key => ({
    key,
    label: key,
    kind: 'text',
    value: `${key} one`,
    pointer: `/${key}`,
  })),
};

/** What is asked, and how it ends, where the target answers so. */
function played(answers: Record<string, Json>, all = calls(), earlier: Done[] = []) {
  const stages = compileStages(all, [target]) as Stage[];
  const conversation = perform(stages, submission, { timeZone: 'UTC' }, earlier);
  const asks: Ask[] = [];
  let next = conversation.next();
  while (!next.done) {
    asks.push(next.value);
    const { purpose, callId } = next.value;
    next = conversation.next({ answer: answers[`${callId} ${purpose}`] ?? null });
  }
  return {
    asks,
    ending: next.value,
    told: asks.map(({ request }) => [request.method, request.url.slice(24), request.body]),
  };
}

const tag = { id: 't-7', attributes: { name: 'tag one' } };

describe('a look-up by POST, its list wrapped', () => {
  test('sends what else it needs, and finds what is exactly that', () => {
    const { told } = played({
      'tag find': { data: { items: [{ id: 't-1', attributes: { name: 'tag one hundred' } }, tag] } },
    });
    expect(told).toEqual([
      ['POST', '/tags/search', { filter: { name: 'tag one' }, limit: 5 }],
      ['POST', '/notes', { tag_id: 't-7', text: 'text one' }],
    ]);
  });

  test('what an update has no field for is told, where the record has it otherwise', () => {
    const update = { operationId: 'change', to: 'id', from: '/id' };
    const lines = [from('name', 'tag'), from('colour', 'colour'), from('note', 'text')];
    const [own] = calls({ find: { ...find, update }, lines });
    const ends = (record: Json) => {
      const { ending } = played({ 'tag find': { data: { items: [record] } } }, [own!]);
      return ending.done.map(each => [each.what, each.note]);
    };
    const lost = 'Not written to the existing record: note; “Change a tag” has no such field.';
    expect(ends({ ...tag, colour: 'red' })).toEqual([['updated', lost]]);
    expect(ends({ ...tag, colour: 'colour one' })).toEqual([['unchanged', lost]]);
    expect(ends({ ...tag, colour: 'red', note: 'text one' })).toEqual([['updated', null]]);
  });

  test('what the next call refers to holds for one that was made, too', () => {
    const { told } = played({
      'tag find': { data: { items: [] } },
      'tag create': { tag: { id: 't-9', name: 'tag one' } },
    });
    expect(told.at(-1)).toEqual(['POST', '/notes', { tag_id: 't-9', text: 'text one' }]);
  });

  test('and for one that was found or made in a try before', () => {
    const before: Done = {
      callId: 'tag',
      item: '0',
      what: 'created',
      answer: { tag: { id: 't-9' } },
      identity: 't-9',
      note: null,
    };
    expect(played({}, calls(), [before]).told).toEqual([['POST', '/notes', { tag_id: 't-9', text: 'text one' }]]);
  });

  test('what is looked for may not be blank; what else is sent is foreseen as any line is', () => {
    const blank = { ...find, line: from('name', 'nobody asked') };
    const stages = compileStages(calls({ find: blank }), [target]) as Stage[];
    expect(foresee(stages, submission, { timeZone: 'UTC' }).problems.map(each => each.code)).toEqual(['find.blank']);
    const open = compileStages(calls({ find: { ...find, equals: '' } }), [target]) as Stage[];
    expect(foresee(open, submission, { timeZone: 'UTC' }).problems.map(each => each.code)).toEqual(['find.open']);
    const wrong = { ...find, lines: [{ ...fixed('limit', 'many') }] };
    expect(
      foresee(compileStages(calls({ find: wrong }), [target]) as Stage[], submission, { timeZone: 'UTC' }).problems,
    ).not.toEqual([]);
  });
});

test.each<[string, Pick<Find, 'list' | 'equals' | 'takesAny'>, Json, number]>([
  ['a record, where nobody said what of it must be that', { list: '', equals: '' }, { id: 7 }, 0],
  ['a record by itself, which is what was asked for', { list: '', equals: '', takesAny: true }, { id: 7 }, 1],
  ['nothing at all', { list: '', equals: '', takesAny: true }, null, 0],
  ['an empty list', { list: '/items', equals: '', takesAny: true }, { items: [] }, 0],
  ['records of which none is it', { list: '/items', equals: '/n' }, { items: [{ n: 'b' }, { m: 'a' }, 'a'] }, 0],
  ['a number for a text', { list: '', equals: '/n' }, [{ n: 7 }], 0],
  ['the text of a number', { list: '', equals: '/n' }, [{ n: 'a' }, { n: 'a' }], 2],
  ['a value deep in a record', { list: '/r', equals: '/f/0/v' }, { r: [{ f: [{ v: 'a' }] }] }, 1],
  ['a value picked by its name', { list: '/r', equals: '/f/@k=mail/v' }, { r: [{ f: [{ k: 'x', v: 'b' }, { k: 'mail', v: 'a' }] }] }, 1],
])('%s', (_, places, answer, count) => expect(recordsIn(answer, places, 'a')).toHaveLength(count)); // prettier-ignore

describe('composed by pointing at a real answer', () => {
  const blank: Find = { ...find, list: '', equals: '', update: { operationId: 'change', to: 'id', from: '' } };
  const wrapped: Json = { ok: true, data: { items: [{ id: 7, attributes: { name: 'Foam', links: [{ url: 'x' }] } }] } };
  test.each<[string, FindRole, Json, string, Partial<Find>]>([
    ['a list', 'list', wrapped, '/data/items', { list: '/data/items' }],
    ['anything in one', 'list', wrapped, '/data/items/0/attributes/name', { list: '/data/items' }],
    ['one record', 'list', { tag: { id: 1 } }, '/tag', { list: '/tag' }],
    ['a value in a record', 'equals', wrapped, '/data/items/0/attributes/name', { list: '/data/items', equals: '/attributes/name' }],
    ['an identifier', 'id', wrapped, '/data/items/0/id', { list: '/data/items', update: { operationId: 'change', to: 'id', from: '/id' } }],
    ['a value of the one record', 'equals', { tag: { id: 1 } }, '/tag/id', { list: '', equals: '/tag/id' }],
    ['an answer that is a list', 'equals', [{ n: 'a' }], '/0/n', { list: '', equals: '/n' }],
  ])('%s', (_, role, answer, pointer, expected) => expect(pointFind(blank, role, answer, pointer)).toMatchObject(expected)); // prettier-ignore

  test('inside the one record that was pointed at, from there', () =>
    expect(pointFind({ ...blank, list: '/tag' }, 'equals', { tag: { of: { n: 'a' } } }, '/tag/of/n')).toMatchObject({ list: '/tag', equals: '/of/n' })); // prettier-ignore

  test.each<[FindRole, string, RegExp]>([
    ['list', '/ok', /Point at a list/],
    ['equals', '/data', /Point at a text/],
    ['id', '/nowhere', /nothing at this place/],
  ])('%s at %s is refused in words', (role, pointer, words) =>
    expect(pointFind(blank, role, wrapped, pointer)).toEqual({ refusal: expect.stringMatching(words) as string }),
  );
});

describe('proposed from what the target says', () => {
  const call = calls()[0]!;
  test('by GET with any words, by its path, and by a search that is posted', () => {
    const ways = proposeFinds({ ...call, find: null }, operations);
    expect(ways.map(each => [each.operationId, each.line.to, each.list, each.equals, each.readsOnly ?? false])).toEqual(
      [
        ['list', 'q', '', '/name', false],
        ['named', 'name', '', '/name', false],
        ['search', 'name', '/data/items', '/attributes/name', true],
      ],
    );
    expect(ways[0]!.line.source).toEqual({ from: 'field', field: 'tag' });
    expect(ways.every(each => each.update?.operationId === 'change' && each.update.from === '/id')).toBe(true);
  });
  test('what makes a record is never asked to find one', () => {
    expect(proposeFinds({ ...call, operationId: 'attach' }, operations)).toEqual([]);
  });
  test('what identifies the record, found or made', () => {
    const [make, search] = operations;
    expect(proposeIdentity(make!, search!)).toEqual({ made: '/tag/id', found: '/id' });
    expect(proposeIdentity(make!, null)).toEqual({ made: '/tag/id', found: '' });
    expect(proposeIdentity(operations.at(-1)!, search!)).toBeNull();
  });
});

test('an operation that is gone is told, whichever it is', () => {
  const gone = compileStages(calls({ find: { ...find, operationId: 'gone' } }), [target]);
  expect(gone).toBeInstanceOf(Problem);
});
