import { escapeToken, isJsonObject, labelFromKey, setOwn, valueAt, type Json, type JsonObject } from '../../submission';
import { filesOf } from '../files';
import { isCheckboxGroup, isCompound, isMatrix, isMoment, nameWords, speaksOf, speaksOnlyOf } from '../names';
import { DEEPEST, most } from '../notes';
import { aroundWorth, leavesOf } from '../evidence';
import { isOpened } from './expand';
import type { Place } from './place';
import type { EnvelopeReading, RawAnswer } from './reader';

const READER = 'flat';
const LABEL = 'flat object';

/** Objects that are tried as the one whose keys are the questions. */
const MOST_TRIED = 40;
const DEEPEST_TRIED = 8;

/**
 * Objects whose keys are the questions: at the top, or at any place below. Each is tried as it is, every key an answer, and
 * without what speaks of the submission.
 * @param relative the one place below that is wanted, where it is known
 */
export function flatPlaces(document: Json, at: string, relative?: string): Place[] {
  if (relative !== undefined) {
    const object = valueAt(document, relative);
    return isJsonObject(object) ? flatHere(object, `${at}${relative}`, false) : [];
  }
  const found: Place[] = [];
  const visit = (object: JsonObject, pointer: string, depth: number, isMain = false) => {
    if (found.length >= MOST_TRIED) return;
    for (const each of flatHere(object, pointer, isMain)) found.push(each);
    const main = mainBranch(object);
    if (depth === 0) return;
    for (const [name, value] of Object.entries(object))
      if (
        isJsonObject(value) &&
        Object.keys(value).length > 0 &&
        !isCompound(name, value) &&
        !isCheckboxGroup(value) &&
        pointer.length < most.pointer
      )
        visit(value, `${pointer}/${escapeToken(name)}`, depth - 1, name === main);
  };
  if (isJsonObject(document)) visit(document, at, DEEPEST_TRIED);
  return found;
}

/** The one branch that holds most of what is there, beside a time and little else: what is asked stands in there. */
function mainBranch(object: JsonObject): string | null {
  const entries = Object.entries(object);
  if (entries.length < 2) return null;
  const sizes = entries.map(([name, value]) => ({
    name,
    size: isJsonObject(value) ? leavesOf(value, false).length : 0,
  }));
  const [first, second] = sizes.sort((a, b) => b.size - a.size);
  const beside = entries.filter(([, value]) => !isJsonObject(value)).length;
  if (first!.size < 4 || first!.size <= beside || (second?.size ?? 0) > Math.max(2, first!.size / 2)) return null;
  // The time stands above it, or in what stands beside it.
  const others = Object.fromEntries(entries.filter(([name]) => name !== first!.name));
  return leavesOf(others, false).some(({ value }) => isMoment(value)) ? first!.name : null;
}

function flatHere(object: JsonObject, pointer: string, isMain: boolean): Place[] {
  const place = (answers: RawAnswer[], covers: string[], isWhole: boolean): Place => ({
    reader: READER,
    label: LABEL,
    at: pointer,
    answers,
    covers,
    trust: (isWhole ? 0.9 : 0.88) + (isNamed(pointer) ? 0.05 : 0) + (isMain ? 0.12 : 0),
    isWorded: false,
    isPart: !isWhole,
    why: `${answers.length} keys at ${pointer || 'the top'} each have an answer.`,
  });
  const whole = withoutTidy(withOthers(answersIn(object, pointer, DEEPEST)));
  const own: JsonObject = {};
  for (const [name, value] of Object.entries(object)) if (!isAround(name, value)) setOwn(own, name, value);
  const places = whole.length > 0 ? [place(whole, [pointer], true)] : [];
  const count = Object.keys(own).length;
  if (count > 0 && count < Object.keys(object).length) {
    const answers = withoutTidy(withOthers(answersIn(own, pointer, DEEPEST)));
    const covers = Object.keys(own).map(name => `${pointer}/${escapeToken(name)}`);
    if (answers.length > 0) places.push(place(answers, covers, false));
  }
  return places;
}

/** True for a place that is called as what holds answers is. */
const isNamed = (pointer: string): boolean =>
  /^(answers?|fields|values|form_?data|responses?|data|inputs?|reponses|antworten|respuestas)$/i.test(
    pointer.split('/').at(-1) ?? '',
  );

/** Sections by whose names nobody would call answers. */
const isAside = (name: string): boolean =>
  (speaksOf(name, 'form') && nameWords(name).length <= 2 && !speaksOf(name, 'answer')) ||
  (speaksOnlyOf(name, 'sender') && !/^(page|user|respondent)$/i.test(name)) ||
  /^(defin|schema|labels?$|field_?(labels|names|defs|definitions)|links?$|_|meta|info$|envelope$|header)/i.test(name);

/** True for what speaks of the submission, by its name, or by that of what is in it. */
function isAround(name: string, value: Json): boolean {
  if (!isJsonObject(value)) return aroundWorth(name, value) >= 0.55;
  if (isCompound(name, value)) return false;
  if (isAside(name)) return true;
  const leaves = leavesOf(value, false);
  const worth = leaves.map(({ path, value: leaf }) => {
    const inner = path.at(-1)!;
    const alone = aroundWorth(inner, leaf);
    // `entry: { number, created }`: what it is of is told by the name above.
    return speaksOnlyOf(name, 'submission', 'sender', 'form')
      ? Math.max(alone, aroundWorth(`${name}_${inner}`, leaf))
      : alone;
  });
  if (leaves.length > 0 && worth.every(each => each >= 0.55)) return true;
  // `entry: { zek: 'r-1', unf: '2026-03-04T08:00:00Z' }`: which and when, whatever it is called.
  return (
    leaves.length < 7 &&
    speaksOnlyOf(name, 'submission') &&
    leaves.some(({ value: leaf }) => isMoment(leaf)) &&
    !leaves.some(({ value: leaf }) => typeof leaf === 'string' && leaf.includes('\n'))
  );
}

