import {
  asText,
  escapeToken,
  isBlank,
  isJsonObject,
  labelFromKey,
  setOwn,
  valueAt,
  type Json,
  type JsonObject,
} from '../../submission';
import { filesOf } from '../files';
import { formOf, nameWords, speaksOf, surroundings, tellsOfSubmission } from '../names';
import { around, without } from './around';
import { Definitions, holder, joined } from './definitions';
import { greatest } from '../notes';
import { leafWorth, aroundWorth, isStructural, leavesOf, valueWorth, wordingWorth } from '../evidence';
import { asSent, isOpened } from './expand';
import { flatPlaces } from './flat';
import { labelledPlaces } from './labelled';
import type { Place } from './place';
import { headersIn, pairPlaces, positionalPlaces, type Header } from './positional';
import type { EnvelopeReading, RawAnswer, RawSubmission } from './reader';
import { textPlaces } from './texts';

/** What the whole document tells, for each submission in it. */
export interface DocumentFacts {
  document: Json;
  /** What it says of questions; found out when it is first asked for. */
  defined(): Definitions;
  headers: Header[];
  /** What stands around in such a document for certain: the head of a mail. */
  head: readonly string[];
}

/** A reading of one submission's part of a document, with what it is compared by. */
export interface UnitReading extends EnvelopeReading {
  /** Where the answers stand below the submission's place. */
  relative: string;
  /** Places of the document, inside this submission or not, that say what is asked. */
  definedAt: string[];
  /** How well the answers read, 0 to 1; the rest of the score is what they leave unexplained. */
  quality: number;
  /** Answers that are not blank. */
  answered: number;
  isPart: boolean;
}

/** What else a reading is wanted for: all readings, or the one of a reader at a place. */
export interface Wanted {
  reader: string;
  relative: string;
  isPart: boolean;
}

/** Every reading of one submission's part of a document, surest first. */
export function unitReadings(value: Json, at: string, told: DocumentFacts): UnitReading[] {
  const places = placesIn(withoutHead(value, at, told.head), at, told).filter(each => each.answers.length > 0);
  const worded = places.filter(each => each.isWorded).map(place => readingOf(value, at, place, told));
  const best = worded.reduce((most, each) => Math.max(most, each.score), 0);
  // Beside answers that word their questions plainly, nothing is looked up, and what falls far behind is not looked into.
  const others = best > PLAIN ? { ...told, defined: () => nothing } : told;
  const rest = places
    .filter(each => !each.isWorded)
    .map(place => readingOf(value, at, place, others, best > PLAIN ? LEAST_SHARE * best : 0));
  return [...worded, ...rest]
    .filter(each => each.answered > 0 || each.submissions[0]!.answers.length > 0)
    .sort((a, b) => b.score - a.score);
}

/** Score from which a reading of worded answers is hardly ever wrong. */
const PLAIN = 0.9;
/** Share of the best score below which another reading is not looked into. */
const LEAST_SHARE = 0.6;
const nothing = new Definitions([]);

/** The one reading of a part of a document that is wanted, without a word of how well it reads; null where it has none. */
export function readingAs(value: Json, at: string, told: DocumentFacts, wanted: Wanted): UnitReading | null {
  const place = placesIn(value, at, told, wanted).find(
    each =>
      each.answers.length > 0 &&
      each.reader === wanted.reader &&
      each.at === `${at}${wanted.relative}` &&
      (each.isPart ?? false) === wanted.isPart,
  );
  return place ? readingOf(value, at, place, told, null) : null;
}

function placesIn(root: Json, at: string, { headers, head }: DocumentFacts, wanted?: Wanted): Place[] {
  const from = (...ids: string[]) => wanted === undefined || ids.includes(wanted.reader);
  return [
    ...(from('labelled-list', 'labelled-dictionary') ? labelledPlaces(root, at) : []),
    ...(from('pairs') ? pairPlaces(root, at) : []),
    ...(from('lists') ? positionalPlaces(root, at, at === '' ? headers : [...headers, ...headersIn(root, at)]) : []),
    ...(from('flat')
      ? flatPlaces(root, at, wanted?.relative).map(each => (head.length > 0 ? { ...each, trust: 0.3 } : each))
      : []),
    ...(from('labelled-text') ? textPlaces(root, at) : []),
  ];
}

