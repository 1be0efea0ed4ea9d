import type { Json } from '../submission';
import { targetField } from '../testing';
import { exampleFor, readDiscovery, refusal, targetTypes, usualRecipe, type TargetField, type TargetType } from '.';

const field = (type: TargetType, more: Partial<TargetField> = {}): TargetField =>
  targetField('f', { label: 'F', type, ...more });

// RFC 3339 §5.6 (grammar) and §5.8 (examples); what is not RFC 3339 is refused.
test.each<[TargetType, Json, boolean]>([
  ['datetime', '1985-04-12T23:20:50.52Z', true],
  ['datetime', '1996-12-19T16:39:57-08:00', true],
  ['datetime', '1990-12-31T23:59:60Z', true],
  ['datetime', '1937-01-01T12:00:27.87+00:20', true],
  ['datetime', '2026-11-04 07:55', false],
  ['datetime', '2026-11-04T07:55Z', false],
  ['datetime', '2026-02-30T07:55:00Z', false],
  ['datetime', '2026-11-04T25:00:00Z', false],
  ['date', '2026-11-04', true],
  ['date', '2026-02-30', false],
  ['date', '4/11/2026', false],
  ['number', 7.4, true],
  ['number', '7.4', false],
  ['integer', 7.4, false],
  ['integer', 7, true],
  ['boolean', 'true', false],
  ['text', ['a'], false],
  ['choices', ['a', 'b'], true],
  ['choices', 'a', false],
  ['attachments', [{ name: 'a', url: 'https://files.example.org/a' }], true],
  ['attachments', ['a'], false],
  ['json', { any: 1 }, true],
])('%s takes %j: %s', (type, value, takes) => expect(refusal(field(type), value) === null).toBe(takes));

// A list of identifiers that are numbers takes numbers: `["77"]` is refused by systems that check.
test.each<[NonNullable<TargetField['items']>, Json, boolean]>([
  ['integer', [77, 78], true],
  ['integer', [], true],
  ['integer', ['77'], false],
  ['integer', [7.5], false],
  ['integer', 77, false],
  ['number', [7.5, 1], true],
  ['number', ['7.5'], false],
  ['boolean', [true, false], true],
  ['boolean', ['yes'], false],
])('a list of %s takes %j: %s', (items, value, takes) => {
  const list = field('choices', { items });
  expect(refusal(list, value)?.message ?? null).toEqual(
    takes ? null : (expect.stringContaining('takes a list of') as string),
  );
  expect(refusal(list, exampleFor(list))).toBeNull();
});

test('an option the target does not list is named, one by one', () => {
  expect(refusal(field('choice', { options: ['Foam'] }), 'foam')).toMatchObject({
    code: 'target.option',
    message: expect.stringContaining('“foam”'),
  });
  expect(refusal(field('choices', { options: ['Foam', 'Litter'] }), ['Foam', 'Other: eels'])).toMatchObject({
    message: expect.stringContaining('“Other: eels”'),
  });
  expect(refusal(field('choice', { options: ['Foam'] }), 'Foam')).toBeNull();
});

test('too long a text says how long', () =>
  expect(refusal(field('text', { maxLength: 3 }), 'four')?.message).toMatch(/takes 3 characters; this has 4/));

test.each(targetTypes)('the example for %s is one that it takes', type => {
  const example = field(type, { options: type === 'choice' || type === 'choices' ? ['Foam', 'Litter'] : null });
  expect(refusal(example, exampleFor(example))).toBeNull();
});

