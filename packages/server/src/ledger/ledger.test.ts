import { readSubmission } from '../decoding';
import { newId } from '../ids';
import { newArrival } from '../intake/arrival';
import { FEED, UPLOADED } from '../store';
import { stored, submissionOf, type Stored } from '../testing/stored';
import { submissionIdOf, type ArrivalReading, type ClaimedArrival } from '.';

let kept: Stored;
beforeEach(() => (kept = stored()));
afterEach(() => kept.close());

const end: ArrivalReading['end'] = { state: 'read', trouble: null, isSure: true, way: null };
const everything = { lane: 'quick' as const, most: 1000, bytes: 1e9 };

/** Posts messages, each of its own bytes. */
function post(count: number): string[] {
  const intake = kept.store.intakes.byId(kept.intakeId)!;
  const rows = Array.from({ length: count }, () => {
    const id = newId();
    return newArrival(intake, { id, method: 'POST', contentType: null, headers: [], body: Buffer.from(id) });
  });
  kept.commands.takeIn(rows);
  return rows.map(each => each.id);
}

const readingOf = (
  { id, revision }: Pick<ClaimedArrival, 'id' | 'revision'>,
  submissions: ReturnType<typeof submissionOf>[],
  isAgain = false,
): ArrivalReading => ({
  arrivalId: id,
  revision,
  isAgain,
  from: 0,
  submissions: submissions.map(each => readSubmission(each, undefined)),
  end,
});

/** What was read with pins of before, without what the form began with. */
const outdated = () =>
  kept.commands.outdated({ intakeId: kept.intakeId, most: 99, after: null }).filter(each => each.method !== UPLOADED);

const stateOf = (id: string) => kept.store.arrivals.byId(id)!.state;
const deliveries = () => kept.store.deliveries.page({}, 0, 1000).rows;

describe('what arrives', () => {
  test('is kept with its body, an empty one too; what has no intake is not', () => {
    const intake = kept.store.intakes.byId(kept.intakeId)!;
    const row = (body: string, more = {}) =>
      newArrival(intake, {
        method: 'POST',
        contentType: null,
        headers: [['a', '"ü"']],
        body: Buffer.from(body),
        ...more,
      });
    const rows = [row('one'), row(''), row('lost', { intakeId: 'gone' }), row('\u0000\u00ff', { cut: true })];
    expect(kept.commands.takeIn(rows)).toEqual([true, true, false, true]);
    for (const [at, { body, ...rest }] of rows.entries()) {
      if (at === 2) continue;
      expect(kept.store.arrivals.byId(rest.id)).toEqual(rest);
      expect(kept.store.arrivals.bodyOf(rest.id).equals(body)).toBe(true);
    }
  });

  test('is taken up once, oldest first, as much as fits', () => {
    const ids = post(5);
    const claimed = kept.commands.claim({ ...everything, bytes: 50 });
    expect(claimed.map(each => [each.id, Buffer.from(each.body).toString()])).toEqual(
      ids.slice(0, 2).map(id => [id, id]),
    );
    expect(kept.commands.claim({ ...everything, bytes: 1 })).toHaveLength(1);
    expect(kept.commands.claim(everything).map(each => each.id)).toEqual(ids.slice(3));
    expect(kept.commands.claim(everything)).toEqual([]);
  });
});

describe('a submission', () => {
  test('has an identifier that follows from its arrival and its place, and so has what is sent of it', () => {
    kept.route();
    const [id] = post(1);
    const [claimed] = kept.commands.claim(everything);
    const two = [submissionOf({ site: 'AB-07' }), submissionOf({ site: 'AB-02' })];
    // As after a power cut that took back what was read: it is read again.
    const before = kept.commands.read([readingOf(claimed!, two)])[0]!;
    expect(kept.rows(before).map(each => each.id)).toEqual([submissionIdOf(id!, 0), submissionIdOf(id!, 1)]);
    const keys = deliveries().map(each => each.idempotencyKey);
    for (const table of ['deliveries', 'submissions', 'seen']) kept.db.run(`DELETE FROM ${table}`);
    kept.db.run(`UPDATE arrivals SET state = 'reading' WHERE id = '${id}'`);
    kept.commands.read([readingOf(claimed!, two)]);
    expect(deliveries().map(each => each.idempotencyKey)).toEqual(keys);
    expect(new Set(keys).size).toBe(2);
  });

  test('that comes again is a repeat, however many others have its identifier', () => {
    kept.route();
    const said = (n: number) => submissionOf({ site: `AB-${n}` }, 'the same for all');
    for (let n = 0; n < 60; n++) kept.read([said(n)]);
    expect(deliveries()).toHaveLength(60);
    for (const n of [0, 51, 59]) {
      const [row] = kept.rows(kept.read([said(n)]));
      expect(row!.repeatOf).not.toBeNull();
    }
    expect(deliveries()).toHaveLength(60);
  });

  test('is known again after its content is deleted', () => {
    kept.route();
    const again = () => kept.read([submissionOf({ site: 'AB-07' }, 'e1')]);
    again();
    const [delivery] = deliveries();
    kept.commands.lease({
      owner: 'o',
      wants: [{ routeIds: [delivery!.routeId], room: 9 }],
      most: 9,
      until: Date.now() + 9e4,
      routeIds: [],
    });
    const next = {
      state: 'delivered' as const,
      reason: null,
      attempts: 1,
      tries: 0,
      spent: 0,
      nextAttemptAt: null,
      finishedAt: 1,
    };
    expect(kept.commands.settle([{ id: delivery!.id, owner: 'o', attempt: null, done: [], next }])).toEqual([true]);
    const intakeId = kept.intakeId;
    kept.commands.removeBefore({ intakeId, time: Date.now() + 1000, most: 100 });
    expect(deliveries()).toEqual([]);
    const [row] = kept.rows(again());
    expect(row!.repeatOf).not.toBeNull();
    expect(deliveries()).toEqual([]);
  });
});

