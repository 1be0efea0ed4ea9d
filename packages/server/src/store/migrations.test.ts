import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { emptySchema, mergeSchema, weeklyFill } from '@grammata/core/schema';
import type { FieldKind, Json, Submission } from '@grammata/core/submission';
import type { Operation } from '@grammata/core/target';
import Libsql from 'libsql';
import { openDatabase, storeOn } from '.';
import { newArrival } from '../intake/arrival';
import { readSubmission } from '../decoding';
import { directCommands } from '../ledger';

const migrations = path.resolve(__dirname, '../../migrations');

/** The migrations up to one, in a folder of their own. */
function upTo(folder: string, count: number): string {
  const at = path.join(folder, 'before');
  cpSync(migrations, at, { recursive: true });
  const journal = path.join(at, 'meta/_journal.json');
  const { entries, ...rest } = JSON.parse(readFileSync(journal, 'utf8')) as { entries: unknown[] };
  writeFileSync(journal, JSON.stringify({ ...rest, entries: entries.slice(0, count) }));
  return at;
}

const answered = (n: number, site: string, note: string | null): Submission => ({
  form: null,
  id: `s${n}`,
  submittedAt: null,
  meta: {},
  questions: [
    { key: 'site', label: 'Site', pointer: '/site' },
    { key: 'note', label: 'Note', pointer: '/note' },
  ],
  fields: [
    { key: 'site', label: 'Site', kind: 'text', value: site, pointer: '/site' },
    ...(note === null ? [] : [{ key: 'note', label: 'Note', kind: 'text' as const, value: note, pointer: '/note' }]),
  ],
  files: n === 1 ? [{ field: 'photo', name: 'a.jpg', type: null, size: 3, url: null }] : [],
});

test('a database of the version before is carried over: summaries, weeks, and terms that last a day', () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'grammata-'));
  const file = path.join(folder, 'grammata.db');
  openDatabase(file, upTo(folder, 6)).close();
  const db = new Libsql(file);
  const draft = JSON.stringify({
    name: 'R',
    calls: [{ id: 'c', targetId: 't', operationId: 'o', lines: [] }],
    terms: { tries: 6, timeZone: 'UTC' },
    revision: 0,
    condition: { all: [] },
  });
  db.exec(
    `INSERT INTO intakes (id, name, slug, state, size_limit, reply, reply_text, created_at) VALUES ('i', 'I', 'slug', 'open', 1000, 'accepted', '', 1)`,
  );
  db.exec(`INSERT INTO forms (id, intake_id, key, name, schema) VALUES ('f', 'i', '', 'F', '{"count":0,"fields":[]}')`);
  // A Sunday and the Monday after it, in UTC: two weeks (ISO 8601).
  const times = [
    Date.parse('2026-11-01T23:00:00Z'),
    Date.parse('2026-11-02T01:00:00Z'),
    Date.parse('2026-11-02T02:00:00Z'),
  ];
  const all = [answered(0, 'AB-07', 'low'), answered(1, 'AB-02', null), answered(2, 'x'.repeat(50), 'clear')];
  const arrive = db.prepare(
    `INSERT INTO arrivals (id, intake_id, received_at, method, url, headers, size, body, cut, state) VALUES (?, 'i', ?, 'POST', '/in/slug', '[]', 1, x'00', 0, 'read')`,
  );
  const submit = db.prepare(
    `INSERT INTO submissions (id, arrival_id, form_id, position, received_at, data, repeat_of) VALUES (?, ?, 'f', 0, ?, ?, ?)`,
  );
  all.forEach((data, n) => {
    arrive.run(`a${n}`, times[n]);
    submit.run(`s${n}`, `a${n}`, times[n], JSON.stringify(data), null);
  });
  arrive.run('a3', times[2]);
  submit.run('s3', 'a3', times[2], JSON.stringify(all[0]), 's0');
  db.prepare(`INSERT INTO routes (id, form_id, state, draft, created_at) VALUES ('r', 'f', 'draft', ?, 1)`).run(draft);
  db.prepare(`INSERT INTO versions (id, route_id, number, definition, created_at) VALUES ('v', 'r', 1, ?, 1)`).run(
    draft,
  );
  db.close();

  const after = openDatabase(file, migrations);
  const store = storeOn(after.db);
  expect(
    store.arrivals.list({ limit: 10 }).map(each => [each.id, each.found, each.repeats, each.formId, each.about]),
  ).toEqual([
    ['a3', 1, 1, 'f', 'AB-07 · low'],
    ['a2', 1, 0, 'f', 'clear'],
    ['a1', 1, 0, 'f', 'AB-02'],
    ['a0', 1, 0, 'f', 'AB-07 · low'],
  ]);
  const [told] = after.db.all<{ data: string }>("SELECT data FROM submissions WHERE id = 's1'");
  expect(JSON.parse(told!.data)).toEqual({ ...all[1], meta: { 'arrival.time': new Date(times[1]!).toISOString() } });
  // The same as counting them afresh.
  expect(store.forms.weeks('f')).toEqual(
    weeklyFill(all.map((submission, n) => ({ receivedAt: times[n]!, submission }))),
  );
  expect(store.routes.byId('r')!.draft.terms).toEqual({ timeZone: 'UTC', hours: 24 });
  expect(store.routes.version('v')!.definition.terms).toEqual({ timeZone: 'UTC', hours: 24 });
  after.close();
  rmSync(folder, { recursive: true });
});

