import path from 'node:path';
import { emptySchema, mergeSchema, weeklyFill } from '@grammata/core/schema';
import type { Field, Submission } from '@grammata/core/submission';
import { sql } from 'drizzle-orm';
import { openDatabase, storeOn, type ArrivalRow, type Store } from '.';
import { newArrival } from '../intake/arrival';

const migrations = path.resolve(__dirname, '../../migrations');
const MONDAY = Date.parse('2026-11-02');
const DAY = 86_400_000;

let database: ReturnType<typeof openDatabase>;
let store: Store;
let arrive: (at: number) => ArrivalRow;
beforeEach(() => {
  database = openDatabase(':memory:', migrations);
  store = storeOn(database.db);
  const intake = store.intakes.create({ name: 'I' });
  let n = 0;
  arrive = receivedAt => {
    const row = newArrival(intake, {
      id: `a${String((n += 1)).padStart(4, '0')}`,
      receivedAt,
      method: 'POST',
      contentType: null,
      headers: [],
      body: Buffer.from('x'),
      state: 'read',
    });
    store.arrivals.record([row]);
    return row;
  };
});
afterEach(() => database.close());

const answered = (n: number): Submission => {
  const field = (key: string, kind: Field['kind'], value: Field['value']): Field => ({
    key,
    label: `Question ${key}`,
    kind,
    value,
    pointer: `/${key}`,
  });
  return {
    form: null,
    id: `s${n}`,
    submittedAt: null,
    meta: {},
    questions: [{ key: 'late', label: 'Asked, seldom answered', pointer: '/late' }],
    files: n % 7 === 0 ? [{ field: 'photo', name: `${n}.jpg`, type: null, size: 3, url: null }] : [],
    fields: [
      field('site', 'choice', `AB-${n % 5}`),
      field('note', 'text', `said ${n}`),
      ...(n % 3 === 0 ? [field('signs', 'choices', ['Foam', `sign ${n % 4}`])] : []),
      ...(n > 50 ? [field('since', 'number', n), field('__proto__', 'text', 'x')] : []),
    ],
  };
};
const reading = (submissions: Submission[]) => ({ state: 'read' as const, trouble: null, submissions });
const formId = () => store.forms.heads()[0]!.form.id;

/** What all of them tell, made afresh. */
const afresh = (told: { receivedAt: number; submission: Submission }[]) => ({
  schema: told.reduce((schema, { receivedAt, submission }) => mergeSchema(schema, submission, receivedAt), emptySchema),
  weeks: weeklyFill(told),
});
const known = () => ({ schema: store.forms.byId(formId())!.schema, weeks: store.forms.weeks(formId()) });

test.each([[1], [3], [39], [40], [41], [100]])(
  'after each of some arrivals of %d submissions the form tells what all of them tell',
  each => {
    const told: { receivedAt: number; submission: Submission }[] = [];
    for (let n = 0; told.length < 130; n++) {
      const receivedAt = MONDAY + n * DAY;
      const submissions = Array.from({ length: each }, (_, at) => answered(told.length + at));
      store.readings.store(arrive(receivedAt), reading(submissions));
      told.push(...submissions.map(submission => ({ receivedAt, submission })));
      if (n % 10 === 0) expect(known()).toEqual(afresh(told));
    }
    expect(known()).toEqual(afresh(told));
  },
);

test('what was sent again tells nothing anew', () => {
  for (let n = 0; n < 60; n++) store.readings.store(arrive(MONDAY + n * DAY), reading([answered(n % 2)]));
  expect(known().schema.count).toBe(2);
});

test('made anew out of its submissions the form tells the same, and nothing is counted twice', async () => {
  const told = Array.from({ length: 50 }, (_, n) => ({ receivedAt: MONDAY + n * DAY, submission: answered(n) }));
  for (const { receivedAt, submission } of told) store.readings.store(arrive(receivedAt), reading([submission]));
  await store.forms.rebuild(formId(), () => Promise.resolve());
  expect(known()).toEqual(afresh(told));
  store.readings.store(arrive(MONDAY), reading([answered(200)]));
  expect(known().schema.count).toBe(51);
});

test('what retention takes before it was counted in is not counted, what was counted stays', () => {
  const arrivals = Array.from({ length: 45 }, (_, n) => arrive(MONDAY + n * DAY));
  arrivals.forEach((arrival, n) => store.readings.store(arrival, reading([answered(n)])));
  expect(known().schema.count).toBe(45);
  for (const { id } of [arrivals[0]!, arrivals[44]!]) database.db.run(sql`DELETE FROM arrivals WHERE id = ${id}`);
  expect(known().schema.count).toBe(44);
});

test('a transaction that fails takes nothing in', () => {
  store.readings.store(arrive(MONDAY), reading([answered(0)]));
  const many = Array.from({ length: 60 }, (_, n) => answered(n + 1));
  expect(() =>
    store.readings.store(arrive(MONDAY), reading(many), () => {
      throw new Error('no room');
    }),
  ).toThrow('no room');
  expect(known().schema.count).toBe(1);
});
