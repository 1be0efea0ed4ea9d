import { isOfArrival, submissionIdOf } from './identity';
import type { Submission } from '@grammata/core/submission';
import type { ReadSubmission } from '../decoding/tasks';
import { newId } from '../ids';
import { FEED, UNNAMED_FORM, UPLOADED, type ArrivalRow } from '../store';
import type { ArrivalReading, QueuedDelivery, ReadingOutcome } from './commands';
import type { Desk } from './desk';
import { printsOf, type Print } from './prints';
import { enqueue, type Enqueued } from './queue';
import { listOf } from './statements';

/** Forms that are told apart at one intake; submissions of further ones share one. */
const MOST_FORMS = 500;
const moreForms = { key: 'more-forms', name: 'More forms than are told apart' };

/** What is known of an arrival whose reading is stored. */
interface KnownArrival extends Pick<
  ArrivalRow,
  'id' | 'intakeId' | 'method' | 'receivedAt' | 'digest' | 'state' | 'readingRevision'
> {
  intakeName: string;
  /** The revision of the pins that its intake has now. */
  revision: number;
  /** Seconds. */
  sameWithin: number;
}

interface StoredSubmission {
  id: string;
  arrivalId: string;
  formId: string;
  position: number;
  builderId: string | null;
  repeatOf: string | null;
  isPinned: number;
}

interface SeenRow {
  submissionId: string;
  at: number;
}

/** A submission as it is to be stored. */
interface Filed {
  id: string;
  arrivalId: string;
  formId: string;
  position: number;
  receivedAt: number;
  builderId: string | null;
  data: string;
  repeatOf: string | null;
}

/** What is read, by arrival and place. */
const placeOf = (arrivalId: string, position: number) => `${arrivalId} ${position}`;

/** Whether a reading holds: it was made with the pins of now, of an arrival that is waiting for it. */
const holds = ({ revision, isAgain }: ArrivalReading, arrival: KnownArrival): boolean =>
  revision === arrival.revision &&
  (isAgain
    ? (arrival.state === 'read' || arrival.state === 'unread') && arrival.readingRevision < revision
    : arrival.state === 'reading');

/** Everything that a batch of readings writes. */
class Batch {
  readonly added: Filed[] = [];
  readonly changed: Filed[] = [];
  readonly gone: string[] = [];
  readonly words: { submissionId: string; words: string }[] = [];
  readonly seen: { intakeId: string; print: string; submissionId: string; at: number }[] = [];
  /** New submissions that repeat no other, by form. */
  readonly grown = new Map<string, { ids: string[]; lastAt: number }>();
  readonly queued: Enqueued[] = [];
}

/** Stores what arrivals were read as. A reading that does not hold any more stores nothing. */
export function storeReadings(desk: Desk, readings: readonly ArrivalReading[]): ReadingOutcome[] {
  const { sql } = desk;
  const ids = listOf([...new Set(readings.map(each => each.arrivalId))]);
  const arrivals = new Map(
    sql
      .all<KnownArrival>(
        `SELECT a.id, a.intake_id AS intakeId, a.method, a.received_at AS receivedAt, a.digest, a.state,
           a.reading_revision AS readingRevision, i.name AS intakeName, i.reading_revision AS revision, i.same_within AS sameWithin
         FROM json_each(:ids) j JOIN arrivals a ON a.id = j.value JOIN intakes i ON i.id = a.intake_id`,
        { ids },
      )
      .map(row => [row.id, row]),
  );
  const ended = new Set<string>();
  const held = readings.filter(each => {
    const arrival = arrivals.get(each.arrivalId);
    if (!arrival || ended.has(arrival.id) || !holds(each, arrival)) return false;
    if (each.end) ended.add(arrival.id);
    return true;
  });
  const before = new Map(
    sql
      .all<StoredSubmission>(
        `SELECT s.id, s.arrival_id AS arrivalId, s.form_id AS formId, s.position, s.builder_id AS builderId,
           s.repeat_of AS repeatOf, s.kept OR s.name IS NOT NULL AS isPinned
         FROM json_each(:ids) j JOIN submissions s ON s.arrival_id = j.value`,
        { ids },
      )
      .map(row => [placeOf(row.arrivalId, row.position), row]),
  );
  const filer = new Filer(desk, arrivals, before);
  filer.lookUp(held);
  const batch = new Batch();
  const outcomes = new Map(held.map(each => [each, filer.file(each, batch)]));
  write(desk, batch, held);
  // Those that were read with pins of before are read with those of now.
  const stale = readings.filter(each => !each.isAgain && !outcomes.has(each)).map(each => each.arrivalId);
  if (stale.length > 0)
    sql.run(
      `UPDATE arrivals SET state = 'waiting' WHERE +state = 'reading' AND id IN (SELECT value FROM json_each(:ids))`,
      { ids: listOf(stale) },
    );
  const queued = new Map<string, QueuedDelivery[]>();
  for (const { id, routeId, arrivalId } of enqueue(sql, batch.queued))
    queued.set(arrivalId!, [...(queued.get(arrivalId!) ?? []), { id, routeId }]);
  return readings.map(each => {
    const filed = outcomes.get(each);
    return {
      arrivalId: each.arrivalId,
      isStored: filed !== undefined,
      formIds: [...(filed?.formIds ?? [])],
      stored: filed?.stored ?? 0,
      queued: queued.get(each.arrivalId) ?? [],
    };
  });
}

