import { escapeToken, isBlank, isJsonObject, type Json, type JsonObject } from '../../submission';
import { filesOf } from '../files';
import { formOf, speaksOf, surroundings, tellsOfSubmission } from '../names';
import { most } from '../notes';
import { around, isWithin, without } from './around';
import { leafWorth, leavesOf } from '../evidence';
import type { EnvelopeReading, RawSubmission } from './reader';
import { readingAs, unitReadings, type DocumentFacts, type UnitReading, type Wanted } from './unit';

/** A list, or a map by identifiers, whose every item may be a submission. */
interface Batch {
  pointer: string;
  name: string;
  /** By which each stands below the pointer: its identifier in a map, its number in a list. */
  keys: string[];
  isMap: boolean;
  items: Json[];
  /** Where each stands, for lists in several places: the responses of each form. */
  places?: string[];
}

/** Lists that are tried as a batch, the longest. */
const MOST_LISTS = 30;
/** How deep a list of submissions may stand. */
const DEEPEST_BATCH = 5;
/** What speaks for several submissions counts at most as much. */
const MOST_EVIDENCE = 1.08;
/** Items by which it is found out how all are read. */
const MOST_TRIED = 12;
/** Names of an item that may hold lists of submissions. */
const MOST_NAMES = 40;

/** Share of the best score below which another reading is not told. */
const LEAST_SHARE = 0.6;
/** Score from which a list of worded answers is no list of submissions. */
const PLAIN = 0.85;

/** Lists whose every item is a submission of its own: at the top, or below among ids and times. */
export function batchesIn(told: DocumentFacts, alone: UnitReading | null): EnvelopeReading[] {
  const least = LEAST_SHARE * (alone?.score ?? 0);
  const isPlain = alone !== null && alone.score > PLAIN && alone.reader === 'labelled-list';
  const lists = listsOf(told.document, '', '', DEEPEST_BATCH)
    .filter(each => !(isPlain && each.pointer === alone.answersAt))
    .sort((a, b) => b.items.length - a.items.length)
    .slice(0, MOST_LISTS);
  return lists.flatMap(batch => readBatch(batch, told, least) ?? []);
}

const mayBeOne = (value: Json): boolean =>
  isJsonObject(value) || (Array.isArray(value) && value.length > 1) || typeof value === 'string';

function listsOf(value: Json, at: string, name: string, depth: number, found: Batch[] = []): Batch[] {
  if (typeof value !== 'object' || value === null) return found;
  if (Array.isArray(value)) {
    if (value.length > 0 && value.every(mayBeOne) && !value.every(each => typeof each === 'string'))
      found.push({ pointer: at, name, keys: value.map((_, index) => String(index)), isMap: false, items: value });
    if (depth > 0 && value.length > 1 && value.every(isJsonObject))
      for (const each of innerBatches(
        value.map((each, index): [string, JsonObject] => [String(index), each as JsonObject]),
        at,
      ))
        found.push(each);
    if (depth > 0)
      value.slice(0, 3).forEach((each, index) => {
        // Lists inside one item alone are batches where there is but one item.
        if (value.length === 1) listsOf(each, `${at}/${index}`, name, depth - 1, found);
      });
    return found;
  }
  const entries = Object.entries(value);
  if (isMapOfAlike(value))
    found.push({ pointer: at, name, keys: Object.keys(value), isMap: true, items: Object.values(value) });
  if (isMapOfAlike(value) && entries.length > 1)
    for (const each of innerBatches(entries as [string, JsonObject][], at)) found.push(each);
  if (depth > 0) for (const [key, each] of entries) listsOf(each, `${at}/${escapeToken(key)}`, key, depth - 1, found);
  return found;
}

/** The lists that each item of a list holds under one name, as one batch: forms, each with its responses. */
function innerBatches(holders: [key: string, holder: JsonObject][], at: string): Batch[] {
  const names = new Set(holders.slice(0, MOST_TRIED).flatMap(([, holder]) => Object.keys(holder).slice(0, MOST_NAMES)));
  return [...names].flatMap(name => {
    const inner = holders.map(([key, holder]) => ({
      at: `${at}/${escapeToken(key)}/${escapeToken(name)}`,
      value: holder[name],
    }));
    const isMap = inner.every(({ value }) => isJsonObject(value) && isMapOfAlike(value));
    const isList = inner.every(({ value }) => Array.isArray(value) && value.every(isJsonObject));
    if (!isMap && !isList) return [];
    const entries = inner.flatMap(({ at: place, value }) =>
      Object.entries(value as JsonObject).map(([key, item]) => ({ key, item, place: `${place}/${escapeToken(key)}` })),
    );
    if (entries.length < 2) return [];
    return [
      {
        pointer: at,
        name,
        keys: entries.map(each => each.key),
        isMap,
        items: entries.map(each => each.item),
        places: entries.map(each => each.place),
      },
    ];
  });
}

