import { formChanges, type FormChange, type Message } from '@grammata/core/drift';
import { answerOf, type Json, type Submission } from '@grammata/core/submission';
import type { Logger } from 'pino';
import type { LiveHub } from '../live';
import type { BuiltRow, SeenChange, Store, SubmissionRow } from '../store';
import type { Timers } from '../timing';
import { Gathering } from './gathering';
import { trafficChange } from './traffic';

/** Newest submissions that are held against those before them, at most, and how many of those. */
const NEWEST = 60;
const BEFORE = 200;
/** Submissions with which something may have begun that are tried. */
const MOST_BEGINNINGS = 12;
/** Fewest submissions that say what a form was. */
const LEAST = 3;
/** Submissions whose times say how many are usual. */
const MOST_TIMES = 2000;
/** Submissions of a form up to which it is a new one. */
const FEW = 3;
/** What a single submission may show; anything else takes several. */
const atOnce = new Set<FormChange['change']>(['added', 'reworded', 'replaced', 'envelope', 'gone', 'single-to-list']);

export interface FormWatchParts {
  store: Pick<Store, 'changes' | 'forms'>;
  live: LiveHub;
  timers: Timers;
  log: Logger;
  /** False where changes are not looked for. */
  isOn: boolean;
}

/** Holds what arrives against what its form sent before. */
export class FormWatch {
  readonly #gathering: Gathering;
  /** The newest submission of each form that was looked at. */
  readonly #checked = new Map<string, Pick<BuiltRow, 'id' | 'receivedAt'>>();

  constructor(private readonly parts: FormWatchParts) {
    this.#gathering = new Gathering(parts.timers, 'looking for changes of forms', id => this.check(id));
  }

  /** Something came of these forms: they are looked at in a moment. */
  saw(formIds: Iterable<string>): void {
    if (this.parts.isOn) this.#gathering.add(formIds);
  }

  close(): void {
    this.#gathering.close();
  }

  /** Looks whether forms fell silent, or send far more than usual. */
  async traffic(at: number): Promise<void> {
    const { store, live, timers, isOn } = this.parts;
    if (!isOn) return;
    for (const { form } of store.forms.heads()) {
      const what = trafficChange(store.changes.times(form.id, MOST_TIMES), at);
      const seen = { subject: 'form' as const, subjectId: form.id, before: null, after: null, at };
      const fresh = what ? store.changes.keep([{ ...seen, what }]).length : 0;
      const over = what?.change === 'silent' ? 0 : this.#heardAgain(form.id);
      if (fresh + over > 0) live.publish({ type: 'drift' });
      await timers.turn();
    }
  }

  /** A silence that something came after is over. */
  #heardAgain(formId: string): number {
    const { changes } = this.parts.store;
    const [last = 0] = changes.times(formId, 1);
    const over = changes.openOf('form', formId).filter(each => each.what.change === 'silent' && each.firstAt < last);
    for (const each of over) changes.settle(each.id, 'settled', 'itself');
    return over.length;
  }

  /** The form that an address has had so far, where this is another one of which nobody has said anything; else null. */
  #besideAnother(formId: string): string | null {
    const { forms } = this.parts.store;
    const row = forms.byId(formId);
    if (row?.form.state !== 'new') return null;
    const [most] = forms
      .heads(row.form.intakeId)
      .filter(each => each.form.id !== formId && each.form.state === 'adopted')
      .sort((a, b) => b.submissions - a.submissions);
    return most && most.submissions >= LEAST ? most.form.name : null;
  }

  /**
   * Looks at one form now, unless that was done since a submission came: many that come at once are looked at once. Gives the
   * newest submission that was looked at.
   */
  checkFor({ id, formId, receivedAt }: Pick<SubmissionRow, 'id' | 'formId' | 'receivedAt'>): string {
    const known = this.#checked.get(formId);
    if (known && (receivedAt < known.receivedAt || (receivedAt === known.receivedAt && id <= known.id)))
      return known.id;
    this.check(formId);
    return this.#checked.get(formId)?.id ?? id;
  }

  /** Looks at one form; keeps what it finds. */
  check(formId: string): void {
    const { store, live, log, isOn } = this.parts;
    if (!isOn) return;
    const rows = store.changes.built(formId, BEFORE + NEWEST);
    if (rows[0]) this.#checked.set(formId, rows[0]);
    const seen = changesIn(rows).map(({ what, since }): SeenChange => ({
      subject: 'form',
      subjectId: formId,
      what,
      ...examplesOf(what, rows, since),
      at: since,
    }));
    const other = rows.length > 0 && rows.length <= FEW ? this.#besideAnother(formId) : null;
    if (other !== null)
      seen.push({
        subject: 'form',
        subjectId: formId,
        what: { change: 'another-form', question: null, was: other },
        before: null,
        after: null,
        at: rows.at(-1)!.receivedAt,
      });
    const fresh = store.changes.keep(seen);
    if (fresh.length === 0) return;
    log.info({ form: formId, changes: fresh.map(each => each.what.change) }, 'a form changed');
    live.publish({ type: 'drift' });
  }
}

