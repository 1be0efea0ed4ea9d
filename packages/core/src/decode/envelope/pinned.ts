import { asText, escapeToken, isJsonObject, labelFromKey, valueAt, type Json, type JsonObject } from '../../submission';
import { surroundings } from '../names';
import { DEEPEST, most } from '../notes';
import { generationsOf, readByLandmarks, type Pins, type PinSet } from '../pins';
import { around } from './around';
import { byOrder, collectionsIn, containersAmong, type Item } from './collections';
import { definitionsIn, joined } from './definitions';
import { flatAt } from './flat';
import { rawAnswer } from './labelled';
import { partsOf, type Parts } from './properties';
import type { EnvelopeReading, RawAnswer, RawSubmission } from './reader';

/** The automatic readings of one submission's document, surest first. */
type ReadingsOf = (object: JsonObject, at: string) => EnvelopeReading[];

/** One submission's part of a document. */
interface Unit {
  value: Json;
  at: string;
  /** Its identifier, where they stand in an object by identifiers. */
  key?: string;
}

/** A reading as pinned, with what of it was not found. */
export interface PinnedReading {
  reading: EnvelopeReading;
  /** Which generation's pins they are, from 0. */
  generation: number;
  lacking: string[];
}

/**
 * The reading that a person's pins ask for: by those of the first generation that are all found in the document, or else of the
 * first that may be read by. Where none may, the sentence that says why: such a message is read without pins.
 * @param automatic the reading without pins, for what is not pinned
 */
export function readPinned(
  document: Json,
  pins: Pins,
  automatic: EnvelopeReading | null,
  readingsOf: ReadingsOf,
  media: string | null = null,
): PinnedReading | string {
  let partial: PinnedReading | null = null;
  const faults: string[] = [];
  for (const [generation, set] of generationsOf(pins).entries()) {
    const isMeant = !set.media || set.media.as === media;
    const reading = isMeant ? readBySet(document, set, automatic, readingsOf) : otherMedia(set.media!);
    if (typeof reading === 'string') {
      faults.push(reading);
      continue;
    }
    const lacking = lackingIn(document, reading, set);
    if (lacking.length === 0) return { reading, generation, lacking };
    partial ??= { reading, generation, lacking };
  }
  if (partial) return partial;
  const [first = 'Nothing is pinned.', ...more] = faults;
  return more.length === 0 ? first : `None of ${faults.length} generations of pins fits it. ${first}`;
}

/** Answers by which it is found out whether what was pinned is in their items. */
const MOST_LOOKED_AT = 200;

const otherMedia = ({ stated }: NonNullable<PinSet['media']>): string =>
  `What is pinned is for bodies ${stated === null ? 'that state no Content-Type' : `sent as ${stated}`}.`;

/** What is pinned and stands nowhere in the message, in sentences. */
function lackingIn(document: Json, { submissions }: EnvelopeReading, pins: PinSet): string[] {
  const units = unitsOf(document, pins);
  const isIn = (pointer: string) =>
    valueAt(document, pointer) !== undefined ||
    (typeof units !== 'string' && units.some(({ value }) => valueAt(value, pointer) !== undefined));
  const answers = submissions.flatMap(each => each.answers);
  const lacks = (pointer: string | undefined, what: string, isFound: (pointer: string) => boolean) =>
    pointer === undefined || isFound(pointer)
      ? []
      : [`The place pinned for ${what}, ${pointer}, is not in this message; it was found out without that pin.`];
  // What was pinned in an answer's item stands beside its value, or beside what holds that.
  const isInItem = (pointer: string) =>
    answers.slice(0, MOST_LOOKED_AT).some(({ pointer: at }) => {
      const steps = at.split('/');
      return steps.some((_, index) => valueAt(document, steps.slice(0, index + 1).join('/') + pointer) !== undefined);
    });
  return [
    ...lacks(pins.form, 'the form', isIn),
    ...lacks(pins.id, 'the identifier', isIn),
    ...lacks(pins.time, 'the time', isIn),
    ...lacks(pins.value, 'the answer', pointer => answers.some(each => each.pointer.endsWith(pointer))),
    ...lacks(pins.label, 'the wording', isInItem),
    ...lacks(pins.key, 'the question’s identifier', isInItem),
  ];
}

