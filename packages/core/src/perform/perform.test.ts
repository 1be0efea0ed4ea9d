import fc from 'fast-check';
import { newLine, type Call, type Find, type Line } from '../route';
import type { Json, Submission } from '../submission';
import { targetField } from '../testing';
import type { Operation } from '../target';
import { Problem } from '../transform';
import {
  compileStages,
  holdAgainst,
  isSame,
  numberOf,
  perform,
  proposeFinds,
  proposeReadBack,
  recordsIn,
  written,
  type Ask,
  type Stage,
  type Done,
  type CallResult,
} from '.';

const body = (key: string, more = {}) => targetField(key, { pointer: `/${key}`, ...more });
const record = ['id', 'email', 'name', 'tags'].map(key => ({ pointer: `/${key}`, label: key, type: 'text' as const }));
const contact = [body('email', { required: true }), body('name'), body('town'), body('tags', { type: 'choices' })];
const id = body('id', { in: 'path', pointer: 'id', required: true });
const operations: Operation[] = [
  {
    id: 'find',
    label: 'Find',
    method: 'GET',
    path: '/contacts',
    body: 'none',
    fields: [body('email', { in: 'query', pointer: 'email' })],
    answer: [{ pointer: '/contacts', label: '', type: 'json', items: record }],
  },
  { id: 'create', label: 'Create', method: 'POST', path: '/contacts', fields: contact, answer: record },
  { id: 'read', label: 'Read', method: 'GET', path: '/contacts/{id}', body: 'none', fields: [id], answer: record },
  {
    id: 'patch',
    label: 'Update',
    method: 'PATCH',
    path: '/contacts/{id}',
    fields: [id, ...contact, body('photo', { type: 'base64' })],
  },
  { id: 'put', label: 'Replace', method: 'PUT', path: '/contacts/{id}', fields: [id, ...contact] },
  {
    id: 'attach',
    label: 'Attach',
    method: 'POST',
    path: '/contacts/{id}/files',
    body: 'multipart',
    fields: [id, body('file', { type: 'file', required: true }), body('caption')],
  },
];
const target = { id: 't', name: 'Roster', baseUrl: 'https://roster.example.org', operations };

const line = (to: string, field: string, more: Partial<Line> = {}): Line => ({
  ...newLine(`l-${to}`, to),
  source: { from: 'field', field },
  ...more,
});
const find = (more: Partial<Find> = {}): Find => ({
  operationId: 'find',
  line: line('email', 'mail'),
  list: '/contacts',
  equals: '/email',
  whenNone: 'create',
  whenSeveral: 'hold',
  update: { operationId: 'patch', to: 'id', from: '/id' },
  ...more,
});
const call = (more: Partial<Call> = {}): Call => ({
  id: 'c1',
  targetId: 't',
  operationId: 'create',
  lines: [line('email', 'mail'), line('name', 'who'), line('town', 'place'), line('tags', 'likes')],
  ...more,
});
const attach = (more: Partial<Call> = {}): Call =>
  call({
    id: 'c2',
    operationId: 'attach',
    repeat: 'photos',
    lines: [
      line('id', '@answer/c1/id'),
      line('file', '@item'),
      line('caption', '@itemNumber', { whenProblem: 'leaveOut' }),
    ],
    ...more,
  });
const submission = (answers: Record<string, Json>, files: string[] = []): Submission => ({
  form: null,
  id: null,
  submittedAt: null,
  meta: {},
  questions: [],
  files: files.map(name => ({
    field: 'photos',
    name,
    type: 'image/jpeg',
    size: 9,
    url: `https://b.example.org/${name}`,
  })),
  fields: Object.entries(answers).map(([key, value]) => ({ key, label: key, kind: 'text', value, pointer: `/${key}` })),
});
const stages = (...calls: Call[]): Stage[] => {
  const compiled = compileStages(calls, [target]);
  if (compiled instanceof Problem) throw new Error(compiled.message);
  return compiled;
};

/** Has it all done, with these answers in turn; gives back what was asked. */
function run(calls: Stage[], of: Submission, answers: CallResult[], earlier: Done[] = []) {
  const conversation = perform(calls, of, { timeZone: 'UTC' }, earlier);
  const asked: Ask[] = [];
  let next = conversation.next();
  while (!next.done) {
    asked.push(next.value);
    next = conversation.next(answers[asked.length - 1] ?? { answer: {} });
  }
  return {
    asked,
    ending: next.value,
    lines: asked.map(each => `${each.request.method} ${new URL(each.request.url).pathname}`),
  };
}

