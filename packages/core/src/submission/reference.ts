import { isJsonObject, type Json } from './json';
import { valueAt } from './pointer';
import { answerOf, type Submission } from './submission';

/** A submission in the midst of its delivery. */
export interface Situation extends Submission {
  /** What earlier calls answered, by the calls' ids. */
  answers?: Record<string, Json>;
  /** What a repeated call is about this time: a file, a choice, a row. */
  item?: Json;
  /** Its place among them, from 1. */
  itemNumber?: number;
  /** The record that the target has already. */
  found?: Json;
}

/** What can be said about a submission beside its answers. The key is stored, the label is shown. */
export const aboutSubmission = [
  { key: '@id', label: 'Submission id' },
  { key: '@submittedAt', label: 'Sent at' },
  { key: '@form', label: 'Form' },
  { key: '@formName', label: 'Form name' },
] as const;

const META = '@meta/';
const ANSWER = '@answer/';
/** The item of a repeated call; with a JSON Pointer behind it, a part of it. */
export const ITEM = '@item';
export const ITEM_NUMBER = '@itemNumber';
/** The record that was found; with a JSON Pointer behind it, a part of it. */
export const FOUND = '@found';

/** The key under which part of an earlier call's answer is referred to; `pointer` is a JSON Pointer. */
export const answerKey = (callId: string, pointer: string): string => `${ANSWER}${callId}${pointer}`;

/** The call whose answer a key refers to; null for any other key. */
export const answeringCall = (key: string): string | null =>
  key.startsWith(ANSWER) ? key.slice(ANSWER.length).split('/', 1)[0]! : null;

/** True for a key that refers to what is known only while a delivery is under way. */
export const isOfDelivery = (key: string): boolean => key.startsWith(ANSWER) || isIn(FOUND, key);

/** True for a key that refers to the item of a repeated call, a part of it, or its number. */
export const isOfItem = (key: string): boolean => key === ITEM_NUMBER || isIn(ITEM, key);

/** True for a key that refers to the record that was found. */
export const isOfRecord = (key: string): boolean => isIn(FOUND, key);

const isIn = (whole: string, key: string) => key === whole || key.startsWith(`${whole}/`);

/** The key under which a submission's envelope value of this name is referred to. */
export const metaKey = (name: string): string => META + name;

/** How a reference reads to people, when it is none to a question; undefined for a question's key. */
export function aboutLabel(key: string): string | undefined {
  if (key.startsWith(META)) return `${key.slice(META.length)} (envelope)`;
  if (key === ITEM) return 'the item';
  if (key === ITEM_NUMBER) return 'number of the item';
  if (isIn(ITEM, key)) return `${pathWords(key, ITEM)} of the item`;
  if (isIn(FOUND, key)) return `${pathWords(key, FOUND)} as found`;
  return aboutSubmission.find(each => each.key === key)?.label;
}

const pathWords = (key: string, whole: string) => key.slice(whole.length + 1).replaceAll('/', '.') || 'record';

const aboutKeys = new Set<string>([...aboutSubmission.map(each => each.key), ITEM_NUMBER]);

/** True for a key that refers to something beside the answers: no question may be called so. */
export const isReserved = (key: string): boolean =>
  key.startsWith('@') &&
  (aboutKeys.has(key) || isIn(ITEM, key) || isIn(FOUND, key) || key.startsWith(META) || key.startsWith(ANSWER));

/** The key of a question by the name that a payload gives it: a name that is reserved gets a word before it. */
export const questionKey = (name: string): string => (isReserved(name) ? `question ${name}` : name);

/**
 * What a stored reference stands for: the answer to the question of this key, or one of {@link aboutSubmission}, an
 * envelope value, or what is known while a delivery is under way. Whoever fills the form has no say in which: what is
 * reserved never refers to an answer. Undefined where nothing was said.
 */
export function referredTo(submission: Situation, key: string): Json | undefined {
  if (!isReserved(key)) return answerOf(submission, key);
  if (isIn(ITEM, key)) return partOf(submission.item, key.slice(ITEM.length));
  if (isIn(FOUND, key)) return partOf(submission.found, key.slice(FOUND.length));
  const call = answeringCall(key);
  if (call !== null) return partOf(own(submission.answers, call), key.slice(ANSWER.length + call.length));
  if (key.startsWith(META)) return own(submission.meta, key.slice(META.length));
  const about: Record<string, Json> = {
    '@id': submission.id,
    '@submittedAt': submission.submittedAt,
    '@form': submission.form?.key ?? null,
    '@formName': submission.form?.name ?? null,
    [ITEM_NUMBER]: submission.itemNumber ?? null,
  };
  return about[key];
}

/** A member that the object itself has, whatever it is called. */
const own = (object: Record<string, Json> | undefined, name: string): Json | undefined =>
  object !== undefined && Object.hasOwn(object, name) ? object[name] : undefined;

function partOf(value: Json | undefined, pointer: string): Json | undefined {
  if (value === undefined || pointer === '') return value;
  return isJsonObject(value) || Array.isArray(value) ? valueAt(value, pointer) : undefined;
}