/** Decides what each submission is: new, known, or a repeat of another; of which form, and for which routes. */
class Filer {
  readonly #seen = new Map<string, SeenRow>();
  /** The arrivals of submissions whose identifier does not say it. */
  readonly #arrivalOf = new Map<string, string>();
  /** How many more forms are told apart at an intake. */
  readonly #room = new Map<string, number>();

  constructor(
    private readonly desk: Desk,
    private readonly arrivals: ReadonlyMap<string, KnownArrival>,
    private readonly before: Map<string, StoredSubmission>,
  ) {
    for (const { id, arrivalId } of before.values()) this.#arrivalOf.set(id, arrivalId);
  }

  /** Looks up all that was seen before of a batch, at once. */
  lookUp(readings: readonly ArrivalReading[]): void {
    const wanted = readings.flatMap(reading => {
      const arrival = this.arrivals.get(reading.arrivalId)!;
      return reading.submissions.flatMap((each, index) =>
        this.#prints(arrival, reading.from + index, each).map(({ print }) => [arrival.intakeId, print]),
      );
    });
    const rows = this.desk.sql.rows<SeenRow & { intakeId: string; print: string }>(
      `SELECT s.intake_id AS intakeId, s.print, s.submission_id AS submissionId, s.at FROM (`,
      wanted,
      `) JOIN seen s ON s.intake_id = column1 AND s.print = column2`,
    );
    for (const { intakeId, print, ...row } of rows) this.#seen.set(`${intakeId} ${print}`, row);
  }

