import { targetField } from '../../testing';
import type { Operation } from '../operation';
import { doubtsAbout, offered, operationFaults, sourceOf, withEarlierIds, withSegment, withSource } from '.';

const operation = (method: Operation['method'], path: string, more: Partial<Operation> = {}): Operation => ({
  id: `${method} ${path}`,
  label: path,
  method,
  path,
  body: 'json',
  fields: [targetField('email'), targetField('name'), targetField('phone')],
  ...more,
});
const ids = (operations: readonly Operation[]) => operations.map(each => each.id);

describe('what people set stays', () => {
  const read = [operation('POST', '/a'), operation('POST', '/b'), operation('POST', '/c')];
  const own = [
    { id: 'POST /a', operation: operation('POST', '/a2', { id: 'POST /a' }), was: read[0]! },
    { id: 'POST /b', operation: null, was: read[1]! },
    { id: 'own', operation: operation('PUT', '/d', { id: 'own' }), was: null },
  ];
  test('in place of what is read, beside it, or instead of it', () => {
    const all = offered(read, own);
    expect(ids(all)).toEqual(['POST /a', 'POST /c', 'own']);
    expect(all[0]!.path).toBe('/a2');
    expect(new Set(ids(sourceOf(all, own)))).toEqual(new Set(ids(read)));
    expect(sourceOf(all, own).find(each => each.id === 'POST /a')).toBe(read[0]);
  });
  test('what the source says now is kept beside it; what is taken away and gone needs no keeping', () => {
    const later = [operation('POST', '/a', { label: 'new words' })];
    expect(withSource(own, later).map(each => [each.id, each.was?.label])).toEqual([
      ['POST /a', 'new words'],
      ['own', undefined],
    ]);
  });
});

describe('an operation that moved keeps the identifier that calls know', () => {
  test.each<[string, Operation[], Operation[], string[]]>([
    [
      'to another version',
      [operation('POST', '/v1/contacts')],
      [operation('POST', '/v2/contacts')],
      ['POST /v1/contacts'],
    ],
    ['below another word', [operation('POST', '/contacts')], [operation('POST', '/crm/contacts')], ['POST /contacts']],
    [
      'to other words, with its label',
      [operation('POST', '/people', { label: 'Add somebody' })],
      [operation('POST', '/contacts', { label: 'Add somebody' })],
      ['POST /people'],
    ],
    ['to another method: no', [operation('POST', '/contacts')], [operation('PUT', '/contacts')], ['PUT /contacts']],
    [
      'with other fields: no',
      [operation('POST', '/v1/contacts')],
      [operation('POST', '/v2/contacts', { fields: [targetField('a'), targetField('b')] })],
      ['POST /v2/contacts'],
    ],
    [
      'to one of two: no',
      [operation('POST', '/contacts')],
      [operation('POST', '/a/contacts'), operation('POST', '/b/contacts')],
      ['POST /a/contacts', 'POST /b/contacts'],
    ],
    [
      'while it stands there still: no',
      [operation('POST', '/contacts')],
      [operation('POST', '/contacts'), operation('POST', '/v2/contacts')],
      ['POST /contacts', 'POST /v2/contacts'],
    ],
  ])('%s', (_, before, read, known) => expect(ids(withEarlierIds(before, read))).toEqual(known));
});

describe('what is wrong with an operation', () => {
  const body = (more = {}) => [targetField('email', more)];
  test.each<[string, Partial<Operation>, string, RegExp]>([
    ['no words', { label: ' ' }, 'label', /Enter a name/],
    ['no slash', { path: 'a' }, 'path', /Start/],
    ['a query in it', { path: '/a?b=1' }, 'path', /query/],
    ['a space', { path: '/a b' }, 'path', /spaces/],
    ['dots that move', { path: '/a/../b' }, 'path', /3986/],
    ['the same encoded', { path: '/a/%2E%2e/b' }, 'path', /3986/],
    ['a brace left open', { path: '/a/{b' }, 'path', /\{name\}/],
    ['a place that nothing fills', { path: '/a/{b}' }, 'path', /“b” stands/],
    ['a field without its place', { fields: body({ in: 'path', pointer: 'b' }) }, 'fields.0.pointer', /no place/],
    ['two of one name', { fields: [...body(), ...body()] }, 'fields.1.key', /Two fields/],
    [
      'two at one place',
      { fields: [...body(), targetField('mail', { pointer: '/email' })] },
      'fields.1.pointer',
      /same place/,
    ],
    ['a pointer that is none', { fields: body({ pointer: 'email' }) }, 'fields.0.pointer', /JSON Pointer/],
    ['a header with a space', { fields: body({ in: 'header', pointer: 'X Y' }) }, 'fields.0.pointer', /9110/],
    ['a body where there is none', { method: 'GET' }, 'fields.0.in', /no body/],
    ['a pattern that is none', { fields: body({ pattern: '(' }) }, 'fields.0.pattern', /can’t be read/],
    ['an empty list of options', { fields: body({ options: [] }) }, 'fields.0.options', /options/],
  ])('%s', (_, more, at, message) => {
    const faults = operationFaults(operation('POST', '/a', { fields: body(), ...more }));
    expect(faults).toEqual(expect.arrayContaining([{ at, message: expect.stringMatching(message) }]));
  });
  test('nothing is, as documents and examples give it', () => {
    expect(operationFaults(operation('POST', '/a'))).toEqual([]);
    const whole = operation('PUT', '/a/{id}', {
      fields: [targetField('id', { in: 'path', pointer: 'id' }), targetField('all', { pointer: '' })],
    });
    expect(operationFaults(whole)).toEqual([]);
  });
});

describe('what an example can’t tell is asked', () => {
  test('that nothing is required, what is always the same, what was taken for an identifier', () => {
    const made = operation('POST', '/a/{a_id}', {
      fields: [
        targetField('a_id', { in: 'path', pointer: 'a_id', required: true, description: 'such as 42' }),
        targetField('v', { in: 'query', pointer: 'v', fixed: '2' }),
        targetField('email'),
      ],
    });
    expect(doubtsAbout(made).map(each => [each.about, each.field])).toEqual([
      ['nothingRequired', null],
      ['varies', 'a_id'],
      ['alwaysTheSame', 'v'],
    ]);
    const known = { ...made, fields: [targetField('email', { required: true })] };
    expect(doubtsAbout(known)).toEqual([]);
  });
  test('a segment is made a place for a value, and back', () => {
    const plain = operation('PATCH', '/contacts/ana/notes');
    const varied = withSegment(plain, 2);
    expect(varied.path).toBe('/contacts/{contact_id}/notes');
    expect(varied.fields[0]).toMatchObject({
      key: 'contact_id',
      in: 'path',
      required: true,
      description: 'such as ana',
    });
    expect(operationFaults(varied)).toEqual([]);
    expect(withSegment(varied, 2)).toEqual(plain);
    expect(withSegment(plain, 0)).toEqual(plain);
  });
});