function readBySet(
  document: Json,
  pins: PinSet,
  automatic: EnvelopeReading | null,
  readingsOf: ReadingsOf,
): EnvelopeReading | string {
  const units = unitsOf(document, pins);
  if (typeof units === 'string') return units;
  const pinsAnswers = ['answers', 'label', 'value', 'key', 'text'].some(role => role in pins);
  const readings: EnvelopeReading[] = [];
  // Only told where the form or the id is: everything else is read as it would be.
  if (pins.split === undefined && !pinsAnswers) {
    if (!automatic) return 'No answers were found in it, with or without pins.';
    readings.push(automatic);
  } else
    for (const unit of units) {
      const reading = pinsAnswers ? readUnit(document, unit, pins, readingsOf) : ownReading(unit, readingsOf);
      if (typeof reading === 'string') return reading;
      readings.push(reading);
    }
  const first = readings[0];
  if (!first) return `The list pinned to split at, ${shown(pins.split ?? '')}, is empty in this message.`;
  const outer = pins.split === undefined ? null : surroundings(around(document, '', units[0]!.at));
  const submissions = readings.flatMap((reading, index) =>
    reading.submissions.map(submission => ({
      ...submission,
      form: submission.form ?? outer?.form ?? null,
      submittedAt: submission.submittedAt ?? outer?.submittedAt ?? null,
      meta: { ...outer?.meta, ...submission.meta },
      ...identified(document, units[reading === automatic ? 0 : index]!, submission, pins),
      answers: withoutTold(submission.answers, units[reading === automatic ? 0 : index]!, pins),
    })),
  );
  return {
    ...first,
    label: `${first.label}, as pinned`,
    score: 1,
    why: `Pinned: ${wordsFor(pins)}. ${first.why}`,
    answersAt: pins.split === undefined ? first.answersAt : pins.split,
    ...(pins.split === undefined ? {} : { splitAt: pins.split }),
    ...(isCutAt(document, pins) && { isCut: true }),
    submissions,
  };
}

const shown = (pointer: string) => pointer || 'the top';

function wordsFor(pins: PinSet): string {
  const said = [
    pins.split !== undefined && `split at ${shown(pins.split)}`,
    pins.answers !== undefined && `the answers at ${shown(pins.answers)}`,
    pins.label !== undefined && `${pins.label} is the question text`,
    pins.value !== undefined && `${pins.value} is the answer`,
    pins.key !== undefined && `${pins.key} is the question key`,
    pins.form !== undefined && `${pins.form} is the form ID`,
    pins.id !== undefined && `${pins.id} is the submission ID`,
    pins.time !== undefined && `${pins.time} is the submission time`,
    pins.files !== undefined && `${pins.files.join(', ')} ${pins.files.length === 1 ? 'asks' : 'ask'} for files`,
    pins.media !== undefined && `read as ${pins.media.as}`,
    pins.text !== undefined && `${pins.text.landmarks.length} values by the text around them`,
  ];
  return said.filter(Boolean).join(', ');
}

function unitsOf(document: Json, { split }: PinSet): Unit[] | string {
  if (split === undefined) return [{ value: document, at: '' }];
  const list = valueAt(document, split);
  if (typeof list !== 'object' || list === null)
    return `The list pinned to split at, ${shown(split)}, is not in this message.`;
  return firstOf(list).map(([key, value]) => ({
    value,
    at: `${split}/${escapeToken(key)}`,
    ...(!Array.isArray(list) && { key }),
  }));
}

/** As many as are read of one message. */
const firstOf = (list: Json[] | JsonObject): [key: string, value: Json][] =>
  Object.entries(Array.isArray(list) ? list.slice(0, most.submissions) : list).slice(0, most.submissions);

