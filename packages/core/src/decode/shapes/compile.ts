import { asText, isJsonObject, valueAt, type Json, type JsonObject } from '../../submission';
import { questionKey } from '../../scope';
import type { EnvelopeReading, RawSubmission } from '../envelope';
import { most } from '../notes';
import { answerReader, questionOf, verdictOn, withOwnKeys, type FilesAsked } from '../value';
import { namesIn, sortOf, sortOfMeta, sorts } from './sort';
import { askedIn, holdsAnswer, partAt, type Asked, type Inner, type Template } from './template';

/** A part of what is told of a submission: the same in each, or what stands in a slot. */
type Made = (said: readonly (Json | undefined)[]) => Json;

/** The reader of one shape. */
export interface Compiled {
  template: Template;
  /** The place whose parts are questions, each by itself; null where there is none. */
  open: Inner | null;
  form: RawSubmission['form'];
  /** Slots; null for what is not told. */
  id: number | null;
  submittedAt: number | null;
  meta: [name: string, made: Made][];
}

/** Places of a document up to which a reader is made for its shape. */
const MOST_PLACES = 1500;

/**
 * The reader of a document's shape, made from how the document was read: null where a part of the result stands nowhere in it as
 * it was read, since nothing then tells where that would stand in another.
 */
export function compile(document: Json, reading: EnvelopeReading, files: FilesAsked = {}): Compiled | null {
  const [submission, ...more] = reading.submissions;
  if (!submission || more.length > 0 || reading.splitAt !== undefined) return null;
  if (submission.answers.length > most.answers) return null;
  const answers = askedAt(document, submission, files);
  const places = answers && placesOf(document, answers);
  if (!places) return null;
  const fixed = fixedBy(submission);
  const slots = new Map<string, number>();
  const slotFor = (pointers: string[]): number => {
    const slot = slots.get(pointers[0]!) ?? new Set(slots.values()).size;
    for (const pointer of pointers) slots.set(pointer, slot);
    return slot;
  };
  const saying = (text: string | null): number | null | undefined => {
    if (text === null) return null;
    const at = places.filter(({ value }) => typeof value !== 'object' && String(value).trim() === text);
    if (at.length === 0 || fixed.has(text)) return undefined;
    // What stands several times as different values is not one thing.
    return new Set(at.map(each => each.value)).size === 1 ? slotFor(at.map(each => each.pointer)) : undefined;
  };
  const [id, submittedAt] = [saying(submission.id), saying(submission.submittedAt)];
  if (id === undefined || submittedAt === undefined) return null;
  const meta: Compiled['meta'] = [];
  for (const [name, value] of Object.entries(submission.meta)) {
    const place = places.find(each => each.name === name && JSON.stringify(each.value) === JSON.stringify(value));
    if (!place) return null;
    meta.push([name, madeOf(value, place.pointer, pointer => slotFor([pointer]), fixed)]);
  }
  const making = { answers, slots, fixed, openAt: openPlace(document, reading, submission) };
  const template = templateOf(document, '', making);
  const open = making.openAt === null ? null : innerAt(template, making.openAt);
  return { template, open, form: submission.form, id, submittedAt, meta };
}

/** The questions by where their answers stand; null where one stands nowhere as it was read, or two stand in one another. */
function askedAt(document: Json, { answers }: RawSubmission, files: FilesAsked): Map<string, Asked> | null {
  const asked = new Map<string, Asked>();
  const named = withOwnKeys(answers.map(each => ({ ...each, key: questionKey(each.key) })));
  for (const answer of named) {
    const { key, label, stated, options, pointer, value, other } = answer;
    if (other !== null || asked.has(pointer)) return null;
    const sent = valueAt(document, pointer);
    if (sent === undefined || JSON.stringify(sent) !== JSON.stringify(value)) return null;
    asked.set(pointer, {
      ...questionOf({ key, label, pointer, options }),
      read: answerReader({ key, label, stated, options }, verdictOn(files, key)),
    });
  }
  return asked;
}

interface Place {
  pointer: string;
  name: string;
  value: Json;
}

/** All places but those in answers; null where there are too many, or an answer was not reached. */
function placesOf(document: Json, answers: ReadonlyMap<string, Asked>): Place[] | null {
  const found: Place[] = [];
  let reached = 0;
  const walk = (value: Json, pointer: string, name: string): void => {
    if (answers.has(pointer)) return void (reached += 1);
    if (found.push({ pointer, name, value }) > MOST_PLACES) return;
    if (typeof value !== 'object' || value === null) return;
    for (const [inner, each] of Object.entries(value)) walk(each, partAt(pointer, inner), inner);
  };
  walk(document, '', '');
  return found.length <= MOST_PLACES && reached === answers.size ? found : null;
}

/** The texts a reading rests on. */
function fixedBy({ form, answers }: RawSubmission): Set<string> {
  const fixed = new Set([form?.key, form?.name].filter(each => typeof each === 'string'));
  for (const { key, label, options } of answers) {
    fixed.add(key).add(label);
    for (const [option, wording] of options ?? []) fixed.add(option).add(wording);
  }
  return fixed;
}