/** Keys that are identifiers rather than words. */
const isIdentifier = (key: string): boolean =>
  /^[\w.:-]+$/.test(key) && (/\d/.test(key) || key.length <= 3 || /[-:]/.test(key));

/** Objects by identifiers, built much the same way, with parts of their own: submissions, and no answers. */
function isMapOfAlike(value: JsonObject): boolean {
  const items = Object.values(value);
  if (items.length < 1 || !items.every(isJsonObject) || !Object.keys(value).every(isIdentifier)) return false;
  const names = new Set(items.flatMap(each => Object.keys(each as JsonObject)));
  const common = [...names].filter(name => items.every(each => Object.hasOwn(each as JsonObject, name)));
  return (
    common.length >= names.size / 2 &&
    items.every(each => Object.values(each as JsonObject).some(part => typeof part === 'object' && part !== null))
  );
}

const wantedOf = ({ reader, relative, isPart }: UnitReading): string => [reader, relative, isPart].join('\n');

/** An item that is tried, where it stands, and all that it could be. */
interface Tried {
  index: number;
  place: string;
  readings: UnitReading[];
}

/** All places that hold a place, and itself. */
function holdersOf(pointer: string): string[] {
  const steps = pointer.split('/');
  return steps.map((_, index) => steps.slice(0, index + 1).join('/'));
}

/**
 * How all items are read: the way in which those that are tried read best together. An item that says what the others are asked
 * need not be read that way.
 */
function commonWay(tried: Tried[]): { way: Wanted; worth: number } | null {
  const ways = new Map<string, { sum: number; reading: UnitReading; definedAt: string[] }>();
  for (const { readings } of tried)
    for (const [key, reading] of new Map(readings.map(each => [wantedOf(each), each] as const).reverse())) {
      const way = ways.get(key) ?? { sum: 0, reading, definedAt: [] };
      way.sum += reading.score * (reading.answered > 0 ? 1 : 0.3);
      for (const each of reading.definedAt) way.definedAt.push(each);
      ways.set(key, way);
    }
  const worth = ({ sum, definedAt }: { sum: number; definedAt: string[] }) => {
    const defining = tried.filter(({ place }) => definedAt.some(each => isWithin(each, place))).length;
    return sum / Math.max(1, tried.length - defining);
  };
  const [best] = [...ways.values()].sort((a, b) => worth(b) - worth(a));
  if (!best) return null;
  const { reader, relative, isPart } = best.reading;
  return { way: { reader, relative, isPart }, worth: worth(best) };
}

function readBatch(
  { pointer, name, keys, isMap, items: all, places: stated }: Batch,
  told: DocumentFacts,
  least: number,
): EnvelopeReading | null {
  const items = all.slice(0, most.submissions);
  if (filesOf('', items.slice(0, 20), false) !== null) return null;
  const placeOf = (index: number) => stated?.[index] ?? `${pointer}/${escapeToken(keys[index]!)}`;
  const step = Math.max(1, Math.floor(items.length / MOST_TRIED));
  const tried = items.flatMap((item, index) =>
    index % step === 0 ? [{ index, place: placeOf(index), readings: unitReadings(item, placeOf(index), told) }] : [],
  );
  const common = commonWay(tried);
  // What already reads worse than something else by far need not be read through.
  if (!common || common.worth * MOST_EVIDENCE < least) return null;
  const { way } = common;
  const known = new Map(tried.map(({ index, readings }) => [index, readings]));
  const isWanted = (each: UnitReading) => wantedOf(each) === [way.reader, way.relative, way.isPart].join('\n');
  const readings = items.map(
    (item, index) =>
      known.get(index)?.find(isWanted) ??
      (known.has(index) ? null : readingAs(item, placeOf(index), told, way)) ??
      (known.get(index) ?? unitReadings(item, placeOf(index), told))[0] ??
      null,
  );
  const read = readings.filter(each => each !== null);
  // What defines the others is no submission itself.
  const places = new Set(items.map((_, index) => placeOf(index)));
  const defining = new Set(
    read.flatMap(each => each.definedAt.flatMap(pointer => holdersOf(pointer).filter(each => places.has(each)))),
  );
  const isDefinition = (index: number) => defining.has(placeOf(index));
  const kept = readings.flatMap((reading, index) => (reading && !isDefinition(index) ? [{ reading, index }] : []));
  if (kept.length === 0 || readings.some((each, index) => each === null && !isDefinition(index))) return null;
  const first = kept[0]!.reading;
  const except = [pointer, ...new Set(kept.flatMap(({ reading }) => reading.definedAt))];
  const outerFacts = surroundings(around(told.document, '', pointer, except));
  const outer = {
    ...outerFacts,
    form: outerFacts.form ?? formAbove(told.document, pointer) ?? first.submissions[0]!.form,
  };
  const submissions = kept.map(({ reading, index }): RawSubmission => {
    const own = reading.submissions[0]!;
    return {
      ...own,
      id: own.id ?? (isMap ? keys[index]! : null),
      form: own.form ?? (stated ? formAbove(told.document, placeOf(index)) : null) ?? outer.form,
      submittedAt: own.submittedAt ?? (items.length === 1 ? outer.submittedAt : null),
      meta: { ...outer.meta, ...own.meta },
    };
  });
  const rest = without(told.document, '', except) ?? null;
  let unexplained = 0;
  for (const { path, value } of rest === null ? [] : leavesOf(rest, true)) unexplained += leafWorth(path, value);
  const explained = kept.reduce((sum, { reading }) => sum + reading.answered, 0) + 0.5;
  const own = common.worth;
  const score = Math.min(
    0.99,
    own *
      (0.35 + (0.65 * explained) / (explained + unexplained)) *
      evidenceIn(
        submissions,
        kept.map(each => each.reading),
        name,
        pointer,
        isMap,
        tellsOfSubmission(around(told.document, '', pointer, except)),
      ),
  );
  return {
    ...first,
    score,
    answersAt: pointer,
    ...(all.length > most.submissions && { isCut: true }),
    splitAt: pointer,
    why: `${pointer || 'The top'} is a list of ${kept.length === 1 ? 'one submission' : `${kept.length} submissions`}; in the first, ${first.why}`,
    submissions,
  };
}