test('a database of the version before is carried over: definitions with their format, versions with what targets offered', () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'grammata-'));
  const file = path.join(folder, 'grammata.db');
  openDatabase(file, upTo(folder, 8)).close();
  const db = new Libsql(file);
  const operations = [{ id: 'create:samples', label: 'Samples', method: 'POST', path: '/samples', fields: [] }];
  const target = db.prepare(
    `INSERT INTO targets (id, name, base_url, discovery_path, operations, created_at) VALUES (?, ?, 'http://a', '/', ?, 1)`,
  );
  target.run('t', 'T', JSON.stringify(operations));
  target.run('u', 'U', '[]');
  const call = (id: string, targetId: string) => ({ id, targetId, operationId: 'create:samples', lines: [] });
  const definition = (revision: number) =>
    JSON.stringify({
      name: 'R',
      condition: { all: [] },
      calls: [call('c', 't'), call('d', 't'), call('e', 'gone')],
      terms: { hours: 3, timeZone: 'UTC' },
      revision,
    });
  db.exec(
    `INSERT INTO intakes (id, name, slug, state, size_limit, reply, reply_text, created_at) VALUES ('i', 'I', 'slug', 'open', 1000, 'accepted', '', 1)`,
  );
  db.exec(`INSERT INTO forms (id, intake_id, key, name, schema) VALUES ('f', 'i', '', 'F', '{"count":0,"fields":[]}')`);
  db.prepare(`INSERT INTO routes (id, form_id, state, draft, created_at) VALUES ('r', 'f', 'live', ?, 1)`).run(
    definition(7),
  );
  db.prepare(`INSERT INTO versions (id, route_id, number, definition, created_at) VALUES ('v', 'r', 1, ?, 1)`).run(
    definition(6),
  );
  db.close();

  const after = openDatabase(file, migrations);
  const store = storeOn(after.db);
  const route = store.routes.byId('r')!;
  const { draft, revision } = route;
  const version = store.routes.version('v')!;
  expect(revision).toBe(7);
  expect(draft).toEqual(version.definition);
  expect(version.formId).toBe('f');
  expect(draft).toEqual({
    format: 1,
    name: 'R',
    condition: { all: [] },
    calls: [call('c', 't'), call('d', 't'), call('e', 'gone')],
    terms: { hours: 3, timeZone: 'UTC' },
  });
  // The version pins what the target offered, under the hash that reading the same again would give.
  expect(version.pins).toEqual({ t: store.snapshots.keep(operations as Operation[]) });
  expect(store.snapshots.operations(version.pins.t)).toEqual(operations);
  expect(store.targets.byId('t')!.operations).toEqual(operations);
  expect(store.targets.byId('u')!.operations).toEqual([]);
  expect(store.routes.changesSince(version, route)).toEqual({ edited: false, targets: [] });
  after.close();
  rmSync(folder, { recursive: true });
});