/** What the newest submissions of a form show that those before them did not, and since when. */
export function changesIn(rows: readonly BuiltRow[]): { what: FormChange; since: number }[] {
  const messages = rows.map(messageOf);
  const found = new Map<string, { what: FormChange; since: number }>();
  for (const window of beginningsIn(rows)) {
    const before = messages.slice(window, window + BEFORE);
    if (before.length < LEAST) continue;
    const after = messages.slice(0, window);
    for (const what of formChanges(before.toReversed(), after.toReversed())) {
      if (window === 1 && !atOnce.has(what.change)) continue;
      const key = JSON.stringify([
        what.change,
        what.question,
        what.change.startsWith('option') ? [what.was, what.now] : null,
      ]);
      if (!found.has(key)) found.set(key, { what, since: sinceWhen(what, rows, window) });
    }
  }
  const all = [...found.values()];
  const replaced = all.filter(({ what }) => what.change === 'replaced').map(({ what }) => what);
  // What another question is now is not gone, and its successor not new, with whatever submission each was seen first.
  return all.filter(
    ({ what: { change, question } }) =>
      !replaced.some(each => (change === 'gone' ? each.was : change === 'added' ? each.now : null) === question),
  );
}

/** How many of the newest submissions have something that none before them had, or lack what all before them had: each may be a beginning. */
function beginningsIn(rows: readonly BuiltRow[]): number[] {
  const first = new Map<string, number>();
  const last = new Map<string, number>();
  rows.forEach((row, at) => {
    for (const mark of marksOf(row)) {
      if (!last.has(mark)) last.set(mark, at);
      first.set(mark, at);
    }
  });
  const began = [...first.values()].map(at => at + 1);
  // What ended ended before all that lack it.
  const all = [...began, ...last.values()].filter(each => each > 0 && each <= NEWEST && each < rows.length);
  return [...new Set(all)].sort((a, b) => a - b).slice(0, MOST_BEGINNINGS);
}

/** What tells one way of sending from another: the questions, their wording, what answers are, options, and how the message is built. */
function* marksOf({ data, way, contentType }: BuiltRow): Iterable<string> {
  yield `way ${contentType} ${way?.reader} ${way?.answersAt}`;
  for (const { key, label } of data.questions) yield `label ${key} ${label}`;
  for (const { key, kind, value } of data.fields) {
    yield `kind ${key} ${kind} ${Array.isArray(value)}`;
    for (const each of Array.isArray(value) ? value : [value])
      if (typeof each === 'string' && each.length <= 40 && (kind === 'choice' || kind === 'choices'))
        yield `is ${key} ${each}`;
  }
}

/** The oldest of the submissions that show it. */
const sinceWhen = ({ change, question, now: is }: FormChange, rows: readonly BuiltRow[], window: number): number => {
  const shows = ({ data }: BuiltRow) =>
    change === 'added'
      ? data.questions.some(each => each.key === question) || data.fields.some(each => each.key === question)
      : change === 'replaced'
        ? data.fields.some(each => each.key === is) || data.questions.some(each => each.key === is)
        : true;
  const shown = rows.slice(0, window).filter(shows);
  return (shown.at(-1) ?? rows[0]!).receivedAt;
};

const messageOf = ({ data, contentType, way }: BuiltRow): Message => ({
  submissions: [data],
  media: (contentType ?? '').split(';')[0]!.trim().toLowerCase().includes('json')
    ? 'json'
    : (contentType ?? 'none').split(';')[0]!,
  way,
});

/** An answer before and one after, to be looked at. */
function examplesOf(
  { question, change, now: is }: FormChange,
  rows: readonly BuiltRow[],
  since: number,
): { before: Json; after: Json } {
  // Of options the change says all.
  if (question === null || change.startsWith('option')) return { before: null, after: null };
  const later = change === 'replaced' ? String(is) : question;
  const first = (of: readonly BuiltRow[], key: string) =>
    of.map(each => shownOf(each.data, key)).find(each => each !== undefined) ?? null;
  return {
    before: first(
      rows.filter(each => each.receivedAt < since),
      question,
    ),
    after: first(
      rows.filter(each => each.receivedAt >= since),
      later,
    ),
  };
}

const shownOf = (data: Submission, key: string): Json | undefined => answerOf(data, key);