describe('discovery', () => {
  const answer: Json = {
    tables: [
      {
        key: 'samples',
        title: 'Samples',
        columns: [
          { key: 'no', type: 'whole', readOnly: true },
          { key: 'a/b', title: 'Site', type: 'option', required: true, options: ['x'] },
          { key: 'odd', type: 'hologram' },
          'rubbish',
        ],
      },
      { title: 'no key' },
    ],
  };

  test('tables become operations, columns their fields', () => {
    const read = readDiscovery(answer, usualRecipe);
    expect(read).toEqual({
      operations: [
        {
          id: 'create:samples',
          answer: [{ pointer: '/no', label: 'no', type: 'integer' }],
          label: 'Add a record to Samples',
          method: 'POST',
          path: '/tables/samples/records',
          fields: [
            expect.objectContaining({ key: 'no', type: 'integer', readOnly: true }),
            expect.objectContaining({
              key: 'a/b',
              pointer: '/values/a~1b',
              label: 'Site',
              type: 'choice',
              required: true,
              options: ['x'],
            }),
            expect.objectContaining({ key: 'odd', type: 'text' }),
          ],
        },
      ],
    });
  });

  test.each<[Json, string]>([
    [{}, 'no list of tables'],
    [{ tables: {} }, 'no list of tables'],
    [{ tables: [] }, 'lists no table'],
    [null, 'no list of tables'],
  ])('%j is no discovery', (document, says) =>
    expect(readDiscovery(document, usualRecipe)).toEqual({ fault: expect.stringContaining(says) }),
  );
});

describe('what a text or a number has to be beside its type', () => {
  test.each<[object, string | number, boolean]>([
    [{ format: 'email' }, 'aoife@example.org', true],
    [{ format: 'email' }, 'aoife at example', false],
    [{ format: 'email' }, 'a@b', false],
    [{ format: 'addresses' }, 'Aoife O’Rourke <aoife@example.org>, b@example.org', true],
    [{ format: 'addresses' }, 'aoife@example.org\r\nBcc: eve@example.org', false],
    [{ format: 'addresses' }, 'a@example.org,', false],
    [{ format: 'addresses' }, 'a@example.org, <b@example.org', false],
    [{ format: 'line' }, 'Severe: Föhre', true],
    [{ format: 'line' }, 'Severe\nBcc: eve@example.org', false],
    [{ format: 'uri' }, 'https://example.org/a', true],
    [{ format: 'uri' }, 'example.org', false],
    [{ pattern: '^AB-\\d\\d$' }, 'AB-07', true],
    [{ pattern: '^AB-\\d\\d$' }, 'AB-7', false],
    [{ pattern: '(a+)+$' }, `${'a'.repeat(50_000)}!`, false],
    [{ pattern: '(?<=x)y' }, 'anything: no linear engine has this', true],
    [{ type: 'number', minimum: 0, maximum: 14 }, 7.4, true],
    [{ type: 'number', minimum: 0, maximum: 14 }, 14.2, false],
    [{ type: 'number', minimum: 0, maximum: 14 }, -1, false],
  ])('%j takes %j: %s', (rules, value, isTaken) => expect(refusal(field('text', rules), value) === null).toBe(isTaken));
});

test.each<[Partial<TargetField> & { type: TargetType }, number, boolean]>([
  [{ type: 'file', pointer: '/f' }, 3, true],
  [{ type: 'file', pointer: '' }, 1, true],
  [{ type: 'file', pointer: '' }, 2, false],
  [{ type: 'base64', pointer: '/f' }, 1, true],
  [{ type: 'base64', pointer: '/f' }, 2, false],
])('a field of %j takes %d files: %s', ({ type, ...more }, count, isTaken) => {
  const files = Array.from({ length: count }, (_, index) => ({ name: `${index}.gif`, url: null, type: null, size: 1 }));
  expect(refusal(field(type, more), files) === null).toBe(isTaken);
});

test.each<[Partial<TargetField>, Json, boolean]>([
  [{ in: 'path', type: 'integer' }, '72', true],
  [{ in: 'query', type: 'number' }, '-7.4', true],
  [{ in: 'path', type: 'integer' }, '7.4', false],
  [{ in: 'path', type: 'integer' }, 'R-72', false],
  [{ type: 'integer' }, '72', false],
])('text of a number for %j: %j is taken: %s', (more, value, is) =>
  expect(refusal(targetField('id', more), value) === null).toBe(is),
);
