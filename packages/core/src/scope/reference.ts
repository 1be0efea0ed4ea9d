import { answerOf, ARRIVED_AT, type Json } from '../submission';
import { placeAt, placeWords } from './place';
import type { Scope } from './scope';

/** What can be said about a submission beside its answers. */
const facts = {
  id: { text: '@id', label: 'Submission id', of: ({ submission }: Scope): Json => submission.id },
  submittedAt: { text: '@submittedAt', label: 'Sent at', of: ({ submission }: Scope): Json => submission.submittedAt },
  arrivedAt: {
    text: '@arrivedAt',
    label: 'Arrived at',
    of: ({ submission }: Scope): Json => submission.meta[ARRIVED_AT] ?? null,
  },
  form: { text: '@form', label: 'Form', of: ({ submission }: Scope): Json => submission.form?.key ?? null },
  formName: {
    text: '@formName',
    label: 'Form name',
    of: ({ submission }: Scope): Json => submission.form?.name ?? null,
  },
} as const;
export type Fact = keyof typeof facts;

/**
 * What a line, a step or a condition refers to. Definitions hold it as text: the key of a question as it is, all else behind
 * an `@` in a name space of its own, which no question can be in ({@link questionKey}). Pointers are JSON Pointers
 * (RFC 6901); the empty one means the whole.
 */
export type Reference =
  | { to: 'question'; key: string }
  | { to: 'fact'; fact: Fact }
  | { to: 'envelope'; name: string }
  | { to: 'answer'; callId: string; pointer: string }
  /** What identifies the record that a call found or made, whichever it was. */
  | { to: 'identity'; callId: string }
  | { to: 'item'; pointer: string }
  | { to: 'itemNumber' }
  | { to: 'record'; pointer: string };

const ENVELOPE = '@meta/';
const ANSWER = '@answer/';
const IDENTITY = '@record/';
const ITEM = '@item';
const ITEM_NUMBER = '@itemNumber';
const RECORD = '@found';

const factOfText = new Map(Object.entries(facts).map(([fact, { text }]) => [text as string, fact as Fact]));

/** What a text refers to: every text refers to something, the key of a question if to nothing else. */
export function referenceOf(text: string): Reference {
  if (!text.startsWith('@')) return { to: 'question', key: text };
  const fact = factOfText.get(text);
  if (fact) return { to: 'fact', fact };
  if (text === ITEM_NUMBER) return { to: 'itemNumber' };
  if (isIn(ITEM, text)) return { to: 'item', pointer: text.slice(ITEM.length) };
  if (isIn(RECORD, text)) return { to: 'record', pointer: text.slice(RECORD.length) };
  if (text.startsWith(ENVELOPE)) return { to: 'envelope', name: text.slice(ENVELOPE.length) };
  if (text.startsWith(IDENTITY)) return { to: 'identity', callId: text.slice(IDENTITY.length) };
  if (text.startsWith(ANSWER)) {
    const [callId = ''] = text.slice(ANSWER.length).split('/', 1);
    return { to: 'answer', callId, pointer: text.slice(ANSWER.length + callId.length) };
  }
  return { to: 'question', key: text };
}

const isIn = (whole: string, text: string) => text === whole || text.startsWith(`${whole}/`);

/** A reference as definitions hold it: what {@link referenceOf} reads. */
export function referenceText(reference: Reference): string {
  switch (reference.to) {
    case 'question':
      return reference.key;
    case 'fact':
      return facts[reference.fact].text;
    case 'envelope':
      return ENVELOPE + reference.name;
    case 'answer':
      return ANSWER + reference.callId + reference.pointer;
    case 'identity':
      return IDENTITY + reference.callId;
    case 'item':
      return ITEM + reference.pointer;
    case 'itemNumber':
      return ITEM_NUMBER;
    case 'record':
      return RECORD + reference.pointer;
  }
}

/** The key of a question by the name that a payload gives it: a name that means something else gets a word before it. */
export const questionKey = (name: string): string => (referenceOf(name).to === 'question' ? name : `question ${name}`);

/** True for what is known only while a delivery is under way. */
export const isOfDelivery = ({ to }: Reference): boolean => to === 'answer' || to === 'identity' || to === 'record';

/** True for what means the item that something is repeated for. */
export const isOfItem = ({ to }: Reference): boolean => to === 'item' || to === 'itemNumber';

/** Under what name the identifier of a call's record stands among the answers: no call is called so. */
export const identityName = (callId: string): string => `${callId}#record`;

/** How a reference reads to people by itself; undefined where only a question or an operation has the words. */
export function referenceLabel(reference: Reference): string | undefined {
  switch (reference.to) {
    case 'fact':
      return facts[reference.fact].label;
    case 'envelope':
      return `${reference.name} (envelope)`;
    case 'item':
      return reference.pointer === '' ? 'the item' : `${pathWords(reference.pointer)} of the item`;
    case 'itemNumber':
      return 'number of the item';
    case 'answer':
      return `${pathWords(reference.pointer)} from an earlier call`;
    case 'record':
      return `${pathWords(reference.pointer)} as found`;
    default:
      return undefined;
  }
}

const pathWords = (pointer: string) => placeWords(pointer) || 'record';

/** Every fact as a reference, in the order in which they are offered. */
export const factReferences: Reference[] = Object.keys(facts).map(fact => ({ to: 'fact', fact: fact as Fact }));

/**
 * A reference as a function of a scope: what it stands for there, undefined where nothing was said. Whoever fills the form has
 * no say in which that is: only a reference to a question gives an answer.
 */
export function compileReference(reference: Reference): (scope: Scope) => Json | undefined {
  switch (reference.to) {
    case 'question':
      return ({ submission }) => answerOf(submission, reference.key);
    case 'fact':
      return facts[reference.fact].of;
    case 'envelope':
      return ({ submission }) => own(submission.meta, reference.name);
    case 'answer':
      return ({ answers }) => partOf(own(answers, reference.callId), reference.pointer);
    case 'identity':
      return ({ answers }) => own(answers, identityName(reference.callId));
    case 'item':
      return ({ item }) => partOf(item?.value, reference.pointer);
    case 'itemNumber':
      return ({ item }) => item?.number ?? null;
    case 'record':
      return ({ record }) => partOf(record, reference.pointer);
  }
}

/** What a reference, as text, stands for in a scope. Where that is asked again and again, {@link compileReference} once. */
export const referredTo = (scope: Scope, text: string): Json | undefined => compileReference(referenceOf(text))(scope);

/** A member that the object itself has, whatever it is called. */
const own = (object: Readonly<Record<string, Json>>, name: string): Json | undefined =>
  Object.hasOwn(object, name) ? object[name] : undefined;

function partOf(value: Json | undefined, pointer: string): Json | undefined {
  if (value === undefined || pointer === '') return value;
  return typeof value === 'object' && value !== null ? placeAt(value, pointer) : undefined;
}
