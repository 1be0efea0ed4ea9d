import { isBlank, isJsonObject, type Json, type JsonObject } from '../../submission';
import { filesOf } from '../files';
import {
  isAddressObject,
  isCheckboxGroup,
  isMatrix,
  isMoment,
  isOtherTime,
  isNameObject,
  nameWords,
  readsAsTime,
  speaksOf,
  speaksOnlyOf,
  tellingWords,
  tellsOnlyOf,
  timeRank,
} from '../names';

/**
 * How well texts and values fit the parts they are given: the weights that readings are compared by, each from 0 to 1.
 * Common practice, no source.
 */

/** Pieces between white space; 1 for a text without any. */
export function wordCount(text: string): number {
  let count = 0;
  let inWord = false;
  const end = Math.min(text.length, 400);
  for (let at = 0; at < end; at++) {
    const isSpace = text.charCodeAt(at) <= 32 || text.charCodeAt(at) === 160;
    if (!isSpace && !inWord) count++;
    inWord = !isSpace;
  }
  return Math.max(1, count);
}

/** Letters of scripts that do not part words by blanks. */
const unparted = /[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Thai}]/u;

const isOpaque = (key: string): boolean => /^[a-z]{0,5}[_-]?\d+$/i.test(key) || /^.$/u.test(key) || isCode(key);

/** Letters and digits mixed as people do not write: `5f1a`, `x9-k2`. */
const isCode = (text: string): boolean =>
  text.length <= 64 && /\d/.test(text) && /^[\w.-]+$/.test(text) && /\d[a-z]|[a-z]\d.*[a-z]/i.test(text);

const known = new Map<string, number>();

/** How much a text reads like the wording of a question. */
export function wordingWorth(text: string): number {
  const before = known.get(text);
  if (before !== undefined) return before;
  const worth = worthOf(text.trim());
  if (known.size > 20_000) known.clear();
  if (text.length < 200) known.set(text, worth);
  return worth;
}

function worthOf(text: string): number {
  if (text === '' || !/\p{L}/u.test(text)) return 0.1;
  if (readsAsTime(text) || /^[^\s@]+@[^\s@]+$/.test(text) || /^https?:/i.test(text)) return 0.1;
  if (/[?？]/.test(text)) return 1;
  if (/^[^:]{1,60}: \S/.test(text)) return 0.2;
  if (/\s/.test(text) || unparted.test(text)) return text.length > 400 ? 0.4 : 1;
  if (isOpaque(text)) return 0.3;
  if (/^\p{Lu}[\p{Ll}-]/u.test(text)) return 0.9;
  return 0.7;
}

/** Names that every shape of answer has for its parts, and none for its questions. */
export const isStructural = (name: string): boolean =>
  !/\s/.test(name) && speaksOnlyOf(name, 'wording', 'kind', 'answer', 'id', 'old');

/** How well a value fits as what was answered. */
export function valueWorth(value: Json): number {
  if (Array.isArray(value)) return listWorth(value);
  if (!isJsonObject(value)) return 1;
  if (Object.keys(value).length === 0) return 1;
  if (isNameObject(value) || isAddressObject(value) || isCheckboxGroup(value) || isMatrix(value)) return 1;
  if (filesOf('', value, false) !== null) return 1;
  const inner = Object.values(value);
  if (inner.every(each => typeof each !== 'object' || each === null)) return inner.length <= 6 ? 0.85 : 0.5;
  if (inner.every(each => Array.isArray(each) && each.every(item => typeof item !== 'object'))) return 0.8;
  return 0.15;
}

function listWorth(list: Json[]): number {
  if (list.every(each => typeof each !== 'object' || each === null)) return 1;
  const head = list.slice(0, 20);
  if (filesOf('', head, false) !== null) return 1;
  if (head.every(Array.isArray)) return head.every(row => row.every(cell => typeof cell !== 'object')) ? 0.7 : 0.2;
  if (!head.every(isJsonObject)) return 0.3;
  const isFlat = head.every(row => Object.values(row).every(cell => typeof cell !== 'object' || cell === null));
  if (!isFlat) return 0.15;
  if (head.every(isOption)) return 0.9;
  return head.some(row => isOneAnswer(row)) ? 0.3 : 0.75;
}