const aoife = { mail: 'aoife@example.org', who: 'Aoife', place: 'Weir End', likes: ['walks', 'data'] };
const known = { id: '7', email: 'aoife@example.org', name: 'Aoife', tags: ['committee'] };
const found = (...contacts: Json[]): CallResult => ({ answer: { contacts } });

describe('find first', () => {
  test('none found: one is created', () => {
    const { lines, ending } = run(stages(call({ find: find() })), submission(aoife), [
      found(),
      { answer: { id: '8' } },
    ]);
    expect(lines).toEqual(['GET /contacts', 'POST /contacts']);
    expect(ending).toMatchObject({ done: [{ what: 'created', answer: { id: '8' } }] });
  });

  test('what the target finds that is not exactly what was looked for does not count', () => {
    const other = { ...known, email: 'not.aoife@example.org' };
    const { lines } = run(stages(call({ find: find() })), submission(aoife), [found(other)]);
    expect(lines).toEqual(['GET /contacts', 'POST /contacts']);
  });

  test('found: only what is different goes, and the changes are told', () => {
    const { asked, lines, ending } = run(stages(call({ find: find() })), submission(aoife), [found(known)]);
    expect(lines).toEqual(['GET /contacts', 'PATCH /contacts/7']);
    expect(asked[1]!.request.body).toEqual({ town: 'Weir End', tags: ['walks', 'data'] });
    expect(asked[1]!.changes).toEqual([
      { lineId: 'l-town', field: 'town', before: undefined, after: 'Weir End' },
      { lineId: 'l-tags', field: 'tags', before: ['committee'], after: ['walks', 'data'] },
    ]);
    expect(ending).toMatchObject({ done: [{ what: 'updated', answer: known }] });
  });

  // PUT replaces the whole (RFC 9110 §9.3.4), PATCH changes what it names (RFC 5789 §2).
  test('an operation that replaces the whole gets the rest as it was', () => {
    const update = { operationId: 'put', to: 'id', from: '/id' };
    const { asked } = run(stages(call({ find: find({ update }) })), submission({ mail: known.email, who: 'A' }), [
      found(known),
    ]);
    expect(asked[1]!.request).toMatchObject({
      method: 'PUT',
      body: { email: known.email, name: 'A', tags: ['committee'] },
    });
  });

  test('nothing to change: no request', () => {
    const all = submission({ mail: known.email, who: 'Aoife', likes: ['committee'] });
    const { lines, ending } = run(stages(call({ find: find() })), all, [found(known)]);
    expect(lines).toEqual(['GET /contacts']);
    expect(ending).toMatchObject({ done: [{ what: 'unchanged', note: 'It has all of it already.' }] });
  });

  test.each<[string, Partial<Find>, Json[], string[], object]>([
    ['none, left', { whenNone: 'leave' }, [], ['GET /contacts'], { done: [{ what: 'left' }] }],
    ['none, held', { whenNone: 'hold' }, [], ['GET /contacts'], { held: [{ code: 'find.none' }] }],
    ['several, held', {}, [known, { ...known, id: '9' }], ['GET /contacts'], { held: [{ code: 'find.several' }] }],
    [
      'several, the first',
      { whenSeveral: 'first' },
      [known, { ...known, id: '9' }],
      ['GET /contacts', 'PATCH /contacts/7'],
      { done: [{ what: 'updated', note: '2 records were found.' }] },
    ],
    [
      'several, every one',
      { whenSeveral: 'every' },
      [known, { ...known, id: '9' }],
      ['GET /contacts', 'PATCH /contacts/7', 'PATCH /contacts/9'],
      {},
    ],
    [
      'found, and not to be touched',
      { update: null },
      [known],
      ['GET /contacts'],
      { done: [{ what: 'unchanged', answer: known }] },
    ],
  ])('%s', (_, more, records, lines, ending) => {
    const result = run(stages(call({ find: find(more) })), submission(aoife), [found(...records)]);
    expect(result.lines).toEqual(lines);
    expect(result.ending).toMatchObject(ending);
  });

  test('nobody is looked up by nothing', () =>
    expect(run(stages(call({ find: find() })), submission({ who: 'Aoife' }), []).ending).toMatchObject({
      held: [{ code: 'find.blank' }],
    }));

  test.each<[Line['writes'], Json | undefined, Json, Json | undefined]>([
    [undefined, 'old', 'new', 'new'],
    ['always', undefined, 'new', 'new'],
    ['whereBlank', 'old', 'new', undefined],
    ['whereBlank', '', 'new', 'new'],
    ['onCreate', undefined, 'new', undefined],
    ['add', ['a'], ['a', 'b'], ['a', 'b']],
    ['add', ['a', 'b'], ['b'], undefined],
    ['add', undefined, ['b'], ['b']],
    ['add', ['a'], 'b', ['a', 'b']],
  ])('a line that writes %s over %j with %j', (writes, before, value, after) =>
    expect(written({ writes }, before, value)).toEqual(after),
  );

  test('whatever is on record, a second run finds nothing left to change', () => {
    const values = fc.record({
      name: fc.string({ minLength: 1 }),
      town: fc.option(fc.string(), { nil: undefined }),
      tags: fc.array(fc.constantFrom('a', 'b', 'c')),
    });
    const writes = fc.constantFrom<Line['writes']>('always', 'whereBlank', 'onCreate', 'add');
    fc.assert(
      fc.property(values, values, writes, (sent, stored, how) => {
        const lines = [
          line('email', 'mail'),
          ...['name', 'town', 'tags'].map(key =>
            line(key, key, { writes: key === 'tags' || how !== 'add' ? how : 'always' }),
          ),
        ];
        const all = stages(call({ lines, find: find() }));
        const of = submission({ mail: known.email, ...(JSON.parse(JSON.stringify(sent)) as Record<string, Json>) });
        const before = { ...known, ...(JSON.parse(JSON.stringify(stored)) as Record<string, Json>) };
        const [, update] = run(all, of, [found(before)]).asked;
        const after = { ...before, ...(update?.request.body as object) };
        expect(run(all, of, [found(after)]).lines).toEqual(['GET /contacts']);
      }),
    );
  });
});