  #prints(arrival: KnownArrival, position: number, submission: ReadSubmission): Print[] {
    return printsOf(arrival, position, submission, arrival.sameWithin > 0);
  }

  file(
    { arrivalId, from, submissions, isAgain, end }: ArrivalReading,
    batch: Batch,
  ): { formIds: Set<string>; stored: number } {
    const arrival = this.arrivals.get(arrivalId)!;
    const formIds = new Set<string>();
    let stored = 0;
    submissions.forEach((submission, index) => {
      const position = from + index;
      const old = this.before.get(placeOf(arrivalId, position));
      const formId = this.#formOf(arrival, submission);
      const id = old?.id ?? submissionIdOf(arrivalId, position);
      const prints = this.#prints(arrival, position, submission);
      const first = this.#firstOf(arrival, prints, id);
      if (first !== null && arrival.method === FEED && !old) return;
      this.#remember(arrival, prints, first ?? id, batch);
      stored += 1;
      formIds.add(formId);
      const filed: Filed = {
        id,
        arrivalId,
        formId,
        position,
        receivedAt: arrival.receivedAt,
        builderId: submission.id ?? (arrival.method === FEED ? `same:${submission.content}` : null),
        data: submission.data,
        repeatOf: first,
      };
      batch.words.push({ submissionId: id, words: submission.words });
      if (old) {
        batch.changed.push(filed);
        formIds.add(old.formId);
        return;
      }
      batch.added.push(filed);
      this.before.set(placeOf(arrivalId, position), { ...filed, isPinned: 0 });
      if (first !== null) return;
      const grown = batch.grown.get(formId) ?? { ids: [], lastAt: 0 };
      batch.grown.set(formId, {
        ids: [...grown.ids.splice(0), id],
        lastAt: Math.max(grown.lastAt, arrival.receivedAt),
      });
      // A file holds past submissions: they are samples to try things on. What is found by reading again is, too.
      if (isAgain || arrival.method === UPLOADED) return;
      this.#dispatch(filed, submission.about, batch);
    });
    if (end) this.#leave(arrivalId, from + submissions.length, batch, formIds);
    return { formIds, stored };
  }

  /** Submissions that an arrival was read as before and is not any more go, unless somebody keeps them. */
  #leave(arrivalId: string, count: number, batch: Batch, formIds: Set<string>): void {
    for (const old of this.before.values())
      if (old.arrivalId === arrivalId && old.position >= count && !old.isPinned) {
        batch.gone.push(old.id);
        formIds.add(old.formId);
      }
  }

  #dispatch({ id, arrivalId, formId, data }: Filed, about: string, batch: Batch): void {
    const routes = this.desk.running(formId);
    if (routes.length === 0) return;
    const submission = JSON.parse(data) as Submission;
    for (const route of routes)
      if (route.passes(submission))
        batch.queued.push({ arrivalId, routeId: route.id, versionId: route.versionId, submissionId: id, about });
  }

  /** The submission that came first, or null for one that is the first. */
  #firstOf({ id: arrivalId, intakeId, receivedAt, sameWithin }: KnownArrival, prints: Print[], own: string) {
    const isHere = (submissionId: string) =>
      isOfArrival(submissionId, arrivalId) || this.#arrivalOf.get(submissionId) === arrivalId;
    for (const { print, kind } of prints) {
      const seen = this.#seen.get(`${intakeId} ${print}`);
      if (!seen || seen.submissionId === own) continue;
      if (kind !== 'said' && isHere(seen.submissionId)) continue;
      if (kind === 'bytes' && Math.abs(seen.at - receivedAt) > sameWithin * 1000) continue;
      return seen.submissionId;
    }
    return null;
  }

  /** Keeps digests under the submission that came first. */
  #remember(
    { intakeId, receivedAt, sameWithin }: KnownArrival,
    prints: Print[],
    submissionId: string,
    batch: Batch,
  ): void {
    for (const { print, kind } of prints) {
      const key = `${intakeId} ${print}`;
      const known = this.#seen.get(key);
      const isOver = kind === 'bytes' && known !== undefined && known.at < receivedAt - sameWithin * 1000;
      if (known && !isOver) continue;
      this.#seen.set(key, { submissionId, at: receivedAt });
      batch.seen.push({ intakeId, print, submissionId, at: receivedAt });
    }
  }

  /** The form that a submission belongs to; it is made where it was not seen before. */
  #formOf(arrival: KnownArrival, { form }: ReadSubmission): string {
    const key = form?.key ?? UNNAMED_FORM;
    const forms = this.desk.formsOf(arrival.intakeId);
    const known = forms.get(key);
    if (known) return known.sameAs ?? known.id;
    const room = this.#room.get(arrival.intakeId) ?? MOST_FORMS - forms.size;
    const made = room > 0 ? { key, name: form?.name || key || arrival.intakeName } : moreForms;
    const shared = forms.get(made.key);
    if (shared) return shared.id;
    this.#room.set(arrival.intakeId, room - 1);
    const row = { id: newId(), key: made.key, sameAs: null };
    this.desk.sql.run(
      `INSERT INTO forms (id, intake_id, key, name, last_at, state) VALUES (:id, :intakeId, :key, :name, :lastAt, :state)`,
      {
        id: row.id,
        intakeId: arrival.intakeId,
        key: made.key,
        name: made.name,
        lastAt: arrival.receivedAt,
        // The first form of an intake is what the intake was opened for; any other has to be looked at.
        state: forms.size === 0 ? 'adopted' : 'new',
      },
    );
    forms.set(made.key, row);
    return row.id;
  }
}