/** `{ id: 's1', label: 'Plums' }`: a chosen option with its identifier, which nobody would give for an answer. */
const isOption = (row: JsonObject): boolean => {
  const entries = Object.entries(row);
  const label = entries.find(([name, value]) => speaksOf(name, 'wording') && typeof value === 'string');
  const isToken = (value: Json | undefined) =>
    typeof value === 'number' ||
    typeof value === 'boolean' ||
    (typeof value === 'string' && /^[a-z\d_-]{1,24}$/.test(value));
  return (
    label !== undefined &&
    entries.length < 4 &&
    entries.length > 1 &&
    entries.every(each => each === label || isToken(each[1]))
  );
};

/** `{ label, value }`: an answer with its question, by the names of its members. */
const isOneAnswer = (row: JsonObject): boolean => {
  const names = Object.keys(row);
  return names.some(name => speaksOf(name, 'wording')) && names.some(name => speaksOnlyOf(name, 'answer'));
};

/** Single words that speak of the submission when they stand among its answers. */
const alone = new Set(
  (
    'id uid uuid guid ip form formular formulaire formulario formulier survey submission submitted received sent ' +
    'timestamp browser referer referrer useragent status locale horodatage zeitstempel eingegangen ref folio'
  ).split(' '),
);

type Judge = (value: Json) => number;

const judges = new Map<string, Judge>();
const MOST_JUDGES = 20_000;

/** How much a name and its value say that they tell of the submission, not of an answer. */
export function aroundWorth(name: string, value: Json): number {
  return judgeOf(name)(value);
}

/** What a name says is found out once: payloads repeat their names. */
function judgeOf(name: string): Judge {
  const known = judges.get(name);
  if (known) return known;
  const judge = judgeFor(name);
  if (judges.size > MOST_JUDGES) judges.clear();
  if (name.length < 200) judges.set(name, judge);
  return judge;
}

const isTimed = (value: Json): boolean =>
  (typeof value === 'string' || typeof value === 'number') && readsAsTime(value);

function judgeFor(name: string): Judge {
  const dot = name.lastIndexOf('.');
  // `meta.form`, `entry.id`: what it is of is told before it.
  if (
    dot > 0 &&
    dot < name.length - 1 &&
    !/\s/.test(name) &&
    speaksOnlyOf(name.slice(0, dot), 'sender', 'submission', 'form')
  ) {
    const [last, joined] = [judgeOf(name.slice(dot + 1)), judgeOf(name.replaceAll('.', '_'))];
    return value => Math.max(last(value), joined(value));
  }
  const rank = timeRank(name);
  const own = judgeByWords(name, tellingWords(name), rank);
  const mayBeInstant = !/\s/.test(name) && !isOtherTime(name) && rank === 0;
  return mayBeInstant ? value => (typeof value === 'string' && isInstant(value) ? 0.6 : own(value)) : own;
}

const never: Judge = () => 0;

function judgeByWords(name: string, words: string[], rank: number): Judge {
  if (words.length === 0) return /^\s*#\s*$/.test(name) ? () => 0.9 : never;
  if (/[?？]/.test(name)) return never;
  if (/^_[a-z]|^utm_|^g-recaptcha|^http_/i.test(name)) return () => 0.9;
  if (words.length === 1) return judgeByWord(name, words[0]!, rank);
  if (rank > 0 && tellsOnlyOf(name, 'time', 'submission', 'form', 'answer'))
    return value => (isTimed(value) ? 0.95 : 0.4);
  const plain = worthOfWords(name, words);
  return rank > 1 && words.length < 4 ? value => (isTimed(value) && isMoment(value) ? 0.8 : plain) : () => plain;
}

function worthOfWords(name: string, words: string[]): number {
  if (speaksOf(name, 'form') && tellsOnlyOf(name, 'form', 'id', 'name', 'sender', 'time')) return 0.9;
  if (speaksOf(name, 'id') && tellsOnlyOf(name, 'id', 'submission', 'form', 'answer', 'sender')) return 0.9;
  if (/^(ip|user agent|user_agent|remote addr|page url|source url|referr?er)/i.test(words.join(' '))) return 0.9;
  return speaksOf(name, 'sender') && tellsOnlyOf(name, 'sender', 'id', 'time', 'submission', 'form') ? 0.8 : 0;
}