test.each([
  ['stored already', 'R0lGODlh', []],
  ['not there yet', '', ['a.jpg']],
])('a file that is written only where there is none, %s', (_, photo, sent) => {
  const lines = [line('email', 'mail'), line('name', 'who'), line('photo', 'photos', { writes: 'whereBlank' })];
  const { asked } = run(stages(call({ find: find(), lines })), submission({ ...aoife, who: 'Aoife O' }, ['a.jpg']), [
    found({ ...known, photo }),
    { answer: {} },
  ]);
  const update = asked.find(each => each.purpose === 'update')!.request;
  expect(update.files.map(each => each.name)).toEqual(sent);
  expect(Object.keys(update.body as object)).toEqual(['name', ...(sent.length > 0 ? ['photo'] : [])]);
});

test('a lookup by an answer that turns out to be blank is held, and says why', () => {
  const looked = call({ id: 'c2', find: find({ line: line('email', '@answer/c1/email') }) });
  const { lines, ending } = run(stages(call(), looked), submission(aoife), [{ answer: { id: '5' } }]);
  expect(lines).toEqual(['POST /contacts']);
  expect(ending).toMatchObject({ held: [{ code: 'find.blank' }] });
});

describe('several calls', () => {
  test('a call uses the answer of one before it, once for each file', () => {
    const { asked, lines } = run(stages(call(), attach()), submission(aoife, ['a.jpg', '../b.jpg']), [
      { answer: { id: 'c/9' } },
    ]);
    expect(lines).toEqual(['POST /contacts', 'POST /contacts/c%2F9/files', 'POST /contacts/c%2F9/files']);
    expect(asked.map(each => numberOf(each.item))).toEqual([0, 1, 2]);
    expect(asked[2]!.request.files).toMatchObject([{ pointer: '/file', as: 'content', name: 'b.jpg' }]);
  });

  test('no files are never an error', () =>
    expect(run(stages(call(), attach()), submission(aoife), []).lines).toEqual(['POST /contacts']));

  test('rows of a table, those that the condition lets through', () => {
    const rows = call({
      id: 'c3',
      repeat: 'kits',
      condition: { all: [{ field: '@item/number', is: 'above', values: ['0'], not: false }] },
      lines: [line('email', 'mail'), line('name', '@item/kit')],
    });
    const of = submission({
      ...aoife,
      kits: [
        { kit: 'Net', number: 2 },
        { kit: 'Strips', number: 0 },
        { kit: 'Boots', number: 1 },
      ],
    });
    expect(run(stages(rows), of, []).asked.map(each => (each.request.body as { name: string }).name)).toEqual([
      'Net',
      'Boots',
    ]);
  });

  test('what was done before is not done again, and its answer is known', () => {
    const earlier: Done[] = [
      { callId: 'c1', item: '0', what: 'created', answer: { id: '5' }, note: null },
      { callId: 'c2', item: '1', what: 'created', answer: {}, note: null },
    ];
    const { lines } = run(stages(call(), attach()), submission(aoife, ['a.jpg', 'b.jpg']), [], earlier);
    expect(lines).toEqual(['POST /contacts/5/files']);
  });

  test('with another mapping an item is known by what it is, not by its place', () => {
    const photos = (...names: string[]) => submission(aoife, names);
    const first = run(stages(call(), attach()), photos('a.jpg', 'b.jpg', 'c.jpg'), [{ answer: { id: '5' } }]);
    const { done } = first.ending as { done: Done[] };
    const names = (asked: Ask[]) => asked.map(each => each.request.files[0]!.name);
    expect(names(first.asked.slice(1))).toEqual(['a.jpg', 'b.jpg', 'c.jpg']);
    // Only the last was not done; then the first two do not pass any more, and it is the first.
    const undone = done.filter(each => numberOf(each.item) !== 3);
    const fewer = attach({
      condition: { all: [{ field: '@item', is: 'contains', values: ['c.jpg'], not: false }] },
    });
    const again = (attached: ReturnType<typeof attach>, of: Submission) =>
      run(stages(call(), attached), of, [], undone).asked;
    expect(names(again(fewer, photos('a.jpg', 'b.jpg', 'c.jpg')))).toEqual(['c.jpg']);
    expect(names(again(attach(), photos('c.jpg', 'b.jpg')))).toEqual(['c.jpg']);
    // Two that are the same are two.
    expect(names(again(attach(), photos('a.jpg', 'a.jpg')))).toEqual(['a.jpg']);
  });

  test('a call that has another operation now was not done', () => {
    const { ending } = run(stages(call()), submission(aoife), [{ answer: { id: '5' } }]);
    const { done } = ending as { done: Done[] };
    const other = call({ operationId: 'patch', lines: [line('id', 'who'), line('email', 'mail')] });
    expect(run(stages(call()), submission(aoife), [], done).lines).toEqual([]);
    expect(run(stages(other), submission(aoife), [], done).lines).toEqual(['PATCH /contacts/Aoife']);
  });

  test('what would stop what is not done yet is seen before it goes on', () => {
    const earlier: Done[] = [{ callId: 'c1', item: '0', what: 'created', answer: { id: '5' }, note: null }];
    const late = call({ id: 'c3', lines: [line('email', 'nothing')] });
    const { lines, ending } = run(stages(call(), attach(), late), submission(aoife, ['a.jpg']), [], earlier);
    expect(lines).toEqual([]);
    expect(ending).toMatchObject({ held: [{ code: 'line.blank' }], done: earlier });
  });

  test('a call that fails and is passed over is noted; those that need its answer are held', () => {
    const over = call({ whenFailed: 'passOver' });
    const noted = run(stages(over, attach()), submission(aoife), [{ failed: 'It said no.' }]);
    expect(noted.ending).toMatchObject({ done: [{ callId: 'c1', what: 'failed', note: 'It said no.' }] });
    const needed = run(stages(over, attach()), submission(aoife, ['a.jpg']), [{ failed: 'It said no.' }]);
    expect(needed.ending).toMatchObject({ held: [{ code: 'line.blank' }] });
  });

  test('a later call that can’t be made is seen before the first is sent', () => {
    const late = call({ id: 'c2', lines: [line('email', 'nothing')] });
    expect(run(stages(call(), late), submission(aoife), [])).toMatchObject({
      lines: [],
      ending: { held: [{ code: 'line.blank' }] },
    });
  });

  test.each<[string, Call, string]>([
    ['a target', call({ targetId: 'gone' }), 'route.target'],
    ['an operation', call({ operationId: 'gone' }), 'route.operation'],
    ['an operation to find by', call({ find: find({ operationId: 'gone' }) }), 'route.operation'],
  ])('%s that is gone is said', (_, gone, code) => expect(compileStages([gone], [target])).toMatchObject({ code }));
});

