import { formChanges, isTakenBack, shareOfLook, type FormChange, type Message } from '@grammata/core/drift';
import { answerOf, type Json, type Submission } from '@grammata/core/submission';
import type { BuiltRow } from '../store';

/** Newest submissions that are held against those before them, at most, and how many of those. */
export const NEWEST = 60;
export const BEFORE = 200;
/** Submissions with which something may have begun that are tried. */
const MOST_BEGINNINGS = 12;
/** Fewest submissions that say what a form was. */
export const LEAST = 3;
/** What a single submission may show; anything else takes several. */
const atOnce = new Set<FormChange['change']>(['added', 'reworded', 'replaced', 'envelope', 'gone', 'single-to-list']);

/** Changes that are told at once: with more of them it is another form, and nobody reads them all. */
const MOST_TOLD = 60;

/** A submission with how its message was built, read. */
type Built = Omit<BuiltRow, 'data'> & { data: Submission };

/** A change that submissions show, since when, and an answer before and after. */
export interface FormChangeSeen {
  what: FormChange;
  /** ms since the epoch. */
  since: number;
  before: Json;
  after: Json;
}

/** A change that is told already, since when (ms since the epoch). */
export interface ToldChange {
  id: string;
  what: FormChange;
  since: number;
}

/** What a look at a form found: what is new, and which of what was told the form does as before again, by identifier. */
export interface FormLook {
  changes: FormChangeSeen[];
  takenBack: string[];
}

/**
 * What the newest submissions of a form show that those before them did not.
 * @param rows the newest first
 * @param looks how many submissions the form has: each is a look at it, and the more there were the less may be chance
 */
export function lookAtForm(rows: readonly BuiltRow[], looks: number, told: readonly ToldChange[] = []): FormLook {
  const built = rows.map(row => ({ ...row, data: JSON.parse(row.data) as Submission }));
  const takenBack = told.filter(({ what, since }) => {
    const [before, after] = [
      built.filter(each => each.receivedAt < since),
      built.filter(each => each.receivedAt >= since),
    ];
    return isTakenBack(
      what,
      before.map(each => each.data),
      after.map(each => each.data),
    );
  });
  const changes = changesIn(built, shareOfLook(looks))
    .slice(0, MOST_TOLD)
    .map(({ what, since }) => ({ what, since, ...examplesOf(what, built, since) }));
  return { changes, takenBack: takenBack.map(each => each.id) };
}

/** What the newest submissions of a form show that those before them did not, and since when. */
function changesIn(rows: readonly Built[], share: number): { what: FormChange; since: number }[] {
  const messages = rows.map(messageOf);
  const found = new Map<string, { what: FormChange; since: number }>();
  for (const window of beginningsIn(rows)) {
    const before = messages.slice(window, window + BEFORE);
    if (before.length < LEAST) continue;
    const after = messages.slice(0, window);
    for (const what of formChanges(before.toReversed(), after.toReversed(), share)) {
      if (window === 1 && !atOnce.has(what.change) && !isStated(what, rows[0]!)) continue;
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

/** Whether a change is about options that the newest submission states itself. */
const isStated = ({ change, question }: FormChange, { data }: Built): boolean =>
  change.startsWith('option') && data.questions.some(each => each.key === question && each.options !== undefined);

/** How many of the newest submissions have something that none before them had, or lack what all before them had: each may be a beginning. */
function beginningsIn(rows: readonly Built[]): number[] {
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
function* marksOf({ data, way, contentType }: Built): Iterable<string> {
  yield `way ${contentType} ${way?.reader} ${way?.answersAt}`;
  for (const { key, label, options } of data.questions) {
    yield `label ${key} ${label}`;
    for (const each of options ?? []) yield `option ${key} ${each.label}`;
  }
  for (const { key, kind, value } of data.fields) {
    yield `kind ${key} ${kind} ${Array.isArray(value)}`;
    for (const each of Array.isArray(value) ? value : [value])
      if (typeof each === 'string' && each.length <= 40 && (kind === 'choice' || kind === 'choices'))
        yield `is ${key} ${each}`;
  }
}

/** The oldest of the submissions that show it. */
const sinceWhen = ({ change, question, now: is }: FormChange, rows: readonly Built[], window: number): number => {
  const shows = ({ data }: Built) =>
    change === 'added'
      ? data.questions.some(each => each.key === question) || data.fields.some(each => each.key === question)
      : change === 'replaced'
        ? data.fields.some(each => each.key === is) || data.questions.some(each => each.key === is)
        : true;
  const shown = rows.slice(0, window).filter(shows);
  return (shown.at(-1) ?? rows[0]!).receivedAt;
};

const messageOf = ({ data, contentType, way }: Built): Message => ({
  submissions: [data],
  media: (contentType ?? '').split(';')[0]!.trim().toLowerCase().includes('json')
    ? 'json'
    : (contentType ?? 'none').split(';')[0]!,
  way,
});

/** An answer before and one after, to be looked at. */
function examplesOf(
  { question, change, now: is }: FormChange,
  rows: readonly Built[],
  since: number,
): { before: Json; after: Json } {
  // Of options the change says all.
  if (question === null || change.startsWith('option')) return { before: null, after: null };
  const later = change === 'replaced' ? String(is) : question;
  const first = (of: readonly Built[], key: string) =>
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