/** A mail without its head: that is never answered. */
function withoutHead(value: Json, at: string, head: readonly string[]): Json {
  if (head.length === 0 || at !== '' || !isJsonObject(value)) return value;
  return Object.fromEntries(Object.entries(value).filter(([name]) => !head.includes(name)));
}

/** @param least the score below which the reading need not be looked into; null where it is wanted whatever it scores */
function readingOf(root: Json, at: string, place: Place, told: DocumentFacts, least: number | null = 0): UnitReading {
  const { answers, usedAt, share, keys } =
    place.isWorded && !place.answers.some(isUnresolved)
      ? { answers: place.answers, usedAt: [], share: 0, keys: none }
      : joined(place.answers, told.defined(), place.covers, place.isWorded, place.shape);
  const outside = [...place.covers, ...usedAt];
  const surrounding = around(root, at, place.reader === 'flat' ? place.at : sharedBy(place.covers), [
    ...outside,
    ...branchesOf(usedAt, place.at),
  ]);
  const { left, files } = filesBeside(surrounding);
  const facts = factsOf(left, place.said, told.head);
  const defined = withDefiner(facts, told.document, usedAt);
  const isDefined = share > 0.5;
  const answered = answers.filter(each => !isBlank(each.value) || each.other !== null);
  // Where it is told elsewhere which submission it is and when it came, what is called so here is an answer.
  const isTold =
    least !== null && place.reader === 'flat' && place.at !== at && tellsOfSubmission({ ...left, ...place.said });
  const { quality, score } =
    least !== null
      ? worthOf(
          place,
          answered.length > 0 ? answered : answers,
          { isDefined, isTold, hasTime: facts.submittedAt !== null && place.at !== at, keys, share },
          () => withoutAttached(without(withoutHead(root, at, told.head), at, outside) ?? null),
          least,
        )
      : { quality: 0, score: 0 };
  const submission: RawSubmission = {
    ...defined,
    answers: [
      ...answers.map(each => ({ ...each, value: asSent(each.value) })),
      ...files.map(file => definedFile(file, told.defined())),
    ],
  };
  return {
    reader: place.reader,
    label: isDefined && !place.isWorded ? `${place.label}, defined apart` : place.label,
    score,
    quality,
    why:
      usedAt.length > 0 && isDefined ? `${place.why} What they ask is defined at ${definingPlace(usedAt)}.` : place.why,
    answersAt: place.at,
    ...(place.columns && { columns: place.columns }),
    relative: place.at.slice(at.length),
    definedAt: usedAt,
    answered: answered.length,
    isPart: place.isPart ?? false,
    submissions: [submission],
  };
}

/** What the text itself says comes before the head of the mail that brought it. */
function factsOf(left: JsonObject, said: Record<string, string> | undefined, head: readonly string[]) {
  if (head.length === 0) return surroundings({ ...left, ...said });
  const outer = surroundings(left);
  const own = surroundings({
    ...Object.fromEntries(Object.entries(left).filter(([name]) => !head.includes(name))),
    ...said,
  });
  const id = left.message_id;
  return {
    form: own.form ?? outer.form,
    id: own.id ?? (typeof id === 'string' ? id : null),
    submittedAt: own.submittedAt ?? outer.submittedAt,
    meta: { ...outer.meta, ...own.meta },
  };
}

/** What holds all of some places. */
function sharedBy(pointers: string[]): string {
  const [first = [], ...rest] = pointers.map(each => each.split('/'));
  let length = first.length;
  for (const each of rest) while (first.slice(0, length).some((step, index) => step !== each[index])) length--;
  return first.slice(0, length).join('/');
}

const none: ReadonlySet<string> = new Set();

/** A choice that may be an identifier or a place, of which another part of the document has to tell what it stands for. */
function isUnresolved({ key, label, value, options }: RawAnswer): boolean {
  if (options !== null || key === label) return false;
  const all = Array.isArray(value) ? value : [value];
  return (
    all.length > 0 &&
    all.every(each => typeof each === 'number' || (typeof each === 'string' && /^[a-z\d_.:-]{1,40}$/.test(each)))
  );
}