test.each<[Json, number]>([
  [{ contacts: [known] }, 1],
  [{ contacts: [] }, 0],
  [{ contacts: known }, 1],
  [{ contacts: null }, 0],
  [{}, 0],
  ['<html>', 0],
  [{ contacts: ['x', 3, null] }, 0],
])('records in %j: %d', (answer, count) =>
  expect(recordsIn(answer, { list: '/contacts', equals: '/email' }, known.email)).toHaveLength(count),
);

test('ways to find and to read back are proposed from what the target offers', () => {
  expect(proposeFinds(call(), operations)).toMatchObject([
    {
      operationId: 'find',
      line: { to: 'email', source: { from: 'field', field: 'mail' } },
      list: '/contacts',
      equals: '/email',
      update: { operationId: 'patch', to: 'id', from: '/id' },
    },
  ]);
  expect(proposeReadBack(operations[1]!, operations)).toEqual({ operationId: 'read', to: 'id', from: '/id' });
  expect(proposeReadBack(operations[5]!, operations)).toBeNull();
});

describe('read-back', () => {
  const readBack = { operationId: 'read', to: 'id', from: '/id' };
  test('what was stored is fetched after a write, and held against what was sent', () => {
    const stored = { answer: { ...known, name: 'Ao' } };
    const { lines, ending } = run(stages(call({ readBack })), submission(aoife), [{ answer: { id: '8' } }, stored]);
    expect(lines).toEqual(['POST /contacts', 'GET /contacts/8']);
    expect((ending as { done: Done[] }).done[0]!.compared!.map(each => [each.field, each.verdict])).toEqual([
      ['email', 'same'],
      ['name', 'shortened'],
      ['town', 'lost'],
      ['tags', 'other'],
    ]);
  });
  test('a call is done before it is read back, so that a crash in between does not make it again', () => {
    const told: Done[] = [];
    const conversation = perform(stages(call({ readBack })), submission(aoife), { timeZone: 'UTC' }, [], each =>
      told.push(each),
    );
    conversation.next();
    const reading = conversation.next({ answer: { id: '8' } });
    expect([reading.value, told]).toMatchObject([{ purpose: 'readBack' }, [{ what: 'created', answer: { id: '8' } }]]);
    expect(run(stages(call({ readBack })), submission(aoife), [], told).lines).toEqual([]);
    const ending = conversation.next({ answer: known });
    expect(ending.value).toMatchObject({ done: [{ what: 'created', compared: expect.any(Array) }] });
    expect(told).toHaveLength(2);
  });
  test('it follows an update too, and its failing undoes nothing', () => {
    const { lines, ending } = run(stages(call({ readBack, find: find() })), submission(aoife), [
      found(known),
      { answer: null },
      { failed: 'It is busy.' },
    ]);
    expect(lines).toEqual(['GET /contacts', 'PATCH /contacts/7', 'GET /contacts/7']);
    expect(ending).toMatchObject({ done: [{ what: 'updated', compared: null }] });
  });
  test.each<[Json, Json, string]>([
    ['Weir End', 'Weir End', 'same'],
    ['Weir End', 'WEIR END', 'reformatted'],
    ['+44 20 7946 0142', '+442079460142', 'reformatted'],
    ['Bartholomew Featherstonehaugh', 'Bartholomew Feath', 'shortened'],
    ['Bartholomew Featherstonehaugh', 'Bartholomew…', 'shortened'],
    [['Foam', 'Litter'], ['Foam'], 'shortened'],
    [['Foam'], ['Oil'], 'other'],
    [7.46, 7.5, 'rounded'],
    [7.46, 7, 'rounded'],
    [7.46, 8, 'other'],
    [7, '7', 'reformatted'],
    ['Weir End', null, 'lost'],
    ['Weir End', 'Mill Lane', 'other'],
  ])('sent %j, stored %j: %s', (sent, stored, verdict) => {
    const request = { body: { f: sent }, files: [], origins: { '/f': 'l1' } } as unknown as Ask['request'];
    expect(holdAgainst(request, [body('f')], { f: stored })).toMatchObject([{ field: 'f', lineId: 'l1', verdict }]);
  });
  test('times are the same in any zone, choices in any order', () => {
    expect(isSame({ type: 'datetime' }, '2026-11-04T08:00:00+01:00', '2026-11-04T07:00:00Z')).toBe(true);
    expect(isSame({ type: 'choices' }, ['a', 'b'], ['b', 'a'])).toBe(true);
    expect(isSame({ type: 'json' }, { a: 1, b: [2] }, { b: [2], a: 1 })).toBe(true);
    expect(isSame({ type: 'text' }, 'a', 'A')).toBe(false);
  });
});
