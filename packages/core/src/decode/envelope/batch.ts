import { escapeToken, isJsonObject, type Json, type JsonObject } from '../../submission';
import { filesOf } from '../files';
import { most } from '../notes';
import { around } from './labelled';
import { isObjectList } from './properties';
import type { EnvelopeReading } from './reader';
import { isEnvelopeKey, speaksOf, speaksOnlyOf, surroundings } from '../names';

type ReadOne = (object: JsonObject, at: string) => EnvelopeReading | null;

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
  return lists.flatMap(({ pointer, items }) => readBatch(document, pointer, items, readOne) ?? []);
}

function listsOf(value: Json, at: string, depth: number): { pointer: string; items: JsonObject[] }[] {
  if (isObjectList(value)) return [{ pointer: at, items: value }];
  if (depth === 0 || !isJsonObject(value)) return [];
  return Object.entries(value).flatMap(([key, each]) => listsOf(each, `${at}/${escapeToken(key)}`, depth - 1));
}

function readBatch(document: Json, pointer: string, items: JsonObject[], readOne: ReadOne): EnvelopeReading | null {
  const readings = items.slice(0, most.submissions).map((item, index) => readOne(item, `${pointer}/${index}`));
  const first = readings[0];
  if (filesOf('', items, false) !== null) return null;
  if (!first || readings.some(each => each === null)) return null;
  const read = readings.filter(each => each !== null);
  const name = pointer.split('/').at(-1) ?? '';
  const outer = surroundings(around(document, '', pointer));
  const own = read.reduce((least, each) => Math.min(least, each.score), 1);
  const isFlat = read.every(each => each.reader === 'flat');
  const haveEnvelope = items.every(item => Object.entries(item).some(([key, value]) => isEnvelopeKey(key, value)));
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
    submissions: read.flatMap(each =>
      each.submissions.map(submission => ({
        ...submission,
        form: submission.form ?? outer.form,
        submittedAt: submission.submittedAt ?? outer.submittedAt,
        meta: { ...outer.meta, ...submission.meta },
      })),
    ),
  };
}