/** The branches that hold the definitions and lead away from the answers: they speak of the form, not of the submission. */
function branchesOf(usedAt: string[], answersAt: string): string[] {
  const branches = usedAt.map(pointer => {
    const [way, answers] = [pointer.split('/'), answersAt.split('/')];
    let shared = 0;
    while (shared < way.length && way[shared] === answers[shared]) shared++;
    return way.slice(0, shared + 1).join('/');
  });
  return [...new Set(branches)].filter(each => each !== answersAt && !answersAt.startsWith(`${each}/`));
}

const definingPlace = (usedAt: string[]): string => holder(usedAt[0]!) || 'the top';

/** What holds the definitions often tells the form: `{ form: 'orch', heading: 'Youth orchestra', rows: […] }`. */
function withDefiner(facts: ReturnType<typeof surroundings>, document: Json, usedAt: string[]) {
  if (facts.form?.name || usedAt.length === 0) return facts;
  for (let pointer = holder(usedAt[0]!), steps = 0; pointer !== '' && steps < 4; pointer = holder(pointer), steps++) {
    const holder = valueAt(document, pointer);
    if (!isJsonObject(holder)) continue;
    const { key, name } = formOf(holder);
    if (facts.form !== null) {
      if (name !== null && key === facts.form.key) return { ...facts, form: { key, name } };
      continue;
    }
    const isOfForm = speaksOf(pointer.split('/').at(-1)!, 'form');
    if (name === null && key !== null && isOfForm) return { ...facts, form: { key, name } };
    if (name !== null) return { ...facts, form: { key: key ?? name, name } };
  }
  return facts;
}

/** What is known of a place besides its answers. */
interface Seen {
  /** True where the questions are worded elsewhere. */
  isDefined: boolean;
  /** True where it is told elsewhere which submission it is and when it came. */
  isTold: boolean;
  /** True where a time stands above the answers: then the rest that stands there is more likely about the submission as well. */
  hasTime: boolean;
  /** The keys that are worded elsewhere, and their share of all. */
  keys: ReadonlySet<string>;
  share: number;
}

/** How well a reading explains what stands in a submission's part of the document. */
function worthOf(
  place: Place,
  answers: RawAnswer[],
  { isDefined, isTold, hasTime, keys, share }: Seen,
  restOf: () => Json,
  least: number,
): { quality: number; score: number } {
  const sample =
    answers.length > 60 ? answers.filter((_, index) => index % Math.ceil(answers.length / 60) === 0) : answers;
  const isKeyed = place.reader === 'flat';
  // Some may be called as the parts of an answer are; all of them are such parts.
  const mayBeStructural =
    place.answers.filter(each => isStructural(each.key)).length < (isTold ? 0.7 : 0.6) * place.answers.length;
  const labels = sample.map(answer => {
    const worth = wordingWorth(answer.label);
    if (place.isWorded || (isDefined && keys.has(answer.key))) return worth;
    if (!isKeyed) return worth;
    const around = isTold ? 0 : aroundWorth(answer.key, answer.value);
    return Math.max(
      0.05,
      (isStructural(answer.key) && !mayBeStructural ? Math.min(worth, 0.35) : keyWorth(answer.key)) - 0.6 * around,
    );
  });
  const mean = (all: number[]) => all.reduce((sum, each) => sum + each, 0) / Math.max(1, all.length);
  const values = mean(
    sample.map(each =>
      isOpened(each.value) && filesOf('', each.value, false) === null ? 0.2 : valueWorth(each.value),
    ),
  );
  const worded = mean(labels);
  // Twice the same answers: the submission says them raw and readable, and one of both is enough.
  const texts = sample.flatMap(({ value }) => (typeof value === 'string' && value.length > 3 ? [value] : []));
  const twice = !isKeyed
    ? 0
    : Math.max(texts.length > 3 ? 1 - new Set(texts).size / texts.length : 0, isRetold(sample, texts) ? 0.5 : 0);
  const trust = isDefined ? Math.max(place.trust, 0.55 + 0.4 * share) : place.trust;
  // What is told elsewhere already is no reason to leave answers out that are called so.
  const isLess = isTold && place.isPart === true;
  // The same names again and again are those of the parts of answers, not of questions.
  const counts = new Map<string, number>();
  for (const { key } of place.answers) counts.set(key, (counts.get(key) ?? 0) + 1);
  const names = counts.size / place.answers.length;
  const isEachRepeated = counts.size > 2 && [...counts.values()].every(each => each > 1);
  const isOfParts = greatest(counts.values()) > 2 || isEachRepeated;
  const repeated = place.reader === 'flat' && names < 0.75 && isOfParts ? names : 1;
  // What plainly speaks of the submission is no answer, where nothing else tells of it.
  const spoken =
    isKeyed && !isTold ? sample.filter(each => aroundWorth(each.key, each.value) >= 0.8).length / sample.length : 0;
  const quality =
    (1 - 0.5 * spoken) *
    repeated *
    (isLess ? 0.9 : 1) *
    trust *
    (0.25 + 0.75 * worded) *
    (0.2 + 0.8 * values) *
    (1 - 0.7 * twice);
  if (quality < least) return { quality, score: quality / 2 };
  const rest = restOf();
  const said = new Set(sample.map(each => asText(each.value).trim()).filter(Boolean));
  const whole = [...said].join('\n');
  let unexplained = 0;
  for (const { path, value } of leavesOf(rest, true)) {
    const text = asText(value).trim();
    if (said.has(text) || (text.length > 12 && whole.includes(text)) || repeats(text, said)) continue;
    unexplained += leafWorth(path, value) * (hasTime && path.length < 3 && isSmall(rest, path) ? 0.5 : 1);
  }
  const explained = answers.length + (place.said ? 1 : 0);
  const coverage = (explained + 0.5) / (explained + 0.5 + unexplained);
  const isEmpty = answers.every(each => isBlank(each.value) && each.other === null);
  return { quality, score: Math.min(0.99, quality * (0.35 + 0.65 * coverage)) * (isEmpty ? 0.4 : 1) };
}