/** Writes what was decided: a fixed number of statements. */
function write({ sql, questions }: Desk, batch: Batch, readings: readonly ArrivalReading[]): void {
  sql.rows(
    'INSERT INTO submissions (id, arrival_id, form_id, position, received_at, builder_id, data, repeat_of)',
    batch.added.map(each => [
      each.id,
      each.arrivalId,
      each.formId,
      each.position,
      each.receivedAt,
      each.builderId,
      each.data,
      each.repeatOf,
    ]),
  );
  sql.rows(
    `UPDATE submissions SET form_id = column2, builder_id = column3, data = column4, repeat_of = column5 FROM (`,
    batch.changed.map(each => [each.id, each.formId, each.builderId, each.data, each.repeatOf]),
    `) WHERE submissions.id = column1`,
  );
  if (batch.gone.length > 0)
    sql.run(
      `DELETE FROM submissions WHERE id IN (SELECT value FROM json_each(:ids))
       AND NOT EXISTS (SELECT 1 FROM deliveries WHERE submission_id = submissions.id)`,
      { ids: listOf(batch.gone) },
    );
  writeWords(sql, batch.words);
  sql.rows(
    'INSERT INTO seen (intake_id, print, submission_id, at)',
    batch.seen.map(each => [each.intakeId, each.print, each.submissionId, each.at]),
    'ON CONFLICT DO UPDATE SET submission_id = excluded.submission_id, at = excluded.at',
  );
  for (const [formId, { ids, lastAt }] of batch.grown) {
    sql.run('UPDATE forms SET last_at = max(coalesce(last_at, 0), :lastAt) WHERE id = :formId', { formId, lastAt });
    questions.learn(formId, ids);
  }
  summarize(sql, readings);
}

/** Keeps how readings ended, and in short what was read: lists show it without reading a submission. */
function summarize(sql: Desk['sql'], readings: readonly ArrivalReading[]): void {
  const ended = readings.filter(({ end, from }) => end !== null || from === 0);
  sql.rows(
    `UPDATE arrivals SET state = coalesce(column2, state), trouble = iif(column2 IS NULL, trouble, column3),
       unsure = iif(column2 IS NULL, unsure, column4), way = iif(column2 IS NULL, way, column5),
       reading_revision = iif(column2 IS NULL, reading_revision, column6),
       found = (SELECT count(*) FROM submissions WHERE arrival_id = arrivals.id),
       repeats = (SELECT count(*) FROM submissions WHERE arrival_id = arrivals.id AND repeat_of IS NOT NULL),
       form_id = (SELECT form_id FROM submissions WHERE arrival_id = arrivals.id ORDER BY position LIMIT 1),
       about = iif(column8 = 0, column7, about)
     FROM (`,
    ended.map(({ arrivalId, revision, from, submissions, end }) => [
      arrivalId,
      end?.state,
      end?.trouble,
      end !== null && !end.isSure,
      end?.way && JSON.stringify(end.way),
      revision,
      from === 0 ? submissions[0]?.about : null,
      from,
    ]),
    `) WHERE arrivals.id = column1`,
  );
}

/** Puts submissions into the full-text index, or their new words in the place of the old. */
function writeWords(sql: Desk['sql'], words: readonly { submissionId: string; words: string }[]): void {
  sql.rows(
    'INSERT INTO submission_numbers (submission_id)',
    words.map(each => [each.submissionId]),
    'ON CONFLICT DO NOTHING',
  );
  sql.rows(
    `INSERT OR REPLACE INTO submission_words (rowid, words)
     SELECT n.number, column2 FROM (`,
    words.map(each => [each.submissionId, each.words]),
    `) JOIN submission_numbers n ON n.submission_id = column1`,
  );
}