/** True where the place to split at holds more than are read. */
function isCutAt(document: Json, { split }: PinSet): boolean {
  const list = split === undefined ? null : valueAt(document, split);
  return typeof list === 'object' && list !== null && Object.keys(list).length > most.submissions;
}

function ownReading({ value, at }: Unit, readingsOf: ReadingsOf): EnvelopeReading | string {
  return (isJsonObject(value) && readingsOf(value, at)[0]) || `No answers were found at ${shown(at)}.`;
}

/** Form and identifier from where they were pinned; left out where this message has nothing there. */
function identified(
  document: Json,
  unit: Unit,
  { form, id: own }: RawSubmission,
  pins: PinSet,
): Partial<RawSubmission> {
  const at = (pointer: string) => valueAt(unit.value, pointer) ?? valueAt(document, pointer);
  const told: Partial<RawSubmission> = {};
  const key = pins.form === undefined ? '' : asText(at(pins.form) ?? null).trim();
  if (key !== '') told.form = { key, name: form?.key === key ? form.name : form?.name === key ? key : null };
  const id = pins.id === undefined ? '' : asText(at(pins.id) ?? null).trim();
  if (id !== '') told.id = id;
  else if (unit.key !== undefined && own === null) told.id = unit.key;
  const time = pins.time === undefined ? '' : asText(at(pins.time) ?? null).trim();
  if (time !== '') told.submittedAt = time;
  return told;
}

/** What tells of the submission is no answer. */
function withoutTold(answers: RawAnswer[], { at }: Unit, { form, id, time }: PinSet): RawAnswer[] {
  const told = [form, id, time].flatMap(each => (each === undefined ? [] : [each, `${at}${each}`]));
  return told.length === 0 ? answers : answers.filter(each => !told.includes(each.pointer));
}

function readUnit(document: Json, unit: Unit, pins: PinSet, readingsOf: ReadingsOf): EnvelopeReading | string {
  if (pins.text) return readText(unit, pins.text);
  const place = valueAt(unit.value, pins.answers ?? '');
  if (place === undefined)
    return `The place pinned for the answers, ${shown(pins.answers ?? '')}, is not in this message.`;
  const at = `${unit.at}${pins.answers ?? ''}`;
  const reading =
    pins.label !== undefined || pins.value !== undefined || pins.key !== undefined
      ? readLabelled(document, place, at, pins)
      : readPlace(place, at, readingsOf);
  if (typeof reading === 'string') return reading;
  // What was answered is not told once more beside the answers.
  const answered = reading.submissions.flatMap(each =>
    each.answers.map(({ pointer }) => pointer.slice(unit.at.length)),
  );
  const outer = isJsonObject(unit.value) ? surroundings(around(unit.value, '', pins.answers ?? '', answered)) : null;
  const told = {
    ...reading,
    submissions: reading.submissions.map(each => ({ ...surroundings({}), ...outer, answers: each.answers })),
  };
  const defined = definitionsIn(document);
  return {
    ...told,
    submissions: told.submissions.map(each => ({ ...each, answers: joined(each.answers, defined, [at]).answers })),
  };
}

/** What holds the answers is told; how, is found out. */
function readPlace(place: Json, at: string, readingsOf: ReadingsOf): EnvelopeReading | string {
  const object: JsonObject | null = isJsonObject(place)
    ? place
    : Array.isArray(place) || typeof place === 'string'
      ? { '': place }
      : null;
  if (object === null) return `The place pinned for the answers, ${shown(at)}, holds none in this message.`;
  const isWrapped = object !== place;
  const here = readingsOf(object, at)
    .filter(each => each.answersAt === (isWrapped ? `${at}/` : at))
    .map(each => (isWrapped ? unwrapped(each, at) : each))[0];
  if (here) return here;
  return isJsonObject(place) ? flatAt(place, at) : `Nothing at ${shown(at)} could be read as answers.`;
}