/** The form that an entry of a map of forms is: its key, and the name it says of itself. */
function formAbove(document: Json, pointer: string): RawSubmission['form'] {
  const steps = pointer.split('/').slice(1);
  let place: Json | undefined = document;
  let found: RawSubmission['form'] = null;
  steps.forEach((step, index) => {
    place = isJsonObject(place)
      ? place[step.replaceAll('~1', '/').replaceAll('~0', '~')]
      : Array.isArray(place)
        ? place[Number(step)]
        : undefined;
    const holder = steps[index - 1];
    if (!isJsonObject(place) || holder === undefined || !speaksOf(holder, 'form')) return;
    const { key, name } = formOf(place);
    if (name !== null || key !== null) found = { key: key ?? step, name };
  });
  return found;
}

const haveTimesIn = (submissions: RawSubmission[]): boolean => submissions.every(each => each.submittedAt !== null);

/** How plainly the items say that each is a submission of its own, 0 to 1. */
function evidenceIn(
  submissions: RawSubmission[],
  readings: UnitReading[],
  name: string,
  pointer: string,
  isMap: boolean,
  isTold: boolean,
): number {
  const ids = submissions.map(each => each.id);
  // Numbers that only count say what place something has, not which it is.
  const count = ids.every((id, index) => Number(id) === Number(ids[0]) + index) && Number(ids[0]) < 2;
  const haveIds =
    ids.every(id => id !== null) && new Set(ids).size === ids.length && (!count || haveTimesIn(submissions));
  if (isTold && !haveTimesIn(submissions) && !isMap) return 0.6;
  const haveTimes = haveTimesIn(submissions);
  const isNamed =
    pointer === '' ||
    speaksOf(name, 'submission') ||
    speaksOf(name, 'answer') ||
    /^(items|rows|list|batch|payloads?)$/i.test(name);
  const isNested = readings.every(each => each.reader !== 'flat' || each.relative !== '');
  if (submissions.length === 1) return haveIds && haveTimes ? 1 : haveIds || haveTimes || isNested ? 0.9 : 0.55;
  // The same questions in each.
  const [one, two] = [submissions[0]!, submissions[1]!].map(each => new Set(each.answers.map(answer => answer.key)));
  const common = [...one!].filter(key => two!.has(key)).length / Math.max(1, Math.min(one!.size, two!.size));
  const alike = submissions.every(each => each.answers.every(answer => isBlank(answer.value)))
    ? 0.5
    : 0.75 + 0.25 * common;
  if (haveIds && (haveTimes || isMap)) return 1.08 * alike;
  if (isNested) return (haveIds || haveTimes ? 1.06 : 1.02) * alike;
  if (haveIds || haveTimes) return 0.98 * alike;
  return (isNamed ? 0.85 : 0.55) * alike;
}