describe('pins that change', () => {
  const one = [submissionOf({ site: 'AB-07' }, 'e1')];

  test('while messages wait or are being read: each is read with those of now, and delivered once', () => {
    kept.route();
    const [waiting, reading] = [...post(2)].reverse();
    const [claimed] = kept.commands.claim({ ...everything, most: 1 });
    expect(claimed!.id).toBe(reading);
    const { readingRevision } = kept.store.intakes.setPins(kept.intakeId, { answers: '/x' })!;
    // Nothing of it was read yet: there is nothing to read anew.
    expect(outdated().map(each => each.id)).toEqual([]);
    const [late] = kept.commands.read([readingOf(claimed!, one)]);
    expect([late!.isStored, stateOf(reading!)]).toEqual([false, 'waiting']);
    const both = kept.commands.claim(everything);
    expect(both.map(each => [each.id, each.revision, each.pins])).toEqual(
      [reading, waiting].map(id => [id, readingRevision, { answers: '/x' }]),
    );
    kept.commands.read(both.map((each, at) => readingOf(each, [submissionOf({ site: 'AB-07' }, `e${at}`)])));
    expect(deliveries()).toHaveLength(2);
    expect(kept.store.arrivals.byId(waiting!)!.readingRevision).toBe(readingRevision);
  });

  test('read anew, a message counts once, whoever reads it, and what is found only then is a sample', () => {
    kept.route();
    const before = kept.read(one);
    kept.store.intakes.setPins(kept.intakeId, { answers: '/x' });
    const [stale] = outdated();
    const more = [...one, submissionOf({ site: 'AB-02' }, 'e2')];
    const twice = [readingOf(stale!, more, true), readingOf(stale!, one, true)];
    expect(kept.commands.read(twice).map(each => each.isStored)).toEqual([true, false]);
    expect(kept.rows(before).map(each => [each.id, each.builderId])).toEqual([
      [submissionIdOf(before.arrivalId, 0), 'e1'],
      [submissionIdOf(before.arrivalId, 1), 'e2'],
    ]);
    expect(deliveries()).toHaveLength(1);
    expect(outdated()).toEqual([]);
  });

  test('an identifier that vanishes makes nothing a repeat any more; one that appears does', () => {
    const [a, b] = [kept.read(one), kept.read(one)];
    expect(kept.rows(b)[0]!.repeatOf).toBe(kept.rows(a)[0]!.id);
    const rereadAs = (submissions: (n: number) => ReturnType<typeof submissionOf>) => {
      kept.store.intakes.setPins(kept.intakeId, {});
      const claimed = outdated();
      kept.commands.read(claimed.map((each, n) => readingOf(each, [submissions(n)], true)));
      return [a, b].map(each => kept.rows(each)[0]!.repeatOf);
    };
    const first = kept.rows(a)[0]!.id;
    expect(rereadAs(n => submissionOf({ site: `AB-0${n}` }))).toEqual([null, null]);
    expect(rereadAs(() => submissionOf({ site: 'AB-07' }, 'other'))).toEqual([null, first]);
    expect(kept.store.forms.heads().reduce((sum, each) => sum + each.submissions, 0)).toBe(2);
  });

  test('read anew, no more forms are told apart than when messages arrive', () => {
    const named = (key: string) => ({ ...submissionOf({ site: 'AB-07' }), form: { key, name: null } });
    const before = kept.read([named('first')]);
    kept.read(Array.from({ length: 600 }, (_, n) => named(`f${n}`)));
    const count = () => kept.store.forms.heads().length;
    expect(count()).toBeLessThanOrEqual(501);
    const was = count();
    kept.store.intakes.setPins(kept.intakeId, {});
    const [stale] = outdated();
    expect(stale!.id).toBe(before.arrivalId);
    kept.commands.read([readingOf(stale!, [named('another')], true)]);
    expect(count()).toBeLessThanOrEqual(was);
  });
});

