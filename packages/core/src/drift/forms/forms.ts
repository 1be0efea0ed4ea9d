import { assigned, match } from '../../match';
import { asText, type Json } from '../../submission';
import { alike, bare, shared } from '../alike';
import { chanceOfAll, chanceOfOneSide, unlikely } from '../chance';
import { optionChanges, optionsIn } from './options';
import { profileOf, type Asked, type Message, type Profile } from './profile';
import { writingsOf, type Group } from './writing';

export const formChangeKinds = [
  'added',
  'gone',
  'reworded',
  'replaced',
  'kind',
  'notation',
  'option-added',
  'option-gone',
  'option-renamed',
  'single-to-list',
  'list-to-single',
  'envelope',
] as const;
export type FormChangeKind = (typeof formChangeKinds)[number];

/** One thing that a form does otherwise than before. */
export interface FormChange {
  change: FormChangeKind;
  /** The key as it was stated before; after, for a question that is new; null for `envelope`. */
  question: string | null;
  was?: Json;
  now?: Json;
}

/** How much evidence it takes that a question is another one's successor. */
const SUCCESSOR = 0.55;
/** Least share of answers that must agree on what they are. */
const MOST = 0.85;

/**
 * What a form does otherwise in later messages than in earlier ones, in the order of its questions.
 * @param share where they are compared again and again, how likely chance may be to show this time that something is gone or of
 * another kind; that is divided among all that is looked at. A question more is told whatever the share: it breaks nothing.
 */
export function formChanges(before: readonly Message[], after: readonly Message[], share?: number): FormChange[] {
  const [was, now] = [profileOf(before), profileOf(after)];
  if (was.count === 0 || now.count === 0) return [];
  const limit = share === undefined ? null : share / testsOf(was, now);
  const successors = successorsIn(was, now);
  const retyped = retypedIn(was, now, successors);
  const moved = isBuiltOtherwise(was, now, successors) || retyped.size > 0;
  const changes: FormChange[] = moved ? [{ change: 'envelope', question: null }] : [];
  const followers = new Set(successors.values());
  for (const [key, asked] of was.questions) {
    const successor = successors.get(key);
    const same = now.questions.get(successor ?? key);
    if (successor !== undefined) changes.push({ change: 'replaced', question: key, was: key, now: successor });
    if (!same) {
      if (isGone(asked, was, now, limit)) changes.push({ change: 'gone', question: key });
      continue;
    }
    const own = ofQuestion(asked, same, successor !== undefined, was, now, limit);
    // One cause is told once: what all answers are written as is how the messages are built.
    changes.push(...own.filter(({ change }) => !retyped.has(key) || change === 'reworded'));
  }
  for (const [key, asked] of now.questions)
    if (!was.questions.has(key) && !followers.has(key) && isAdded(asked, was, now))
      changes.push({ change: 'added', question: key });
  return changes;
}

/** True where a question that is not shown any more would have been, if it were still asked. */
function isGone({ shown }: Asked, was: Profile, now: Profile, limit: number | null): boolean {
  // Where each message shows all that is asked, one is enough.
  if (was.showsAll && shown === was.count) return true;
  if (limit !== null) return unlikely(shown, was.count, now.count, limit);
  const isAlways = shown === was.count;
  return unlikely(shown, was.count, now.count, isAlways ? 0.07 : 0.01);
}

/** True where a question that was not shown before would have been, if it had been asked: not one that is seldom answered. */
function isAdded({ shown }: Asked, was: Profile, now: Profile): boolean {
  return (was.showsAll && now.showsAll) || shown === now.count || chanceOfOneSide(shown, now.count, was.count) < 0.1;
}

/** How much is looked at for what chance may show: every question, and every option that was chosen. */
const testsOf = (was: Profile, now: Profile): number =>
  [...was.questions.values()].reduce((sum, each) => sum + 1 + optionsIn(each), now.questions.size);

/** Messages so few that each of them counts. */
const FEW = 5;

/** Questions that others stand in for, by their keys before: the same question under another key. */
function successorsIn(was: Profile, now: Profile): Map<string, string> {
  // What stood in a single message of many is hardly a question: identifiers, say, that were taken for keys.
  const isAsked = ({ shown }: Asked) => shown > 1 || was.count < FEW;
  const lost = [...was.questions.values()].filter(each => !now.questions.has(each.key) && isAsked(each));
  const fresh = [...now.questions.values()].filter(each => !was.questions.has(each.key));
  if (lost.length === 0 || fresh.length === 0) return new Map();
  const scores = lost.map(one =>
    fresh.map(other => ({ score: likeness(one, other, was, now, lost.length === 1 && fresh.length === 1) })),
  );
  const found = new Map<string, string>();
  assigned(scores, SUCCESSOR).forEach((column, row) => {
    if (column >= 0) found.set(lost[row]!.key, fresh[column]!.key);
  });
  return found;
}

