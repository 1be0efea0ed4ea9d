import path from 'node:path';
import { emptySchema, mergeSchema, weeklyFill } from '@grammata/core/schema';
import type { Field, Submission } from '@grammata/core/submission';
import { sql } from 'drizzle-orm';
import { openDatabase, storeOn, type ArrivalRow, type Store } from '.';
import { newArrival } from '../intake/arrival';

const migrations = path.resolve(__dirname, '../../migrations');
const MONDAY = Date.parse('2026-11-02');
const DAY = 86_400_000;
import { readSubmission } from '../decoding';
import { directCommands, directLedger } from '../ledger';

let database: ReturnType<typeof openDatabase>;
let store: Store;
let arrive: (at: number) => ArrivalRow;
let commands: ReturnType<typeof directCommands>;

beforeEach(() => {
  database = openDatabase(':memory:', migrations);
  store = storeOn(database.db);
  commands = directCommands(database);
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
      state: 'reading',
    });
    commands.takeIn([row]);
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
/** Stores what an arrival was read as. */
const read = ({ id }: { id: string }, submissions: Submission[]) =>
  commands.read([
    {
      arrivalId: id,
      revision: 0,
      isAgain: false,
      from: 0,
      submissions: submissions.map(each => readSubmission(each, undefined)),
      end: { state: 'read', trouble: null, isSure: true, way: null },
    },
  ]);
const formId = () => store.forms.heads()[0]!.form.id;

/** What all of them tell, made afresh. */
const afresh = (told: { receivedAt: number; submission: Submission }[]) => ({
  schema: mergeSchema(emptySchema, told),
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
      read(arrive(receivedAt), submissions);
      told.push(...submissions.map(submission => ({ receivedAt, submission })));
      if (n % 10 === 0) expect(known()).toEqual(afresh(told));
    }
    expect(known()).toEqual(afresh(told));
  },
);

test('what was sent again tells nothing anew', () => {
  for (let n = 0; n < 60; n++) read(arrive(MONDAY + n * DAY), [answered(n % 2)]);
  expect(known().schema.count).toBe(2);
});

test('made anew out of its submissions the form tells the same, and nothing is counted twice', async () => {
  const told = Array.from({ length: 50 }, (_, n) => ({ receivedAt: MONDAY + n * DAY, submission: answered(n) }));
  for (const { receivedAt, submission } of told) read(arrive(receivedAt), [submission]);
  await directLedger(commands).rebuild(formId());
  expect(known()).toEqual(afresh(told));
  read(arrive(MONDAY), [answered(200)]);
  expect(known().schema.count).toBe(51);
});

test('what retention takes before it was counted in is not counted, what was counted stays', () => {
  const arrivals = Array.from({ length: 45 }, (_, n) => arrive(MONDAY + n * DAY));
  arrivals.forEach((arrival, n) => read(arrival, [answered(n)]));
  expect(known().schema.count).toBe(45);
  for (const { id } of [arrivals[0]!, arrivals[44]!]) database.db.run(sql`DELETE FROM arrivals WHERE id = ${id}`);
  expect(known().schema.count).toBe(44);
});

test('a transaction that fails takes nothing in', () => {
  read(arrive(MONDAY), [answered(0)]);
  const many = Array.from({ length: 60 }, (_, n) => answered(n + 1));
  database.db.run(sql`CREATE TRIGGER full BEFORE INSERT ON form_weeks BEGIN SELECT raise(ABORT, 'no room'); END`);
  expect(() => read(arrive(MONDAY), many)).toThrow('no room');
  database.db.run(sql`DROP TRIGGER full`);
  expect(known().schema.count).toBe(1);
  expect(store.forms.heads()[0]!.submissions).toBe(1);
});
