import fc from 'fast-check';
import { compileCondition, type Condition } from '../condition';
import { compileSteps, foresee, likelyAnswers, perform, type Ask, type CompiledStep, type Told } from '../perform';
import { blankPolicies, newLine, problemPolicies, type Call, type Find, type Line, type Source } from '../route';
import { scopeOf } from '../scope';
import { isBlank, type Json, type JsonObject, type Submission } from '../submission';
import type { Operation } from '../target';
import { targetField } from '../testing';
import { Problem } from '../transform';
import { RunRehearser, type Sample } from '.';

// What the rehearsal says will happen is what the delivery does, against a target that behaves as it is described.

const body = (key: string, more = {}) => targetField(key, { pointer: `/${key}`, ...more });
const record = [
  { pointer: '/id', label: 'id', type: 'text' as const },
  { pointer: '/email', label: 'email', type: 'text' as const },
];
const id = body('id', { in: 'path', pointer: 'id', required: true });
const fields = [body('email', { required: true }), body('name', { maxLength: 12 }), body('age', { type: 'number' })];
const operations: Operation[] = [
  {
    id: 'find',
    label: 'Find',
    method: 'GET',
    path: '/people',
    body: 'none',
    fields: [body('email', { in: 'query', pointer: 'email' })],
    answer: [{ pointer: '/people', label: '', type: 'json', items: record }],
  },
  { id: 'create', label: 'Create', method: 'POST', path: '/people', fields, answer: record },
  { id: 'patch', label: 'Update', method: 'PATCH', path: '/people/{id}', fields: [id, ...fields.slice(1)] },
  {
    id: 'attach',
    label: 'Attach',
    method: 'POST',
    path: '/people/{id}/files',
    body: 'multipart',
    fields: [id, body('file', { type: 'file' }), body('caption')],
    answer: [],
  },
];
const target = { id: 't', name: 'Roster', baseUrl: 'https://roster.example.org', operations };
const operationOf = (key: string) => operations.find(each => each.id === key)!;

/** A target as it is described: it finds who has the address, and gives each new record a number. */
function described(people: JsonObject[]) {
  const stored = [...people];
  return ({ purpose, request }: Ask): Told => {
    if (purpose === 'find') {
      const email = new URL(request.url).searchParams.get('email');
      return { answer: { people: stored.filter(each => each.email === email) } };
    }
    if (request.method !== 'POST' || request.url.includes('/files')) return { answer: {} };
    const made = { ...(request.body as JsonObject), id: `n${stored.length}` };
    stored.push(made);
    return { answer: made };
  };
}

/** The whole conversation of a delivery, and how it ended. */
function delivered(steps: readonly CompiledStep[], submission: Submission, answers: (ask: Ask) => Told) {
  const conversation = perform(steps, submission, { timeZone: 'UTC' });
  const asks: Ask[] = [];
  let next = conversation.next();
  while (!next.done) {
    asks.push(next.value);
    next = conversation.next(answers(next.value));
  }
  return { asks, ending: next.value };
}

const questions = ['mail', 'who', 'age', 'tags', 'photos'];
const value = fc.constantFrom<Json>(
  '',
  'a@example.org',
  'b@example.org',
  'Aoife',
  'a name that is too long',
  '7',
  'none',
);
const submissions = fc
  .record({
    mail: value,
    who: value,
    age: value,
    tags: fc.array(fc.constantFrom('walks', 'data', 'walks'), { maxLength: 3 }),
    files: fc.array(fc.constantFrom('a.jpg', 'b.jpg', '../c.jpg'), { maxLength: 2 }),
  })
  .map(({ files, ...answers }): Submission => ({
    form: null,
    id: 's',
    submittedAt: null,
    meta: {},
    questions: questions.map(key => ({ key, label: key, pointer: `/${key}` })),
    fields: Object.entries(answers)
      .filter(([, each]) => !isBlank(each))
      .map(([key, each]) => ({
        key,
        label: key,
        kind: typeof each === 'string' ? 'text' : 'choices',
        value: each,
        pointer: `/${key}`,
      })),
    files: files.map(name => ({ field: 'photos', name, type: null, size: 3, url: `https://f.example.org/${name}` })),
  }));