/** How likely one question is the other under another key, 0 to 1. */
function likeness(one: Asked, other: Asked, was: Profile, now: Profile, isOnlyPair: boolean): number {
  const kinds = kindsAgree(one, other);
  if (kinds === 0) return 0;
  const [labels, others] = [labelsOf(one), labelsOf(other)];
  const worded = Math.max(0, ...labels.flatMap(a => others.map(b => alike(a, b))));
  // What both say in words: the same question in other words is still that.
  const meant = labels.some(a => others.some(b => bare(a) === bare(b)))
    ? 1
    : (match([sourceOf(one)], [targetOf(other)])[0]?.score ?? 0);
  const answers = answersAgree(one, other);
  const place = 1 - Math.min(1, Math.abs(one.place - other.place) * Math.max(2, Math.min(was.questions.size, 8)) * 0.5);
  const words = Math.max(worded, meant * 0.95);
  const evidence = 0.6 * words + 0.25 * answers + 0.15 * place;
  // A wording that is the same is enough; one lost and one new at the same place most likely are one.
  const score = words >= 0.99 ? Math.max(evidence, 0.9) : evidence + (isOnlyPair && place > 0.7 ? 0.12 : 0);
  return Math.min(1, score * kinds);
}

const labelsOf = ({ key, labels }: Asked): string[] => (labels.size > 0 ? [...labels.keys()] : [key]);
const wordingsOf = ({ stated }: Asked) => stated?.map(each => each.label);
const sourceOf = (asked: Asked) => ({
  key: asked.key,
  label: labelsOf(asked)[0]!,
  samples: asked.values.slice(0, 8),
});
const targetOf = (asked: Asked) => ({ key: asked.key, label: labelsOf(asked)[0]! });

/** Whether two questions are answered with the same sort of thing: 1, a little less where one is text, 0 where they can't be one. */
function kindsAgree(one: Asked, other: Asked): number {
  const [a, b] = [mainGroup(one), mainGroup(other)];
  if (a === null || b === null || a === b || isFlagPair(one, other)) return 1;
  const both = new Set([a, b]);
  if (both.has('files') || both.has('table') || both.has('address')) return 0;
  return both.has('text') ? 0.9 : 0.6;
}

/** How much the answers of two questions are the same: options and repeated values as such, others by how they are written. */
function answersAgree(one: Asked, other: Asked): number {
  const [these, those] = [one, other].map(each =>
    each.values.flatMap(value => (Array.isArray(value) ? value : [value])).map(value => asText(value)),
  ) as [string[], string[]];
  if (these.length === 0 || those.length === 0) return 0.4;
  const values = shared(wordingsOf(one) ?? these, wordingsOf(other) ?? those);
  const [a, b] = [mainGroup(one), mainGroup(other)];
  const written = isFlagPair(one, other) ? 0.6 : a !== null && a === b ? (a === 'text' ? 0.35 : 0.6) : 0;
  return Math.max(values, written);
}

/** Whether one of two questions is answered with true or false, and the other with a word or two: what is ticked, written otherwise. */
function isFlagPair(one: Asked, other: Asked): boolean {
  const isFlag = (of: Asked) => mainGroup(of) === 'boolean';
  const isWord = ({ values }: Asked) =>
    values.length > 0 &&
    new Set(values.map(value => asText(value))).size <= 2 &&
    values.every(value => typeof value === 'string' && value.length <= LONGEST_WORD);
  return (isFlag(one) && isWord(other)) || (isWord(one) && isFlag(other));
}

/** What most answers of a question are; null where they do not agree, or there is none. */
function mainGroup({ groups }: Asked): Group | null {
  // Whatever is written beside them, where files are given files are asked for.
  if (groups.has('files')) return 'files';
  const [[group, times] = [null, 0]] = [...groups].sort((a, b) => b[1] - a[1]);
  return times >= sum(groups) * MOST ? group : null;
}

