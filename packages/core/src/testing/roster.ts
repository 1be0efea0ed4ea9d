import fc from 'fast-check';
import type { Condition } from '../condition';
import {
  compileStages,
  perform,
  type Ask,
  type Stage,
  type Ending,
  type CallTarget,
  type CallResult,
} from '../perform';
import { blankPolicies, newLine, problemPolicies, type Call, type Find, type Line, type Source } from '../route';
import { isBlank, type Json, type JsonObject, type Submission } from '../submission';
import type { Operation } from '../target';
import { Problem } from '../transform';
import { targetField } from './targetField';

// A register of people, how it behaves, and random routes to it: what is rehearsed is held against what is delivered.

const body = (key: string, more = {}) => targetField(key, { pointer: `/${key}`, ...more });
const record = [
  { pointer: '/id', label: 'id', type: 'text' as const },
  { pointer: '/email', label: 'email', type: 'text' as const },
];
const id = body('id', { in: 'path', pointer: 'id', required: true });
const fields = [body('email', { required: true }), body('name', { maxLength: 12 }), body('age', { type: 'number' })];
export const rosterOperations: Operation[] = [
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
export const roster: CallTarget = {
  id: 't',
  name: 'Roster',
  baseUrl: 'https://roster.example.org',
  operations: rosterOperations,
};

/** Who is in it before. */
export const people: JsonObject[] = [
  { id: 'p1', email: 'a@example.org', name: 'Aoife' },
  { id: 'p2', email: 'b@example.org' },
  { id: 'p3', email: 'b@example.org' },
];

/** The register as it is described: it finds who has the address, and gives each new record a number. */
export function described() {
  const stored = [...people];
  return ({ purpose, request }: Ask): CallResult => {
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
export function delivered(
  stages: readonly Stage[],
  submission: Submission,
  answers: (ask: Ask) => CallResult,
): { asks: Ask[]; ending: Ending } {
  const conversation = perform(stages, submission, { timeZone: 'UTC' });
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
/** Submissions of one form, some answers blank, some that the register does not take. */
export const submissions = fc
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
export const conditions = fc.constantFrom<Condition>(
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
export const routes = fc
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

export function stagesOf(calls: readonly Call[]): Stage[] {
  const compiled = compileStages(calls, [roster]);
  if (compiled instanceof Problem) throw new Error(compiled.message);
  return compiled;
}