function judgeByWord(name: string, word: string, rank: number): Judge {
  const rest = judgeUntimed(name, word);
  if (rank === 0) return rest;
  const isVague = /^(time|date|when|datum|fecha)$/.test(word);
  const untimed: Judge = rank >= 3 && word !== 'entered' ? value => (value === null || value === '' ? 0.6 : 0.3) : rest;
  return value =>
    !isTimed(value) ? untimed(value) : !isVague || (typeof value === 'string' && isInstant(value)) ? 0.9 : 0.45;
}

function judgeUntimed(name: string, word: string): Judge {
  if (alone.has(word)) return () => 0.9;
  const sender = speaksOf(name, 'sender') ? 0.35 : 0;
  const rest: Judge = sender === 0 ? never : value => (isLong(value) ? 0 : sender);
  const ofKind: Judge = speaksOnlyOf(name, 'kind', 'submission')
    ? value => (typeof value === 'string' && /^[a-z][a-z_.:-]*$/.test(value) ? 0.45 : rest(value))
    : rest;
  const worth = tokenWorth(name, word);
  return worth === 0 ? ofKind : value => (isOneWord(value) ? worth : ofKind(value));
}

/** What a single word counts for above a value in one word, with figures. */
function tokenWorth(name: string, word: string): number {
  if (speaksOf(name, 'id') && !/^(key|code|no|number|nr|token)$/.test(word))
    return /(nummer|番号|id)$/.test(word) ? 0.8 : 0.6;
  if (/^(submission|entry|response|reply|record|row)$/.test(word)) return 0.7;
  return /^[a-z]{1,2}id$/.test(word) ? 0.6 : 0;
}

/** A date with the time of day and a zone (RFC 3339), as machines write it and people do not. */
const isInstant = (text: string): boolean =>
  /^\d{4}-\d\d-\d\dT\d\d:\d\d(:\d\d(\.\d{1,9})?)?(Z|[+-]\d\d:?\d\d)$/.test(text);

const isOneWord = (value: Json): boolean =>
  /^[^\s@]{1,60}$/.test(typeof value === 'object' ? '' : String(value)) && /\d/.test(String(value));

const isLong = (value: Json): boolean => typeof value === 'string' && wordCount(value) > 3;

/** How much it would have to be explained that a leaf is no answer. */
export function answerWorth(name: string, value: Json): number {
  if (isBlank(value)) return 0;
  const around = aroundWorth(name, value);
  if (around >= 0.8) return 0;
  if (typeof value === 'string' && (wordCount(value) > 1 || value.includes('@')))
    return readsAsTime(value) ? 0.1 : 1 - around;
  if (/\s|[?？]/.test(name)) return 1 - around;
  if (typeof value === 'string' && (readsAsTime(value) || isCode(value) || /^https?:/.test(value))) return 0.1;
  if (isStructural(name) || nameWords(name).length === 0) return 0.2;
  return Math.max(0, 0.5 - around);
}

/** The same for a leaf by what it stands in: the name of a form is none. */
export function leafWorth(path: string[], value: Json): number {
  const [name = '', above] = [path.at(-1), path.at(-2)];
  const own = answerWorth(name, value);
  return above !== undefined && own > 0 && speaksOnlyOf(above, 'form', 'submission', 'sender')
    ? Math.min(own, answerWorth(`${above}_${name}`, value))
    : own;
}

/** Leaves of a value that are looked at. */
const MOST_LEAVES = 600;

export interface Leaf {
  /** The names on the way to it, its own last. */
  path: string[];
  value: Json;
}

/** What stands in a value, below objects; lists of plain values are one. Lists of objects are looked into when asked to. */
export function leavesOf(value: Json, intoLists: boolean, path: string[] = [], found: Leaf[] = []): Leaf[] {
  if (found.length >= MOST_LEAVES || path.length > 24) return found;
  if (Array.isArray(value) && intoLists && value.some(each => typeof each === 'object' && each !== null))
    for (const each of value) leavesOf(each, intoLists, path, found);
  else if (isJsonObject(value)) for (const name in value) leavesOf(value[name]!, intoLists, [...path, name], found);
  else found.push({ path, value });
  return found;
}