/** What one question does otherwise. */
function ofQuestion(
  one: Asked,
  other: Asked,
  isOther: boolean,
  was: Profile,
  now: Profile,
  limit: number | null,
): FormChange[] {
  const question = one.key;
  const changes: FormChange[] = [];
  const reworded = !isOther && was.isWorded && now.isWorded ? rewording(one, other) : null;
  if (reworded) changes.push({ change: 'reworded', question, ...reworded });
  const list = listChange(one, other, was.media.has('json') && now.media.has('json'));
  if (list) changes.push({ change: list, question });
  const [before, after] = [mainGroup(one), mainGroup(other)];
  const isTextOnly = (media: ReadonlySet<string>) => [...media].every(each => each !== 'json');
  // What can only be written as text is: that is the medium, not the question.
  const isMedium = isTextOnly(was.media) !== isTextOnly(now.media);
  const flag = flagChange(one, other);
  if (flag) {
    if (!isMedium) changes.push({ change: 'notation', question, ...flag });
    return changes;
  }
  if (before && after && before !== after && enough(one, other)) {
    const isSoft =
      isMedium &&
      [before, after].includes('text') &&
      [before, after].some(each => each === 'number' || each === 'boolean');
    // All of them may be what a few were before.
    const isChance =
      limit !== null && chanceOfAll(one.groups.get(after) ?? 0, sum(one.groups), sum(other.groups)) >= limit;
    if (!isSoft && !isChance) changes.push({ change: 'kind', question, was: before, now: after });
  } else if (before && before === after && !list) {
    const ways = notationChange(before, one, other);
    if (ways && !(isMedium && (before === 'number' || before === 'boolean')))
      changes.push({ change: 'notation', question, ...ways });
  }
  if (before === after || list) {
    const { added, gone, renamed } = optionChanges(one, other, limit);
    for (const [from, to] of renamed) changes.push({ change: 'option-renamed', question, was: from, now: to });
    // Where one answer is given instead of several, each option is chosen less.
    if (list !== 'list-to-single')
      for (const option of gone) changes.push({ change: 'option-gone', question, was: option });
    for (const option of added) changes.push({ change: 'option-added', question, now: option });
  }
  return changes;
}

/**
 * One of two words that is true or false now, in whatever language, or the other way round: another notation of the same. Each side is told with
 * both of its values.
 */
function flagChange(one: Asked, other: Asked): { was: Json; now: Json } | null {
  const [was, now] = [one, other].map(({ values }) => [...new Set(values.map(each => asText(each).trim()))].sort());
  const isFlag = ({ values }: Asked) =>
    values.every(each => typeof each === 'boolean' || /^(true|false)$/.test(asText(each)));
  const isOneOfTwo = (values: string[], of: Asked) =>
    values.length === 2 &&
    !isFlag(of) &&
    of.values.every(each => typeof each === 'string' && each.length <= LONGEST_WORD);
  const [toFlag, fromFlag] = [isOneOfTwo(was!, one) && isFlag(other), isFlag(one) && isOneOfTwo(now!, other)];
  if (one.values.length < 2 || other.values.length === 0 || !(toFlag || fromFlag)) return null;
  return { was: toFlag ? was! : flags, now: toFlag ? flags : now! };
}

const flags = ['true', 'false'];
/** Characters of the longest word for yes or no. */
const LONGEST_WORD = 20;

/** Enough answers on both sides to say what they are. */
const enough = (one: Asked, other: Asked): boolean =>
  one.values.length >= 2 && new Set(other.values.map(each => asText(each))).size >= 2;

/** Another wording under the same key; one that differs from submission to submission says nothing. */
function rewording({ labels }: Asked, { labels: later }: Asked): { was: string; now: string } | null {
  if (labels.size === 0 || later.size === 0 || labels.size > 2 || later.size > 2) return null;
  if ([...later.keys()].some(each => labels.has(each))) return null;
  const [was, now] = [labels, later].map(each => [...each].sort((a, b) => b[1] - a[1])[0]![0]);
  return { was: was!, now: now! };
}

/** Whether what was one answer is a list now, or the other way round. A question that was both is both. */
function listChange(
  { values, kinds }: Asked,
  { values: later, kinds: laterKinds }: Asked,
  isJson: boolean,
): 'single-to-list' | 'list-to-single' | null {
  const isWhole = (of: ReadonlyMap<string, number>) => of.has('files') || of.has('table');
  if (isWhole(kinds) || isWhole(laterKinds) || values.length < 2 || later.length === 0) return null;
  const lists = (of: readonly Json[]) => of.filter(each => Array.isArray(each)).length;
  const [before, after] = [lists(values), lists(later)];
  if (before === 0 && after > 0 && (after === later.length || (isJson && values.length >= 5))) return 'single-to-list';
  if (before === values.length && after === 0) return 'list-to-single';
  return null;
}