test('a database of the version before is carried over: what was known of questions, a row each, with their times', () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'grammata-'));
  const file = path.join(folder, 'grammata.db');
  openDatabase(file, upTo(folder, 12)).close();
  const db = new Libsql(file);
  const times = ['2026-10-27T10:00:00Z', '2026-11-03T10:00:00Z', '2026-11-10T10:00:00Z'].map(each => Date.parse(each));
  const field = (key: string, kind: FieldKind, value: Json) => ({ key, label: key, kind, value, pointer: `/${key}` });
  const asked = (...fields: Submission['fields']): Submission => ({ ...answered(0, '', null), fields, questions: [] });
  const all = [
    asked(field('site', 'choice', 'AB-07'), field('signs', 'choices', ['Foam', 'Litter'])),
    asked(field('site', 'choice', 'AB-02'), field('note', 'text', 'low')),
    {
      ...asked(field('site', 'choice', 'AB-07'), field('signs', 'choices', ['Foam'])),
      files: answered(1, '', null).files,
    },
  ];
  const now = all.reduce(
    (schema, each, n) => mergeSchema(schema, [{ submission: each, receivedAt: times[n]! }]),
    emptySchema,
  );
  // As the version before wrote it: options with their counts alone, no times.
  const before = {
    ...now,
    fields: now.fields.map(({ firstAt: _first, lastAt: _last, options, ...known }) => ({
      ...known,
      options: Object.fromEntries(options.map(each => [each.value, each.times])),
    })),
  };
  db.exec(
    `INSERT INTO intakes (id, name, slug, state, size_limit, reply, reply_text, created_at) VALUES ('i', 'I', 'slug', 'open', 1000, 'accepted', '', 1)`,
  );
  const form = db.prepare(
    `INSERT INTO forms (id, intake_id, key, name, schema, last_at) VALUES (?, 'i', ?, 'F', ?, ?)`,
  );
  form.run('f', '', JSON.stringify(before), times[2]);
  // Retention has taken the submissions of this one; only its weeks and its schema are left.
  form.run('g', 'g', JSON.stringify({ ...before, fields: before.fields.slice(0, 1) }), times[2]);
  const week = db.prepare(`INSERT INTO form_weeks (form_id, monday, submissions, filled) VALUES (?, ?, ?, ?)`);
  const weeks = weeklyFill(all.map((submission, n) => ({ receivedAt: times[n]!, submission })));
  for (const { monday, submissions, filled } of weeks) week.run('f', monday, submissions, JSON.stringify(filled));
  week.run('g', '2026-10-26', 2, JSON.stringify({ site: 2 }));
  all.forEach((data, n) => {
    db.prepare(
      `INSERT INTO arrivals (id, intake_id, received_at, method, url, headers, size, body, cut, state) VALUES (?, 'i', ?, 'POST', '/in/slug', '[]', 1, x'00', 0, 'read')`,
    ).run(`a${n}`, times[n]);
    db.prepare(
      `INSERT INTO submissions (id, arrival_id, form_id, position, received_at, data) VALUES (?, ?, 'f', 0, ?, ?)`,
    ).run(`s${n}`, `a${n}`, times[n], JSON.stringify(data));
  });
  // What was read back had another name.
  const verdict = { field: 'site', verdict: 'same', sent: 'AB-07', stored: 'AB-07' };
  const answer = { note: 'it says "held": 1' };
  const done = (more: object) => ({ callId: 'c', item: '0', what: 'created', answer, note: null, ...more });
  const draft = JSON.stringify({
    format: 1,
    name: 'R',
    condition: { all: [] },
    calls: [],
    terms: { hours: 1, timeZone: 'UTC' },
  });
  const trial = { sampleId: 's0', asks: [], problems: [], done: [done({ held: [verdict] }), done({})] };
  db.prepare(
    `INSERT INTO routes (id, form_id, state, draft, revision, trial, created_at) VALUES ('r', 'f', 'draft', ?, 0, ?, 1)`,
  ).run(draft, JSON.stringify(trial));
  db.prepare(
    `INSERT INTO versions (id, route_id, number, definition, pins, created_at) VALUES ('v', 'r', 1, ?, '{}', 1)`,
  ).run(draft);
  db.exec(
    `INSERT INTO deliveries (id, route_id, version_id, submission_id, run, state, about, idempotency_key, attempts, created_at) VALUES ('d', 'r', 'v', 's0', 0, 'delivered', '', 'k', 1, 1)`,
  );
  const keep = db.prepare(`INSERT INTO calls_done (delivery_id, call_id, item, done) VALUES ('d', ?, '0', ?)`);
  keep.run('c', JSON.stringify(done({ held: [verdict] })));
  keep.run('e', JSON.stringify(done({ held: null })));
  keep.run('g', JSON.stringify(done({})));
  db.close();

  const after = openDatabase(file, migrations);
  const store = storeOn(after.db);
  expect(store.deliveries.doneOf('d')).toEqual([done({ compared: [verdict] }), done({ compared: null }), done({})]);
  expect(store.routes.byId('r')!.trial).toEqual({ ...trial, done: [done({ compared: [verdict] }), done({})] });
  expect(store.forms.byId('f')!.schema).toEqual(now);
  expect(store.forms.weeks('f')).toEqual(weeks);
  // What was said before is found like what is said from now on.
  for (const [search, places] of [
    ['ab-07', [2, 0]],
    ['LITTER', [0]],
    ['a.jpg', [2]],
    ['choices', []],
  ] as const)
    expect([search, store.forms.found('f', { search }, 9).map(each => each.id)]).toEqual([
      search,
      places.map(n => `s${n}`),
    ]);
  const [left] = store.forms.byId('g')!.schema.fields;
  expect(left).toMatchObject({ key: 'site', firstAt: Date.parse('2026-10-26'), lastAt: Date.parse('2026-10-26') });
  after.close();
  rmSync(folder, { recursive: true });
});