describe('a feed', () => {
  const page = (entries: { id: string | null; says: string; raw?: string }[], revision = 0) => {
    const intake = kept.store.intakes.byId(kept.intakeId)!;
    const body = Buffer.from(JSON.stringify([entries, newId()]));
    return kept.commands.takeInFeed({
      arrival: newArrival(intake, { method: FEED, contentType: null, headers: [], body }),
      revision,
      submissions: entries.map(({ id, says, raw = says }) => readSubmission(submissionOf({ says }, id), { raw })),
      end: end!,
      isEmpty: entries.length === 0,
    });
  };

  test('that shows its entries again and again delivers each once, changed ones too', () => {
    kept.route();
    expect(
      page([
        { id: 'a', says: 'x' },
        { id: 'b', says: 'y' },
      ]),
    ).toMatchObject({ fresh: 2, stored: 2 });
    expect(
      page([
        { id: 'a', says: 'x' },
        { id: 'b', says: 'changed' },
      ]),
    ).toBeNull();
    expect(
      page([
        { id: 'a', says: 'x' },
        { id: 'c', says: 'z' },
      ]),
    ).toMatchObject({ fresh: 1, stored: 1 });
    expect(deliveries()).toHaveLength(3);
  });

  test('does not deliver again what was deleted since', () => {
    kept.route();
    const entries = [
      { id: 'a', says: 'x' },
      { id: null, says: 'without an identifier' },
    ];
    expect(page(entries)).toMatchObject({ fresh: 2 });
    kept.db.run(`DELETE FROM deliveries`);
    expect(
      kept.commands.removeBefore({ intakeId: kept.intakeId, time: Date.now() + 1000, most: 9 }).count,
    ).toBeGreaterThan(0);
    expect(page(entries)).toBeNull();
    expect(deliveries()).toEqual([]);
  });

  test('without identifiers delivers nothing again when it is read otherwise', () => {
    kept.route();
    expect(
      page([
        { id: null, says: 'x', raw: '1' },
        { id: null, says: 'y', raw: '2' },
      ]),
    ).toMatchObject({ fresh: 2 });
    const { readingRevision } = kept.store.intakes.setPins(kept.intakeId, { answers: '/x' })!;
    // What it says is another text now; the entries themselves are the same.
    expect(
      page(
        [
          { id: null, says: 'x!', raw: '1' },
          { id: 'now', says: 'y!', raw: '2' },
        ],
        readingRevision,
      ),
    ).toBeNull();
    // And where those differ too, what was recorded is read anew first.
    const [stale] = outdated();
    kept.commands.read([readingOf(stale!, [submissionOf({ says: 'x!' }), submissionOf({ says: 'y!' })], true)]);
    expect(
      page(
        [
          { id: null, says: 'x!', raw: '3' },
          { id: null, says: 'y!', raw: '4' },
        ],
        readingRevision,
      ),
    ).toBeNull();
    expect(deliveries()).toHaveLength(2);
  });

  test('read with pins that changed meanwhile waits to be read with those of now', () => {
    kept.store.intakes.setPins(kept.intakeId, { answers: '/x' });
    expect(page([{ id: 'a', says: 'x' }], 0)).toMatchObject({ isStored: false });
    expect(kept.commands.claim(everything)).toHaveLength(1);
  });
});

test('each command is all or nothing, and one that fails is no matter to the others of its turn', () => {
  const [id] = post(1);
  const [claimed] = kept.commands.claim(everything);
  const broken = { ...readingOf(claimed!, [submissionOf({ a: 1 })]), end: { ...end!, state: null as never } };
  kept.db.run(`CREATE TRIGGER no_words BEFORE INSERT ON submission_numbers BEGIN SELECT raise(ABORT, 'no'); END`);
  expect(() => kept.commands.read([broken])).toThrow('no');
  kept.db.run(`DROP TRIGGER no_words`);
  expect([stateOf(id!), kept.store.arrivals.submissionsOf(id!, 9), kept.store.forms.heads()[0]!.submissions]).toEqual([
    'reading',
    [],
    1,
  ]);
});