/** Another way of writing the same: where nothing is written as before, and both sides agree with themselves. */
function notationChange(group: Group, one: Asked, other: Asked): { was: string; now: string } | null {
  const [before, after] = [writingsOf(group, one.values), writingsOf(group, other.values)];
  if (before.size === 0 || after.size === 0) return null;
  const [most, least] = [sum(before), sum(after)];
  const isStrict = group === 'date' || group === 'time' || group === 'boolean';
  if (most < (isStrict ? 2 : 4) || least < (isStrict ? 1 : 3)) return null;
  if (before.size > (isStrict ? 2 : 3) || after.size > (isStrict ? 2 : 3)) return null;
  if ([...after.keys()].some(each => before.has(each) || isUnknownOrder(each, before))) return null;
  // Texts without a fixed form differ by chance.
  if (!isStrict && sum(before) < one.values.length * MOST) return null;
  if (!isStrict && sum(after) < other.values.length * MOST) return null;
  return { was: exampleOf(one), now: exampleOf(other) };
}

/** Of dates whose order nobody knows, none is another. */
const isUnknownOrder = (way: string, others: ReadonlyMap<string, number>): boolean => {
  const [writing, order] = way.split(' ');
  return [...others.keys()].some(each => {
    const [otherWriting, otherOrder] = each.split(' ');
    return writing === otherWriting && (order === 'unknown' || otherOrder === 'unknown');
  });
};

const sum = (counts: ReadonlyMap<string, number>): number => [...counts.values()].reduce((all, each) => all + each, 0);
const exampleOf = ({ values }: Asked): string => asText(values[0] ?? null);

/** Fewest questions that are written as something else at once for it to be how the messages are built. */
const TOGETHER = 2;

/**
 * Questions whose answers all were lists or numbers of the JSON and all are texts now, or the other way round, where that is so of
 * all such questions; none where it is so of some only.
 */
function retypedIn(was: Profile, now: Profile, successors: ReadonlyMap<string, string>): Set<string> {
  if (!was.media.has('json') || !now.media.has('json')) return new Set();
  const isPlain = ({ groups }: Asked) => !groups.has('files') && !groups.has('table') && !groups.has('address');
  const pairs = [...was.questions].flatMap(([key, asked]) => {
    const same = now.questions.get(successors.get(key) ?? key);
    return same && isPlain(asked) && isPlain(same) ? [{ key, types: [typeOf(asked), typeOf(same)] as const }] : [];
  });
  const [fromJson, toJson] = [
    pairs.filter(({ types: [before, after] }) => before === 'json' && after === 'text'),
    pairs.filter(({ types: [before, after] }) => before === 'text' && after === 'json'),
  ];
  const isKept = pairs.some(({ types: [before, after] }) => before === 'json' && after === 'json');
  const all = fromJson.length > 0 && toJson.length > 0 ? [] : [...fromJson, ...toJson];
  return new Set(isKept || all.length < TOGETHER ? [] : all.map(each => each.key));
}

/** Whether the answers of a question are texts, or numbers or lists; null where they are both, or none. A flag is read as one either way. */
function typeOf({ values: all }: Asked): 'text' | 'json' | null {
  const values = all.filter(each => typeof each !== 'boolean');
  const texts = values.filter(each => typeof each === 'string').length;
  return values.length === 0 ? null : texts === values.length ? 'text' : texts === 0 ? 'json' : null;
}

/** True where the same questions come in another shape, or stand in another place. */
function isBuiltOtherwise(was: Profile, now: Profile, successors: ReadonlyMap<string, string>): boolean {
  // Of messages that nobody is sure how they are built, none is built otherwise.
  const isUnsure = (ways: ReadonlyMap<string, number>) => [...ways.keys()].some(each => each.endsWith(' nothing'));
  if (isUnsure(now.ways) || isUnsure(was.ways)) return false;
  if ([...now.ways.keys()].some(each => was.ways.has(each))) return false;
  const kept = [...was.questions.keys()].filter(key => now.questions.has(key) || successors.has(key)).length;
  return kept >= Math.min(was.questions.size, now.questions.size) / 2;
}
