import { canonical, isBlank, isJsonObject, type Json } from '../submission';
import type { Comparison } from '../perform';
import { doubtIn } from '../response';
import { chanceOfOnlyHere, shareOfLook, unlikely } from './chance';

export const answerChangeKinds = ['credentials', 'scheme', 'refused', 'answer', 'stored'] as const;

/**
 * What the answers of a target tell of it. credentials: it does not know those any more that it knew. scheme: its document asks for
 * credentials of another kind. refused: it refuses for a reason that
 * it never gave before. answer: something that stood in all of its answers does not stand there any more, or is of another type. stored: what
 * it stores is not what it is sent any more.
 */
export interface AnswerChange {
  change: (typeof answerChangeKinds)[number];
  /** `POST /records`; null where it is about all of them. */
  operation: string | null;
  /** The field that it is about; of an answer, the place in it: a JSON Pointer (RFC 6901). */
  field?: string;
  was?: Json;
  now?: Json;
}

/** One answer of a target to a request. */
export interface Answered {
  /** ms since the epoch. */
  at: number;
  /** The delivery that it was asked for. */
  deliveryId: string;
  operation: string;
  outcome: 'delivered' | 'retry' | 'final';
  status: number | null;
  /** What was made of it, in words. */
  message: string;
  /** What it has against single values. */
  complaints: readonly { field: string; message: string }[];
  /** The answer; undefined where it is none that can be read. */
  answer: Json | undefined;
  /** What was sent against what it stored, where that was looked at. */
  compared: readonly Comparison[] | null;
}

/** A place of an answer (JSON Pointer) that a route takes something out of, or that the target only says is there. */
export interface AnswerPlace {
  place: string;
  isUsed: boolean;
}

/** An answer change, and when it was seen first. */
export interface AnswerChangeSeen {
  what: AnswerChange;
  since: number;
}

/** Fewest answers that say what is usual, and of which something else is a change. */
const USUAL = 5;
const LEAST = 2;
/** How unlikely it has to be that a place is missing by chance: where something is taken out of it, and elsewhere. */
const UNLIKELY = { used: 0.02, stated: 0.0005 };
/** Statuses by which credentials are refused (RFC 9110 §15.5.2, §15.5.4), and how many in a row tell that. */
const refusing = new Map([
  [401, 1],
  [403, LEAST],
]);

/**
 * What the newest answers of a target tell of it that those before did not.
 * @param answers the newest first
 * @param told places of answers that are looked at, by operation; left out for all of them, as if they were used
 */
export function answerChanges(
  answers: readonly Answered[],
  told?: ReadonlyMap<string, readonly AnswerPlace[]>,
): AnswerChangeSeen[] {
  const operations = [...new Set(answers.map(each => each.operation))];
  const own = operations.flatMap(operation => {
    const of = answers.filter(each => each.operation === operation);
    return [
      ...refusals(operation, of),
      ...stored(operation, of),
      ...shapes(operation, of, told && (told.get(operation) ?? [])),
    ];
  });
  return [...credentials(answers), ...own];
}

function credentials(answers: readonly Answered[]): AnswerChangeSeen[] {
  const run = runOf(answers, isRefusedAccess);
  const [newest] = answers;
  const fine = answers.slice(run.length).find(each => each.outcome === 'delivered');
  if (!fine || run.length < (refusing.get(newest!.status ?? 0) ?? Infinity)) return [];
  const was = new Date(fine.at).toISOString();
  return [{ what: { change: 'credentials', operation: null, was, now: newest!.status }, since: run.at(-1)!.at }];
}

/** The newest of them, as long as they all are so. */
function runOf(answers: readonly Answered[], is: (answer: Answered) => boolean): readonly Answered[] {
  const end = answers.findIndex(each => !is(each));
  return end < 0 ? answers : answers.slice(0, end);
}

/**
 * What is shown by several of the newest and by none before, where many before could have: more than chance shows in all the looks at it. The
 * looks are those at the answers that are given, of which there are so many at most.
 */
function begun(
  answers: readonly Answered[],
  shows: (answer: Answered) => boolean,
  couldShow: (answer: Answered) => boolean,
): Answered | null {
  const first = answers.findLastIndex(shows);
  const since = answers.slice(0, first + 1).filter(couldShow);
  const showing = since.filter(shows);
  const deliveries = new Set(showing.map(each => each.deliveryId)).size;
  const usual = answers.slice(first + 1).filter(each => each.outcome === 'delivered' && couldShow(each)).length;
  if (deliveries < LEAST || usual < USUAL) return null;
  const isChance = chanceOfOnlyHere(showing.length, since.length, usual) >= shareOfLook(since.length + usual);
  return isChance ? null : answers[first]!;
}

/** A complaint without what differs from one value to the next: quoted texts and numbers. */
export const reasonOf = (message: string): string =>
  message
    .replace(/“[^“”]*”|"[^"]*"|'[^']*'|‘[^‘’]*’|`[^`]*`/gu, '“…”')
    .replace(/\d+/gu, '#')
    .toLowerCase()
    .trim();