const conditions = fc.constantFrom<Condition>(
  { all: [] },
  { any: [{ field: 'who', is: 'blank', values: [], not: true }] },
  { none: [{ field: 'mail', is: 'contains', values: ['b@'], not: false }] },
);
const sourceFrom = (keys: string[]) =>
  fc.oneof(
    fc.constant<Source | null>(null),
    fc.constantFrom(...keys).map((field): Source => ({ from: 'field', field })),
    fc.constant<Source>({ from: 'first', fields: keys.slice(0, 3) }),
    fc.constantFrom(...keys).map((field): Source => ({ from: 'text', segments: [{ text: 'x ' }, { field }] })),
  );
const lineTo = (to: string, keys: string[]): fc.Arbitrary<Line> =>
  fc
    .record({
      source: sourceFrom(keys),
      whenBlank: fc.constantFrom(...blankPolicies),
      whenProblem: fc.constantFrom(...problemPolicies),
      number: fc.boolean(),
    })
    .map(({ number, ...more }) => ({
      ...newLine(`l-${to}`, to),
      ...more,
      cleaning: number && to === 'age' ? [{ id: 'number.read', params: {} }] : [],
      fallback: to === 'age' ? 3 : 'x',
    }));
const finds = fc
  .record({
    line: lineTo('email', ['mail', 'who']),
    whenNone: fc.constantFrom<Find['whenNone']>('create', 'leave', 'hold'),
    whenSeveral: fc.constantFrom<Find['whenSeveral']>('first', 'every', 'hold'),
    updates: fc.boolean(),
  })
  .map(({ updates, ...more }): Find => ({
    operationId: 'find',
    list: '/people',
    equals: '/email',
    update: updates ? { operationId: 'patch', to: 'id', from: '/id' } : null,
    ...more,
  }));

/** Calls of random kinds, each with references that hold where it stands. */
const routes = fc
  .array(
    fc.record({
      attaches: fc.boolean(),
      repeat: fc.constantFrom<string | null>(null, 'photos', 'tags'),
      condition: fc.option(conditions),
      find: fc.option(finds),
      whenFailed: fc.constantFrom<'stop' | 'passOver'>('stop', 'passOver'),
      of: fc.nat(),
    }),
    { minLength: 1, maxLength: 3 },
  )
  .chain(kinds =>
    fc.tuple(
      ...kinds.map(({ attaches, find, repeat, of, ...more }, at): fc.Arbitrary<Call> => {
        const earlier = at === 0 ? [] : [`@answer/c${of % at}/id`, `@answer/c${of % at}/email`];
        const keys = ['mail', 'who', 'age', ...earlier, ...(repeat ? ['@item', '@itemNumber', '@item/name'] : [])];
        const isAttaching = attaches && at > 0;
        const to = isAttaching ? ['id', 'file', 'caption'] : ['email', 'name', 'age'];
        return fc
          .tuple(...to.map(each => lineTo(each, each === 'file' ? ['photos', '@item'].slice(0, repeat ? 2 : 1) : keys)))
          .map(lines => ({
            ...more,
            id: `c${at}`,
            targetId: 't',
            operationId: isAttaching ? 'attach' : 'create',
            lines,
            repeat,
            find: isAttaching ? null : find,
          }));
      }),
    ),
  );

const steps = (calls: readonly Call[]): CompiledStep[] => {
  const compiled = compileSteps(calls, [target]);
  if (compiled instanceof Problem) throw new Error(compiled.message);
  return compiled;
};
const known: JsonObject[] = [
  { id: 'p1', email: 'a@example.org', name: 'Aoife' },
  { id: 'p2', email: 'b@example.org' },
  { id: 'p3', email: 'b@example.org' },
];