test('a database of the version before is carried over: bodies, words, what was seen, and the time for tries', () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'grammata-'));
  const file = path.join(folder, 'grammata.db');
  openDatabase(file, upTo(folder, 29)).close();
  const db = new Libsql(file);
  db.exec(
    `INSERT INTO intakes (id, name, slug, state, size_limit, reply, reply_text, created_at) VALUES ('i', 'I', 'slug', 'open', 1000, 'accepted', '', 1)`,
  );
  db.exec(`INSERT INTO forms (id, intake_id, key, name) VALUES ('f', 'i', '', 'F')`);
  const arrive = db.prepare(
    `INSERT INTO arrivals (id, intake_id, received_at, method, url, headers, size, body, cut, state, digest) VALUES (?, 'i', ?, ?, '/in/slug', '[]', ?, ?, 0, ?, ?)`,
  );
  const submit = db.prepare(
    `INSERT INTO submissions (id, arrival_id, form_id, position, received_at, builder_id, data, repeat_of) VALUES (?, ?, 'f', 0, ?, ?, ?, ?)`,
  );
  const words = db.prepare(`INSERT INTO submission_texts (submission_id, text) VALUES (?, ?)`);
  const all = [answered(0, 'Mill Race', 'low'), answered(1, 'AB-02', null)];
  all.forEach((data, n) => {
    arrive.run(`a${n}`, 1000 + n, 'POST', 3, Buffer.from(`b${n}`), 'read', `d${n}`);
    submit.run(`s${n}`, `a${n}`, 1000 + n, `s${n}`, JSON.stringify(data), null);
    words.run(
      `s${n}`,
      data.fields
        .map(each => each.value)
        .join('\n')
        .toLowerCase(),
    );
  });
  arrive.run('a2', 1002, 'FEED', 3, Buffer.from(''), 'read', 'd2');
  const entry = { ...answered(2, 'north gate', null), id: null };
  const { fields } = entry;
  submit.run('s2', 'a2', 1002, 'same:of-before', JSON.stringify(entry), null);
  arrive.run('a3', 1003, 'POST', 300_000, Buffer.from('large'), 'waiting', 'd3');
  const definition = JSON.stringify({
    name: 'R',
    calls: [],
    condition: { all: [] },
    terms: { hours: 2, timeZone: 'UTC' },
  });
  db.prepare(`INSERT INTO routes (id, form_id, state, draft, created_at) VALUES ('r', 'f', 'live', ?, 1)`).run(
    definition,
  );
  db.prepare(
    `INSERT INTO versions (id, route_id, number, form_id, definition, created_at) VALUES ('v', 'r', 1, 'f', ?, 1)`,
  ).run(definition);
  db.exec(
    `INSERT INTO deliveries (id, route_id, version_id, submission_id, run, state, about, idempotency_key, attempts, created_at, next_attempt_at, try_until)
     VALUES ('w', 'r', 'v', 's0', 1, 'waiting', '', 'k', 1, 1, 1000, 3601000), ('x', 'r', 'v', 's1', 1, 'delivered', '', 'l', 1, 1, NULL, NULL)`,
  );
  db.close();

  const after = openDatabase(file, migrations);
  const store = storeOn(after.db);
  const commands = directCommands(after);
  expect(['a0', 'a2', 'a3'].map(id => store.arrivals.bodyOf(id).toString())).toEqual(['b0', '', 'large']);
  expect(store.arrivals.byId('a3')).toMatchObject({ lane: 'slow', readingRevision: 0 });
  expect(store.forms.heads()[0]!.submissions).toBe(3);
  expect(store.forms.found('f', { search: 'mill rac' }, 9).map(each => each.id)).toEqual(['s0']);
  // An hour of two was left.
  expect([store.deliveries.byId('w')!.spent, store.deliveries.byId('x')!.spent]).toEqual([3_600_000, 0]);
  // What comes once more came before: with its identifier, and as an entry of a feed without one.
  const intake = store.intakes.byId('i')!;
  const end = { state: 'read' as const, trouble: null, isSure: true, way: null };
  const row = (method: string) =>
    newArrival(intake, { method, contentType: null, headers: [], body: Buffer.from('x'), state: 'reading' });
  const again = row('POST');
  commands.takeIn([again]);
  const submissions = [readSubmission(all[0]!, undefined), readSubmission(answered(9, 'AB-09', null), undefined)];
  commands.read([{ arrivalId: again.id, revision: 0, isAgain: false, from: 0, submissions, end }]);
  expect(store.arrivals.submissionsOf(again.id, 9).map(each => each.repeatOf)).toEqual(['s0', null]);
  const page = { revision: 0, end, isEmpty: false };
  const shown = readSubmission({ ...entry, fields }, { some: 'item' });
  expect(commands.takeInFeed({ ...page, arrival: row('FEED'), submissions: [shown] })).toBeNull();
  after.close();
  rmSync(folder, { recursive: true });
});