/** What one answer has against a request: of single values, or of all of it. */
const reasonsOf = (answer: Answered): { field: string; message: string }[] => {
  const { outcome, complaints, message } = answer;
  // What is delivered although the response may say no is told like a refusal.
  const doubt =
    outcome === 'delivered' && isJsonObject(answer.answer ?? null) ? doubtIn(JSON.stringify(answer.answer)) : null;
  if (doubt !== null) return [{ field: '', message: doubt }];
  if (outcome !== 'final' || isRefusedAccess(answer)) return [];
  return complaints.length > 0 ? [...complaints] : [{ field: '', message }];
};

/** A 403 that is final was about what was asked, not about who asked. */
const isRefusedAccess = ({ status, outcome }: Answered): boolean =>
  refusing.has(status ?? 0) && !(status === 403 && outcome === 'final');

const keyOf = ({ field, message }: { field: string; message: string }): string => `${field} ${reasonOf(message)}`;

function refusals(operation: string, answers: readonly Answered[]): AnswerChangeSeen[] {
  const reasons = new Map(answers.flatMap(reasonsOf).map(each => [keyOf(each), each]));
  return [...reasons].flatMap(([key, { field }]): AnswerChangeSeen[] => {
    const first = begun(
      answers,
      each => reasonsOf(each).some(reason => keyOf(reason) === key),
      () => true,
    );
    if (!first) return [];
    const { message } = reasonsOf(first).find(reason => keyOf(reason) === key)!;
    const what: AnswerChange = { change: 'refused', operation, ...(field !== '' && { field }), now: message };
    return [{ what, since: first.at }];
  });
}

/** What it writes otherwise it means all the same. */
const isLoss = ({ verdict }: Comparison): boolean => verdict !== 'same' && verdict !== 'reformatted';

/** ms within which what another delivery sent may have been written over what is read back. */
const OVERWRITTEN = 60_000;

function stored(operation: string, answers: readonly Answered[]): AnswerChangeSeen[] {
  const fields = new Set(answers.flatMap(each => (each.compared ?? []).filter(isLoss).map(({ field }) => field)));
  return [...fields].flatMap((field): AnswerChangeSeen[] => {
    const at = ({ compared }: Answered) => compared?.find(each => each.field === field);
    // Two that update one record at once: what is stored is the other's.
    const isOthers = (answer: Answered, kept: Json) =>
      answers.some(
        each =>
          each.deliveryId !== answer.deliveryId &&
          Math.abs(each.at - answer.at) < OVERWRITTEN &&
          canonical(at(each)?.sent ?? null) === canonical(kept),
      );
    const isLost = (answer: Answered): boolean => {
      const one = at(answer);
      return one !== undefined && isLoss(one) && (isBlank(one.stored) || !isOthers(answer, one.stored));
    };
    const first = begun(answers, isLost, each => at(each) !== undefined);
    if (!first) return [];
    const { sent, stored: kept } = at(first)!;
    return [{ what: { change: 'stored', operation, field, was: sent, now: kept }, since: first.at }];
  });
}

/** Deepest place of an answer that is looked at, and most members of one part. */
const DEEPEST = 4;
const MOST_MEMBERS = 60;

/** The types of what stands in an answer, by place; lists are not looked into, and what is blank has none. */
function typesIn(answer: Json, at = '', depth = 0): [place: string, type: string][] {
  const type = answer === null ? 'null' : Array.isArray(answer) ? 'list' : typeof answer;
  const inside =
    isJsonObject(answer) && depth < DEEPEST
      ? Object.entries(answer)
          .slice(0, MOST_MEMBERS)
          .flatMap(([name, each]) =>
            typesIn(each, `${at}/${name.replaceAll('~', '~0').replaceAll('/', '~1')}`, depth + 1),
          )
      : [];
  return [[at, type], ...inside];
}

/** Places in all answers so far of which the newest have nothing, or something of another type. */
function shapes(
  operation: string,
  answers: readonly Answered[],
  told: readonly AnswerPlace[] | undefined,
): AnswerChangeSeen[] {
  const read = answers
    .filter(each => each.outcome === 'delivered' && each.answer !== undefined && !isBlank(each.answer))
    .map(each => ({ ...each, types: new Map(typesIn(each.answer!)) }));
  const oldest = read.at(-1);
  if (!oldest) return [];
  const places = told ?? [...oldest.types.keys()].map(place => ({ place, isUsed: true }));
  const found = places.flatMap(({ place, isUsed }): AnswerChangeSeen[] => {
    const was = oldest.types.get(place);
    if (was === undefined) return [];
    const is = (each: (typeof read)[number]) => each.types.get(place) ?? null;
    const end = read.findIndex(each => is(each) === was);
    const [newest] = read;
    if (end < LEAST || was === 'null' || is(newest!) === 'null') return [];
    const before = read.slice(end);
    const isSteady =
      before.every(each => is(each) === was) && read.slice(0, end).every(each => is(each) === is(newest!));
    const limit = isUsed ? UNLIKELY.used : UNLIKELY.stated;
    if (before.length < USUAL || !isSteady || !unlikely(before.length, before.length, end, limit)) return [];
    const what: AnswerChange = { change: 'answer', operation, field: place, was, now: is(newest!) };
    return [{ what, since: read[end - 1]!.at }];
  });
  // Of what is gone as a whole its parts are not told each.
  return found.filter(({ what }) => !found.some(other => what.field!.startsWith(`${other.what.field}/`)));
}