test('whether a submission can be sent: the rehearsal over all samples says what delivery does', () => {
  let [sent, held] = [0, 0];
  fc.assert(
    fc.property(routes, conditions, fc.array(submissions, { minLength: 1, maxLength: 4 }), (calls, condition, all) => {
      const samples = all.map((submission, at): Sample => ({
        id: `s${at}`,
        receivedAt: '2026-11-04T08:00:00Z',
        submission,
      }));
      const summary = new RunRehearser(samples).rehearse({
        condition,
        calls: calls.map(call => ({
          call,
          operation: operationOf(call.operationId),
          ...(call.find && { finder: operationOf('find') }),
          baseUrl: target.baseUrl,
        })),
        context: { timeZone: 'UTC' },
      });
      all.forEach((submission, at) => {
        expect(summary.goes[at] === 1).toBe(compileCondition(condition)(scopeOf(submission)));
        if (summary.goes[at] !== 1) return;
        const { asks, ending } = delivered(steps(calls), submission, described(known));
        const isHeld =
          asks.length === 0 &&
          'held' in ending &&
          foresee(steps(calls), submission, { timeZone: 'UTC' }).problems.length > 0;
        expect(summary.sends[at] === 1).toBe(!isHeld);
        if (isHeld) held++;
        else sent++;
      });
    }),
    { numRuns: 400 },
  );
  // Both were seen often: it is no test of one of them.
  expect(Math.min(sent, held)).toBeGreaterThan(50);
});

test('the same requests, the same blanks: what was foreseen of a request is what is sent', () => {
  let compared = 0;
  fc.assert(
    fc.property(routes, submissions, (calls, submission) => {
      const compiled = steps(calls);
      const { requests, problems } = foresee(compiled, submission, { timeZone: 'UTC' });
      const { asks, ending } = delivered(compiled, submission, described(known));
      if (problems.length > 0) return expect([asks, ending]).toEqual([[], { held: problems, done: [] }]);
      for (const ask of asks.filter(each => each.purpose === 'find' || each.purpose === 'create')) {
        const step = compiled.find(each => each.call.id === ask.callId)!;
        if (step.waits) continue;
        const foreseen = requests.find(
          each => each.callId === ask.callId && each.item === ask.item && each.purpose === ask.purpose,
        )!;
        const lines = (ask.purpose === 'find' ? step.find!.call : step.main).lines.filter(each => !each.waits);
        const written = (request: Ask['request']) =>
          lines.flatMap(({ line, field }) =>
            field && !field.in
              ? [[line.to, (request.body as JsonObject)[field.key], request.origins[field.pointer]]]
              : [],
          );
        expect(written(ask.request)).toEqual(written(foreseen.planned.request));
        if (!(ask.purpose === 'find' ? step.find!.call : step.main).lines.some(each => each.waits)) {
          expect(ask.request).toEqual(foreseen.planned.request);
          compared++;
        }
      }
    }),
    { numRuns: 400 },
  );
  expect(compared).toBeGreaterThan(100);
});

test('a run that is not sent makes the requests of one that is, but for what answers alone tell', () => {
  fc.assert(
    fc.property(routes, submissions, (calls, submission) => {
      const compiled = steps(calls);
      const real = delivered(compiled, submission, described(known));
      const likely = likelyAnswers(compiled.map(({ call, main }) => ({ call, operation: main.operation })));
      const world = described(known);
      const dry = delivered(compiled, submission, ask =>
        ask.purpose === 'find' ? world(ask) : { answer: likely[ask.callId] ?? null },
      );
      const told = compiled.some(
        ({ main, find, waits }) => waits || find !== null || main.lines.some(each => each.waits),
      );
      const shape = ({ callId, item, purpose, request: { method } }: Ask) => [callId, item, purpose, method];
      if (!told) {
        expect(dry.asks.map(shape)).toEqual(real.asks.map(shape));
        expect(dry.asks.map(each => each.request)).toEqual(real.asks.map(each => each.request));
        expect('held' in dry.ending).toBe('held' in real.ending);
      } else expect(dry.asks[0] && shape(dry.asks[0])).toEqual(real.asks[0] && shape(real.asks[0]));
    }),
    { numRuns: 400 },
  );
});
