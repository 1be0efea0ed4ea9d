import fc from 'fast-check';
import { decode } from '../decode';
import type { RequestPlan } from '../request';
import { newLine, type Call, type Line } from '../route';
import { referenceOf, referredTo, scopeOf } from '../scope';
import type { Json, Submission } from '../submission';
import { targetField } from '../testing';
import type { Operation } from '../target';
import { Problem } from '../transform';
import { compileStages, perform, type Ask, type Stage } from '.';

const encoder = new TextEncoder();
const read = (document: unknown) => decode(encoder.encode(JSON.stringify(document)), 'application/json').submissions;

const inPath = targetField('id', { in: 'path', pointer: 'id', required: true });
const operations: Operation[] = [
  {
    id: 'find',
    label: 'Find',
    method: 'GET',
    path: '/people',
    body: 'none',
    fields: [targetField('email', { in: 'query', pointer: 'email' })],
  },
  {
    id: 'create',
    label: 'Create',
    method: 'POST',
    path: '/people',
    fields: [
      targetField('email'),
      targetField('name', { pointer: '/person/name' }),
      targetField('X-Source', { in: 'header', pointer: 'X-Source' }),
      targetField('tag', { in: 'query', pointer: 'tag' }),
    ],
    answer: [{ pointer: '/id', label: 'id', type: 'text' }],
  },
  { id: 'update', label: 'Update', method: 'PATCH', path: '/people/{id}', fields: [inPath, targetField('name')] },
  {
    id: 'note',
    label: 'Note',
    method: 'PUT',
    path: '/people/{id}/notes/{slot}-{name}.txt',
    fields: [
      inPath,
      targetField('slot', { in: 'path', pointer: 'slot', required: true }),
      targetField('name', { in: 'path', pointer: 'name', required: true }),
      targetField('text'),
    ],
  },
];
const target = { id: 't', name: 'Roster', baseUrl: 'https://roster.example.org/v1', operations };

const from = (to: string, field: string): Line => ({ ...newLine(`l-${to}`, to), source: { from: 'field', field } });
const calls = (keys: { email: string; name: string; slot: string }): Call[] => [
  {
    id: 'person',
    targetId: 't',
    operationId: 'create',
    lines: [from('email', keys.email), from('name', keys.name), from('X-Source', keys.slot), from('tag', keys.name)],
    find: {
      operationId: 'find',
      line: from('email', keys.email),
      list: '/people',
      equals: '/email',
      whenNone: 'create',
      whenSeveral: 'hold',
      update: { operationId: 'update', to: 'id', from: '/id' },
    },
  },
  {
    id: 'note',
    targetId: 't',
    operationId: 'note',
    lines: [from('id', '@answer/person/id'), from('slot', keys.slot), from('name', keys.name), from('text', keys.name)],
  },
];

/** Every request that a delivery makes, against a target that knows the person or does not. */
function requestsOf(submission: Submission, keys: Parameters<typeof calls>[0], isKnown: boolean): Ask[] {
  const stages = compileStages(calls(keys), [target]);
  if (stages instanceof Problem) throw stages;
  const asks: Ask[] = [];
  const conversation = perform(stages as Stage[], submission, { timeZone: 'UTC' });
  let next = conversation.next();
  while (!next.done) {
    asks.push(next.value);
    const email = new URL(next.value.request.url).searchParams.get('email');
    const answer: Json =
      next.value.purpose === 'find' ? { people: isKnown ? [{ id: 'P-1', email, name: 'before' }] : [] } : { id: 'P-1' };
    next = conversation.next({ answer });
  }
  return asks;
}