/** Takes the helping object's empty key off the pointers again. */
const unwrapped = (reading: EnvelopeReading, at: string): EnvelopeReading => ({
  ...reading,
  answersAt: at,
  submissions: reading.submissions.map(each => ({
    ...each,
    answers: each.answers.map(answer => ({ ...answer, pointer: at + answer.pointer.slice(at.length + 1) })),
  })),
});

/** The answers of every list or dictionary whose items have what was pinned. */
function readLabelled(document: Json, place: Json, at: string, pins: PinSet): EnvelopeReading | string {
  const needed = [pins.label, pins.value, pins.key].filter(each => each !== undefined);
  const raw = (item: Item) => valueAt(document, item.pointer) ?? null;
  const has = (item: Item) => needed.some(pointer => valueAt(raw(item), pointer) !== undefined);
  const wraps = (item: Item) => (pins.label === undefined ? has(item) : valueAt(raw(item), pins.label) !== undefined);
  const alike = collectionsIn(place, at, DEEPEST).filter(
    ({ items }) => items.filter(wraps).length / items.length > 0.5,
  );
  const items = alike.flatMap(each => each.items).sort(byOrder);
  if (items.length === 0) return `No item in this message has what was pinned (${needed.join(', ')}).`;
  const objects = items.map(each => each.object);
  const parts =
    partsOf(
      objects,
      alike.every(each => each.isDictionary),
    ) ?? NO_PARTS;
  const containers = containersAmong(items);
  const answers = items.filter(item => !containers.has(item)).map(item => pinnedAnswer(raw(item), item, parts, pins));
  return {
    reader: 'pinned',
    label: alike[0]!.isDictionary ? 'dictionary of labelled answers' : 'list of labelled answers',
    score: 1,
    why: `${answers.length} items hold an answer.`,
    answersAt: alike[0]!.pointer,
    submissions: [{ form: null, id: null, submittedAt: null, meta: {}, answers }],
  };
}

const NO_PARTS: Parts = {
  wording: null,
  key: null,
  kind: null,
  answer: () => null,
  isSure: false,
  isMixed: false,
  unused: 0,
  worth: 0,
  marked: null,
  options: null,
  other: null,
};

function pinnedAnswer(raw: Json, item: Item, parts: Parts, pins: PinSet): RawAnswer {
  const found = rawAnswer(item, parts);
  const textAt = (pointer: string | undefined) =>
    pointer === undefined ? '' : asText(valueAt(raw, pointer) ?? null).trim();
  const label = textAt(pins.label);
  const stated = textAt(pins.key);
  const key = stated || (pins.label !== undefined && parts.key === null && item.key === null ? label : found.key);
  const value = pins.value === undefined ? undefined : valueAt(raw, pins.value);
  return {
    ...found,
    key: (key || label).replace(/\[\]$/, ''),
    label: label || found.label || labelFromKey(key),
    ...(value === undefined ? {} : { value, pointer: `${item.pointer}${pins.value}` }),
  };
}

function readText(
  { value, at }: Unit,
  { at: textAt, landmarks }: NonNullable<PinSet['text']>,
): EnvelopeReading | string {
  const text = valueAt(value, textAt);
  if (typeof text !== 'string') return `The text that was learned from, ${shown(textAt)}, is not in this message.`;
  const read = readByLandmarks(text, landmarks);
  if (read.every(each => each.value === null)) return 'None of the learned values stands in this text.';
  const pointer = `${at}${textAt}`;
  const answers = read.map(({ label, value: answer }) => ({
    key: label,
    label,
    stated: null,
    value: answer,
    pointer,
    options: null,
    other: null,
  }));
  return {
    reader: 'landmarks',
    label: 'values by the text around them',
    score: 1,
    why: `${read.filter(each => each.value !== null).length} of ${landmarks.length} stand in the text.`,
    answersAt: pointer,
    submissions: [{ ...surroundings(isJsonObject(value) ? around(value, '', textAt) : {}), answers }],
  };
}
