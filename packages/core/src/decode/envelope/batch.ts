import { escapeToken, isJsonObject, type Json, type JsonObject } from '../../submission';
import { filesOf } from '../files';
import { most } from '../notes';
import { around } from './labelled';
import { isObjectList } from './properties';
import type { EnvelopeReading } from './reader';
import { isEnvelopeKey, speaksOf, speaksOnlyOf, surroundings } from '../names';

type ReadOne = (item: JsonObject | JsonObject[], at: string) => EnvelopeReading | null;

/** A list, or a map by identifiers, whose every item may be a submission. */
interface Batch {
  pointer: string;
  /** By which each stands below the pointer: its identifier in a map, its number in a list. */
  keys: string[];
  isMap: boolean;
  items: (JsonObject | JsonObject[])[];
}

/** Lists that are tried as a batch, the longest. */
const MOST_LISTS = 40;
/** How deep a list of submissions may stand. */
const DEEPEST_BATCH = 4;

/** Lists whose every item is a submission of its own: at the top, or below among ids and times. */
export function batchesIn(document: Json, readOne: ReadOne, except: string[]): EnvelopeReading[] {
  const lists = listsOf(document, '', DEEPEST_BATCH)
    .filter(list => !except.includes(list.pointer))
    .sort((a, b) => b.items.length - a.items.length)
    .slice(0, MOST_LISTS);
  return lists.flatMap(batch => readBatch(document, batch, readOne) ?? []);
}

function listsOf(value: Json, at: string, depth: number): Batch[] {
  if (isObjectList(value) || isListOfLists(value))
    return [{ pointer: at, keys: value.map((_, index) => String(index)), isMap: false, items: value }];
  if (depth === 0 || !isJsonObject(value)) return [];
  const inner = Object.entries(value).flatMap(([key, each]) => listsOf(each, `${at}/${escapeToken(key)}`, depth - 1));
  return isMapOfAlike(value)
    ? [{ pointer: at, keys: Object.keys(value), isMap: true, items: Object.values(value) as JsonObject[] }, ...inner]
    : inner;
}

/** Lists each of which holds objects: answers without anything around them. */
const isListOfLists = (value: Json): value is JsonObject[][] =>
  Array.isArray(value) && value.length > 1 && value.every(each => isObjectList(each) && each.length > 1);

/** Keys that are identifiers rather than words. */
const isIdentifier = (key: string): boolean => /\d/.test(key) && !/\s/.test(key);

/** Objects by identifiers, all built the same way, with parts of their own: submissions, and no answers. */
function isMapOfAlike(value: JsonObject): boolean {
  const items = Object.values(value);
  if (items.length < 2 || !items.every(isJsonObject) || !Object.keys(value).every(isIdentifier)) return false;
  const [first, ...rest] = items.map(each =>
    Object.keys(each as JsonObject)
      .sort()
      .join('\n'),
  );
  return (
    rest.every(each => each === first) &&
    items.every(each => Object.values(each as JsonObject).some(part => isJsonObject(part) || isObjectList(part)))
  );
}

function readBatch(document: Json, { pointer, keys, isMap, items }: Batch, readOne: ReadOne): EnvelopeReading | null {
  const readings = items
    .slice(0, most.submissions)
    .map((item, index) => readOne(item, `${pointer}/${escapeToken(keys[index]!)}`));
  const first = readings[0];
  if (filesOf('', items, false) !== null) return null;
  if (!first || readings.some(each => each === null)) return null;
  const read = readings.filter(each => each !== null);
  const name = pointer.split('/').at(-1) ?? '';
  const outer = surroundings(around(document, '', pointer));
  const own = read.reduce((least, each) => Math.min(least, each.score), 1);
  const isFlat = read.every(each => each.reader === 'flat');
  // Beside its answers each has an identifier or a time of its own, wherever in it that stands.
  const ids = read.flatMap(each => each.submissions.map(({ id }) => id));
  const haveIds = ids.length > 1 && ids.every(id => id !== null) && new Set(ids).size === ids.length;
  const haveTimes = read.every(each => each.submissions.every(({ submittedAt }) => submittedAt !== null));
  const haveEnvelope =
    isMap ||
    (haveIds && haveTimes) ||
    items.every(item => !Array.isArray(item) && Object.entries(item).some(([key, value]) => isEnvelopeKey(key, value)));
  const named =
    pointer === '' ||
    (speaksOf(name, 'submission') && speaksOnlyOf(name, 'submission', 'form', 'answer')) ||
    /^(items|rows|data|list|batch|payloads?)$/i.test(name);
  // A list of plain objects may be a table inside one answer, or a list of labelled answers.
  if (isFlat && !named && !haveEnvelope) return null;
  const score = isFlat
    ? 0.55 +
      (named ? 0.1 : 0) +
      (haveEnvelope ? 0.12 : 0) +
      (read.some(each => each.answersAt !== '' && each.score > 0.7) ? 0.15 : 0)
    : Math.min(0.99, own + (haveEnvelope ? 0.1 : 0.02));
  return {
    ...first,
    score,
    answersAt: pointer,
    splitAt: pointer,
    why: `${pointer || 'The top'} is a list of ${items.length === 1 ? 'one submission' : `${items.length} submissions`}; in the first, ${first.why}`,
    submissions: read.flatMap((each, index) =>
      each.submissions.map(submission => ({
        ...submission,
        id: submission.id ?? (isMap ? keys[index]! : null),
        form: submission.form ?? outer.form,
        submittedAt: submission.submittedAt ?? outer.submittedAt,
        meta: { ...outer.meta, ...submission.meta },
      })),
    ),
  };
}