/** True where a text beside an object tells what the object holds: the answers are in there. */
const isRetold = (answers: RawAnswer[], texts: string[]): boolean =>
  answers.some(({ value }) => {
    if (!isOpened(value)) return false;
    const held = new Set([...leavesOf(value, true)].map(each => asText(each.value).trim()).filter(Boolean));
    return held.size > 2 && texts.some(text => repeats(text, held, 0.5));
  });

/** True for what stands by itself or with one other: no section of the form is as small. */
const isSmall = (rest: Json, path: string[]): boolean =>
  path.length === 1 || (isJsonObject(rest) && isJsonObject(rest[path[0]!]) && Object.keys(rest[path[0]!]!).length < 3);

/** True for a text that repeats what was answered. */
function repeats(text: string, said: Set<string>, share = 0.7): boolean {
  if (text.length < 20) return false;
  let [found, all] = [0, 0];
  for (const each of said) {
    if (all++ > 40) break;
    if (text.includes(each)) found += 1;
  }
  return all > 1 && found / all > share;
}

/** How much a key reads as a question that someone was asked. */
function keyWorth(key: string): number {
  const worth = wordingWorth(key);
  if (worth >= 0.9 || worth <= 0.3) return worth;
  return nameWords(key).length > 1 ? 0.8 : key.length > 2 ? 0.7 : 0.45;
}

/** Files that came beside the answers, as parts of a form or attached. */
function filesBeside(surrounding: JsonObject): { left: JsonObject; files: RawAnswer[] } {
  const files: RawAnswer[] = [];
  const left: JsonObject = {};
  for (const [name, value] of Object.entries(surrounding)) {
    if (!isAttached(value)) setOwn(left, name, value);
    else
      files.push({
        key: name.replace(/\[\]$/, ''),
        label: labelFromKey(name),
        stated: 'file',
        value,
        pointer: `/${escapeToken(name)}`,
        options: null,
        other: null,
      });
  }
  return { left, files };
}

const withoutAttached = (value: Json): Json =>
  isJsonObject(value) ? Object.fromEntries(Object.entries(value).filter(([, each]) => !isAttached(each))) : value;

/** Content that came along, as the media readers tell it. */
const isAttached = (value: Json): boolean => {
  const all = Array.isArray(value) ? value : [value];
  return (
    all.length > 0 &&
    all.every(each => isJsonObject(each) && 'filename' in each && 'size' in each && 'type' in each) &&
    filesOf('', value, true) !== null
  );
};

function definedFile(file: RawAnswer, defined: Definitions): RawAnswer {
  const { answers } = joined([file], defined, []);
  return { ...answers[0]!, stated: 'file' };
}