const path = /^\/v1\/people(?:\/P-1(?:\/notes\/[^/?#]+-[^/?#]+\.txt)?)?$/;

/** What a request may be, whatever was answered. */
function holdsToItsRoute({ method, url, headers, body }: RequestPlan): void {
  const { origin, pathname, searchParams, hash, username } = new URL(url);
  expect([origin, hash, username]).toEqual(['https://roster.example.org', '', '']);
  // An address as a server reads it is the one that was made: nothing in it moves to another place.
  expect(new URL(url).href.startsWith('https://roster.example.org/v1/people')).toBe(true);
  expect(pathname).toMatch(path);
  expect(['GET /v1/people', 'POST /v1/people', 'PATCH /v1/people/P-1']).toContain(
    pathname.includes('/notes/') ? 'GET /v1/people' : `${method} ${pathname}`,
  );
  expect([...searchParams.keys()].every(name => name === 'email' || name === 'tag')).toBe(true);
  expect(
    headers.map(([name]) => name.toLowerCase()).every(name => ['content-type', 'accept', 'x-source'].includes(name)),
  ).toBe(true);
  expect(headers.every(([, value]) => !/[\r\n]/.test(value))).toBe(true);
  const members = body === null || typeof body !== 'object' ? [] : Object.keys(body);
  expect(
    members.every(name => ['email', 'name', 'person', 'text', 'id', 'slot', 'tag', 'X-Source'].includes(name)),
  ).toBe(true);
}

const hostileName = fc.oneof(
  fc.constantFrom(
    '@found',
    '@found/id',
    '@answer/person/id',
    '@answer/person',
    '@item',
    '@item/name',
    '@itemNumber',
    '@id',
    '@form',
    '@meta/email',
    '__proto__',
    'constructor',
    'toString',
    'id',
    'https://evil.example.org',
    '../../admin',
    '',
  ),
  fc.string({ maxLength: 12 }),
);
const hostileValue: fc.Arbitrary<unknown> = fc.oneof(
  fc.constantFrom(
    '..',
    '.',
    '%2e%2e',
    '%252e%252e',
    '../admin',
    '..%2fadmin',
    '..\\admin',
    '/etc',
    '//evil.example.org',
    '?x=1',
    '#',
    'a\r\nX-Evil: 1',
    'a\nb',
    '@evil.example.org',
    'https://evil.example.org/',
    '‹id of 1›',
    'https://copy.invalid/0/x/-',
    'ü',
    '日本',
    '\u0000',
    '\ud800',
    'VICTIM',
  ),
  fc.string({ maxLength: 20 }),
  fc.constantFrom<unknown>(['a', '..'], { id: 'VICTIM' }, 7, true, null, []),
);

describe('whatever a form is answered with', () => {
  test('method, host, path, names of the query and headers depend on the route alone', () => {
    let made = 0;
    fc.assert(
      fc.property(
        fc.dictionary(hostileName, hostileValue, { maxKeys: 6 }),
        hostileValue,
        hostileValue,
        hostileValue,
        fc.boolean(),
        (more, email, name, slot, isKnown) => {
          const [submission] = read({ ...more, email, name, slot, site: 'AB-07' });
          if (!submission) return;
          const asks = requestsOf(submission, { email: 'email', name: 'name', slot: 'slot' }, isKnown);
          made += asks.length;
          for (const { request } of asks) holdsToItsRoute(request);
        },
      ),
      { numRuns: 500 },
    );
    expect(made).toBeGreaterThan(100);
  });

  // A person who is looked up is found at the target and nowhere else.
  test.each(['@found/id', '@found', '@answer/person/id', '@item', '@id', '@meta/x'])(
    'a question called %s changes no other record',
    key => {
      const [submission] = read({ email: 'wen@example.org', name: 'Wen', slot: 'a', [key]: 'VICTIM' });
      const asks = requestsOf(submission!, { email: 'email', name: 'name', slot: 'slot' }, true);
      expect(asks.map(({ request }) => `${request.method} ${new URL(request.url).pathname}`)).toEqual([
        'GET /v1/people',
        'PATCH /v1/people/P-1',
        'PUT /v1/people/P-1/notes/a-Wen.txt',
      ]);
      expect(JSON.stringify(asks)).not.toContain('VICTIM');
    },
  );

  test('a sample that was made by hand cannot do it either', () => {
    const [submission] = read({ email: 'wen@example.org', name: 'Wen', slot: 'a' });
    const forged = {
      ...submission!,
      fields: [
        ...submission!.fields,
        { key: '@found/id', label: 'x', kind: 'text' as const, value: 'VICTIM', pointer: '' },
      ],
    };
    const asks = requestsOf(forged, { email: 'email', name: 'name', slot: 'slot' }, true);
    expect(asks.map(({ request }) => request.url).join()).not.toContain('VICTIM');
  });
});

test('a question whose name is reserved is still there to be used', () => {
  const [submission] = read({ '@id': 'x', '@type': 'report', '@item': 'net', site: 'AB-07', signs: 'Foam' });
  const keys = submission!.fields.map(field => field.key);
  expect(keys.map(key => referenceOf(key).to)).toEqual(keys.map(() => 'question'));
  expect(keys).toEqual(expect.arrayContaining(['question @item', '@type', 'site']));
  expect(referredTo(scopeOf(submission!), 'question @item')).toBe('net');
  expect(referredTo(scopeOf(submission!), '@type')).toBe('report');
  expect(referredTo(scopeOf(submission!), '@item')).toBeUndefined();
});

test.each<[string, string | null]>([
  ['P-7', null],
  ['..', 'address.moves'],
  ['.', 'address.moves'],
  ['%2e%2E', 'address.moves'],
  ['%252e%252e', 'address.moves'],
  ['a/../../b', 'address.moves'],
  ['..\\b', 'address.moves'],
  ['', 'line.blank'],
  ['a..b', null],
  ['...', null],
])('an identifier %j in the path gives %s', (id, code) => {
  const stages = compileStages(
    [{ id: 'c', targetId: 't', operationId: 'update', lines: [from('id', 'id'), from('name', 'name')] }],
    [target],
  );
  const [submission] = read({ id: 'S', answers: { id, name: 'Wen', site: 'AB-07', ph: '7' } });
  const { plan } = (stages as Stage[])[0]!.main;
  const { sendable, outcomes } = plan(
    scopeOf({
      ...submission!,
      fields: [
        ...submission!.fields.filter(f => f.key !== 'id'),
        ...(id ? [{ key: 'id', label: 'id', kind: 'text' as const, value: id, pointer: '' }] : []),
      ],
    }),
  );
  expect(sendable).toBe(code === null);
  expect(outcomes.find(each => each.stops)?.problem?.code ?? null).toBe(code);
});
