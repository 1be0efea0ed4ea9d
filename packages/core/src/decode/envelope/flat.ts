import { escapeToken, isJsonObject, labelFromKey, setOwn, valueAt, type Json, type JsonObject } from '../../submission';
import { DEEPEST, most } from '../notes';
import {
  isCheckboxGroup,
  isCompound,
  isEnvelopeKey,
  isMatrix,
  nameWords,
  speaksOf,
  speaksOnlyOf,
  surroundings,
} from '../names';
import { filesOf } from '../files';
import type { EnvelopeReader, EnvelopeReading, RawAnswer } from './reader';

/** One object whose keys are the questions: at the top, or under a key of its own among ids and times; in sections too. */
export const flat: EnvelopeReader = {
  id: 'flat',
  label: 'flat object',
  read(document, at) {
    const { answers, around, pointer, isNamed } = answersObject(document, at);
    const raw = answersIn(answers, pointer, DEEPEST);
    const tidy = tidyText(raw);
    const kept = raw.filter(each => each !== tidy);
    if (kept.length === 0) return null;
    const lists = kept.filter(each => Array.isArray(each.value) && each.value.some(isJsonObject)).length / kept.length;
    return {
      reader: flat.id,
      label: flat.label,
      score: 0.6 + (isNamed ? 0.15 : 0) - 0.35 * lists,
      why: `${kept.length} keys at ${pointer || 'the top'} each hold an answer.`,
      answersAt: pointer,
      submissions: [
        { ...surroundings(tidy ? { ...around, [tidy.key]: tidy.value } : around), answers: withOthers(kept) },
      ],
    };
  },
};

/** An object whose keys are the questions, at a place that is known to hold the answers. */
export function flatAt(object: JsonObject, at: string): EnvelopeReading {
  const answers = withOthers(answersIn(object, at, DEEPEST));
  return {
    reader: flat.id,
    label: flat.label,
    score: 0.6,
    why: `${answers.length} keys at ${at || 'the top'} each hold an answer.`,
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
    if (opens && !(isPlainlyKeyed && isMatrix(value))) {
      answersIn(value, at, depth - 1, found);
      continue;
    }
    const key = name.replace(/\[\]$/, '');
    found.push({ key, label: labelFromKey(key), stated: null, value, pointer: at, options: null, other: null });
  }
  return found;
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

/** Texts that may repeat the others, and others that are looked for in each: enough to tell, however many there are. */
const MOST_TIDY = 3;
const MOST_REPEATED = 40;
/** Characters of such a text that are looked at. */
const LONGEST_TIDY = 100_000;

/** A text that repeats the other answers line by line; it is kept as meta. */
function tidyText(answers: RawAnswer[]): RawAnswer | null {
  const texts = answers.filter(each => typeof each.value === 'string' && each.value.trim().length > 1);
  const textOf = ({ value }: RawAnswer) => value as string;
  const short = texts.filter(each => !textOf(each).includes('\n'));
  const step = Math.max(1, Math.floor(short.length / MOST_REPEATED));
  const looked = short.filter((_, index) => index % step === 0);
  const longest = [...texts].sort((a, b) => textOf(b).length - textOf(a).length).slice(0, MOST_TIDY);
  return (
    longest.find(each => {
      const text = textOf(each).slice(0, LONGEST_TIDY);
      const others = looked.filter(other => other !== each);
      const repeated = others.filter(other => text.includes(textOf(other).trim()));
      return others.length >= 3 && repeated.length / others.length > 0.75;
    }) ?? null
  );
}

const otherKey = /[_.\- ]?(?:other|else)(?:_?(?:text|value|specify))?$/i;

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

/** Follows single branches down to the object that holds the answers; what it passes on the way is the envelope. */
function answersObject(
  document: JsonObject,
  at: string,
): { answers: JsonObject; around: JsonObject; pointer: string; isNamed: boolean } {
  let answers = document;
  let pointer = at;
  let isNamed = false;
  const around: JsonObject = {};
  for (let depth = 0; depth < DEEPEST; depth++) {
    const entries = Object.entries(answers);
    const branches = entries.filter(
      ([name, value]) =>
        isJsonObject(value) && Object.keys(value).length > 0 && !isAside(name) && !isCompound(name, value),
    );
    const named = mostLikelyNamed(branches);
    const isEnvelope = ([name, value]: [string, Json]) =>
      isAside(name) ||
      isEnvelopeKey(name, value) ||
      (speaksOnlyOf(name, 'sender', 'submission', 'id', 'time', 'form') && !isJsonObject(value));
    const chosen =
      named.length === 1
        ? named[0]
        : branches.length === 1 && entries.every(entry => entry === branches[0] || isEnvelope(entry))
          ? branches[0]
          : undefined;
    if (!chosen) break;
    const [name, value] = chosen;
    if (
      named.length === 0 &&
      (isCompound(name, value as JsonObject) || isCheckboxGroup(value as JsonObject)) &&
      entries.length > 1
    )
      break;
    for (const [key, each] of entries) if (key !== name && !Object.hasOwn(around, key)) setOwn(around, key, each);
    pointer = `${pointer}/${escapeToken(name)}`;
    answers = valueAt(answers, `/${escapeToken(name)}`) as JsonObject;
    isNamed ||= named.length === 1;
  }
  const own: JsonObject = {};
  for (const [name, value] of Object.entries(answers)) {
    if (
      isEnvelopeKey(name, value) ||
      (pointer === at && isAside(name) && isJsonObject(value) && !isCompound(name, value))
    ) {
      if (!Object.hasOwn(around, name)) setOwn(around, name, value);
    } else setOwn(own, name, value);
  }
  return { answers: own, around, pointer, isNamed };
}

/** `form`, `client`, `metadata`: objects that never hold the answers. */
const isAside = (name: string): boolean =>
  (speaksOf(name, 'form') && nameWords(name).length <= 2 && !speaksOf(name, 'answer')) ||
  (speaksOnlyOf(name, 'sender') && !/^(hidden|page|user|respondent)$/i.test(name)) ||
  /^(defin|schema|labels?$|questions?$|field_?(labels|names|defs|definitions)|links?$|_)/i.test(name);

/** Names that say that the answers are inside, the surest first. */
const answersNames = [
  /^(answers?|reponses?|antworten|respuestas|antwoorden)$/,
  /^(fields|values|inputs?|valeurs|werte|valores)$/,
  /^(form_?(data|values|fields|response|answers))$/,
  /^(responses?|entries)$/,
  /^(data|payload|body|content|record|submission)$/,
];

/** The branch whose name says that the answers are inside; none where two say so alike. */
function mostLikelyNamed(branches: [string, Json][]): [string, Json][] {
  for (const pattern of answersNames) {
    const found = branches.filter(([name]) => pattern.test(nameWords(name).join('_')));
    if (found.length > 0) return found;
  }
  return [];
}