/** An object whose keys are the questions, at a place that is known to hold the answers. */
export function flatAt(object: JsonObject, at: string): EnvelopeReading {
  const answers = withOthers(answersIn(object, at, DEEPEST));
  return {
    reader: READER,
    label: LABEL,
    score: 0.6,
    why: `${answers.length} keys at ${at || 'the top'} each have an answer.`,
    answersAt: at,
    submissions: [{ form: null, id: null, submittedAt: null, meta: {}, answers }],
  };
}

/** The answers of an object. An object inside is a section of the form, unless it is one answer of several parts. */
function answersIn(object: JsonObject, pointer: string, depth: number, found: RawAnswer[] = []): RawAnswer[] {
  const isPlainlyKeyed = Object.keys(object).every(name => /^[a-z\d_.[\]-]+$/.test(name));
  for (const [name, value] of Object.entries(object)) {
    const at = `${pointer}/${escapeToken(name)}`;
    const opens = depth > 0 && at.length < most.pointer && isJsonObject(value) && isSection(name, value);
    if (opens && !isOpened(value) && !(isPlainlyKeyed && isMatrix(value)) && !isOneAmong(value, object)) {
      answersIn(value, at, depth - 1, found);
      continue;
    }
    const key = name.replace(/\[\]$/, '');
    found.push({ key, label: labelFromKey(key), stated: null, value, pointer: at, options: null, other: null });
  }
  return found;
}

/** Several values of one answer, as it stands among others that are plain: what is asked in sections is asked in several of them. */
function isOneAmong(value: JsonObject, object: JsonObject): boolean {
  const inner = Object.entries(value);
  if (inner.length > 6 || inner.length < 2) return false;
  if (
    !inner.every(
      ([name, each]) => (each === null || typeof each === 'string' || typeof each === 'number') && !/[?？]/.test(name),
    )
  )
    return false;
  if (
    inner.some(
      ([, each]) => typeof each === 'string' && (each.includes('@') || each.includes('\n') || each.length > 60),
    )
  )
    return false;
  const beside = Object.values(object);
  const plain = beside.filter(each => typeof each !== 'object' || each === null || Array.isArray(each)).length;
  return plain >= 2 * (beside.length - plain);
}

const isSection = (name: string, value: JsonObject): boolean =>
  Object.keys(value).length > 0 &&
  !isCompound(name, value) &&
  !isCheckboxGroup(value) &&
  filesOf('', value, false) === null &&
  !isFileLike(value);

const isFileLike = (value: JsonObject) =>
  Object.values(value).some(each => typeof each === 'string' && /^(https?:|data:)/.test(each)) &&
  Object.keys(value).length <= 8;

/** Characters of a text that may repeat the others, and others that are looked for in it. */
const [LONGEST_TIDY, MOST_REPEATED] = [20_000, 40];

/** Without a text that says all the other answers once more. */
function withoutTidy(answers: RawAnswer[]): RawAnswer[] {
  const texts = answers.flatMap(({ value }) =>
    typeof value === 'string' && value.trim().length > 1 ? [value.trim()] : [],
  );
  if (texts.length < 3) return answers;
  const longest = texts.reduce((most, each) => (each.length > most.length ? each : most));
  const text = longest.slice(0, LONGEST_TIDY);
  const others = texts.filter(each => each !== longest).slice(0, MOST_REPEATED);
  const repeated = others.filter(each => text.includes(each)).length;
  const isLonger = longest.length > others.reduce((sum, each) => sum + each.length, 0);
  if (others.length < 2 || !isLonger || repeated < 0.75 * others.length) return answers;
  return answers.filter(({ value }) => typeof value !== 'string' || value.trim() !== longest);
}

const otherKey = /(?:[_.\- ]?| \[)(?:other|else)(?:_?(?:text|value|specify))?\]?$/i;

/** `signs_other` beside `signs` holds what was written under “Other”. */
function withOthers(answers: RawAnswer[]): RawAnswer[] {
  const others = new Map<string, RawAnswer>();
  for (const answer of answers) {
    const found = typeof answer.value === 'string' && answer.key.length <= 500 ? otherKey.exec(answer.key) : null;
    if (!found || found.index === 0) continue;
    for (const key of [answer.key.slice(0, found.index), answer.key.slice(0, found.index + 1)])
      if (!others.has(key)) others.set(key, answer);
  }
  if (others.size === 0) return answers;
  const used = new Set<RawAnswer>();
  const joined = answers.map(answer => {
    const other = others.get(answer.key);
    if (!other || other === answer || !mentionsOther(answer.value)) return answer;
    used.add(other);
    return { ...answer, other: (other.value as string).trim() || null };
  });
  return joined.filter((_, index) => !used.has(answers[index]!));
}

const mentionsOther = (value: Json): boolean =>
  Array.isArray(value) ? value.some(mentionsOther) : typeof value === 'string' && /\bother\b/i.test(value);