const isFixed = (value: Json, fixed: ReadonlySet<string>): boolean => fixed.has(asText(value).trim());

function madeOf(value: Json, pointer: string, slotAt: (pointer: string) => number, fixed: ReadonlySet<string>): Made {
  if (Array.isArray(value)) {
    const parts = value.map((each, index) => madeOf(each, partAt(pointer, String(index)), slotAt, fixed));
    return said => parts.map(made => made(said));
  }
  if (isJsonObject(value)) {
    const parts = Object.entries(value).map(
      ([name, each]) => [name, madeOf(each, partAt(pointer, name), slotAt, fixed)] as const,
    );
    return said => Object.fromEntries(parts.map(([name, made]) => [name, made(said)]));
  }
  if (isFixed(value, fixed)) return () => value;
  const slot = slotAt(pointer);
  return said => said[slot] ?? null;
}

interface Making {
  answers: ReadonlyMap<string, Asked>;
  slots: ReadonlyMap<string, number>;
  fixed: ReadonlySet<string>;
  openAt: string | null;
}

function templateOf(value: Json, pointer: string, making: Making): Template {
  const asked = making.answers.get(pointer);
  if (asked) return { is: 'answer', asked, accepts: sortOf(value) & ~sorts.opening, names: namesIn(value) };
  const slot = making.slots.get(pointer);
  if (slot !== undefined) return { is: 'said', slot, accepts: sortOfMeta(value) & ~sorts.opening };
  if (typeof value !== 'object' || value === null)
    return { is: 'constant', value, isFixed: isFixed(value, making.fixed) };
  const names = Object.keys(value);
  const parts = names.map(name => templateOf((value as JsonObject)[name]!, partAt(pointer, name), making));
  const isOpen = pointer === making.openAt;
  return { is: Array.isArray(value) ? 'list' : 'object', names, parts, isOpen, pointer };
}

/** Where each part may be a question by itself: what holds the answers, where nothing else in it is told of the submission. */
function openPlace(document: Json, { answersAt }: EnvelopeReading, { answers }: RawSubmission): string | null {
  const holder = valueAt(document, answersAt);
  if (typeof holder !== 'object' || holder === null) return null;
  if (new Set(answers.map(each => questionKey(each.key))).size < answers.length) return null;
  const inside = answers.filter(({ pointer }) => pointer.startsWith(`${answersAt}/`));
  const parts = new Set(inside.map(({ pointer }) => pointer.slice(answersAt.length + 1).split('/')[0]));
  return inside.length > 0 && parts.size === inside.length ? answersAt : null;
}

function innerAt(template: Template, pointer: string): Inner | null {
  if (template.is !== 'object' && template.is !== 'list') return null;
  if (template.isOpen) return template;
  const way = template.names.findIndex(name => {
    const place = partAt(template.pointer, name);
    return place === pointer || pointer.startsWith(`${place}/`);
  });
  return way < 0 ? null : innerAt(template.parts[way]!, pointer);
}

/** Takes up the parts of the open place that another message has, at the places they have there. False where that can't be. */
export function takeUp(known: Compiled, other: Compiled, unknown: string[]): boolean {
  const [open, more] = [known.open, other.open];
  if (!open || !more || open.pointer !== more.pointer || open.is !== more.is) return false;
  const added = unknown.map(name => more.names.indexOf(name));
  if (added.some(at => at < 0 || (open.is === 'object' && !holdsAnswer(more.parts[at]!)))) return false;
  if (open.names.length + added.length > MOST_PLACES) return false;
  for (const at of added) {
    // Behind the part it stands behind there.
    const before = at === 0 ? -1 : sameAs(open, more, at - 1);
    open.names.splice(before + 1, 0, more.names[at]!);
    open.parts.splice(before + 1, 0, more.parts[at]!);
  }
  if (open.is === 'list') renumber(open);
  return true;
}

/** The index in one open place of the part that stands at an index of another; the last where there is none. */
function sameAs(open: Inner, other: Inner, at: number): number {
  const part = other.parts[at]!;
  if (open.parts.includes(part)) return open.parts.indexOf(part);
  if (open.is === 'object') return open.names.indexOf(other.names[at]!);
  const keyOf = (each: Template) => askedIn(each)[0]?.key;
  const key = keyOf(part);
  const found = key === undefined ? -1 : open.parts.findIndex(each => keyOf(each) === key);
  return found < 0 ? open.parts.length - 1 : found;
}

/** The parts of a list stand at their numbers; so do the answers in them. */
function renumber(open: Inner): void {
  open.names = open.parts.map((_, index) => String(index));
  open.parts.forEach((part, index) => {
    for (const asked of askedIn(part)) {
      const own = asked.pointer
        .slice(open.pointer.length + 1)
        .split('/')
        .slice(1);
      asked.pointer = [open.pointer, index, ...own].join('/');
    }
  });
}