test('arrivals of one millisecond are paged without losing any', () => {
  const database = openDatabase(':memory:', migrations);
  const { db, close } = database;
  const store = storeOn(db);
  const intake = store.intakes.create({ name: 'I' });
  const { id: intakeId } = intake;
  const row = (n: number) =>
    newArrival(intake, {
      id: `x${String(n).padStart(3, '0')}`,
      receivedAt: 7,
      method: 'POST',
      contentType: null,
      headers: [],
      body: Buffer.from('x'),
      state: 'read',
    });
  directCommands(database).takeIn(Array.from({ length: 25 }, (_, n) => row(n)));
  const seen: string[] = [];
  for (let before: string | undefined; ; before = seen.at(-1)) {
    const page = store.arrivals.list({ intakeId, limit: 4, ...(before && { before }) });
    if (page.length === 0) break;
    seen.push(...page.map(each => each.id));
  }
  expect(seen).toEqual(Array.from({ length: 25 }, (_, n) => row(24 - n).id));
  close();
});

test('a schema has no room for names without end', () => {
  let schema = emptySchema;
  for (let n = 0; n < 30; n++)
    schema = mergeSchema(schema, [
      {
        receivedAt: n,
        submission: {
          form: null,
          id: null,
          submittedAt: null,
          meta: {},
          files: [],
          questions: Array.from({ length: 100 }, (_, at) => ({ key: `q${n}-${at}`, label: 'Q', pointer: '' })),
          fields: [{ key: 'k'.repeat(5000), label: 'x', kind: 'text', value: 'y', pointer: '' }],
        },
      },
    ]);
  expect(schema.count).toBe(30);
  expect(schema.fields.length).toBe(1000);
  expect(JSON.stringify(schema).length).toBeLessThan(300_000);
});
