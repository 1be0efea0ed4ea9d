import { escapeToken, isJsonObject, labelFromKey, type Json, type JsonObject } from '../../submission';
import type { Note } from '../notes';
import { batchesIn } from './batch';
import { definitionsIn, withDefinitions } from './definitions';
import { flat } from './flat';
import { labelledDictionary, labelledList } from './labelled';
import { readLabelledText } from './labelledText';
import { filesOf } from '../files';
import type { EnvelopeReader, EnvelopeReading, RawAnswer } from './reader';
import { surroundings } from '../names';
import { isUnpinned, type Pins } from '../pins';
import { readPinned } from './pinned';
import { readTable } from './table';

export { withEmbeddedOpened } from './expand';
export type { EnvelopeReader, EnvelopeReading, OptionLabels, RawAnswer, RawSubmission } from './reader';

export const envelopeReaders: EnvelopeReader[] = [
  labelledList, //       the question beside its answer, in a list
  labelledDictionary, // the same, by identifier
  flat, //               the question as a key
];

export interface Envelopes {
  winner: EnvelopeReading | null;
  /** The other shapes it could have been, surest first. */
  runnersUp: EnvelopeReading[];
  notes: Note[];
}

/** A list read as answers with at least this score is no list of submissions. */
const SURE = 0.8;
/** A reading with at least this score has found wording, identifier, kind and answer of each question. */
const CERTAIN = 0.94;

/**
 * Stage two: where the answers are in a document.
 * @param isTable true where the medium told that it is one
 * @param pins what a person pointed at; a message that has not what is pinned is read without, and a note says so
 */
export function readEnvelope(document: Json, pins: Pins = {}, isTable = false): Envelopes {
  const found = (isTable ? readRows(document) : null) ?? readUnpinned(document);
  if (isUnpinned(pins)) return found;
  const pinned = readPinned(document, pins, found.winner, readingsOf);
  if (typeof pinned === 'string')
    return {
      ...found,
      notes: [{ code: 'pins.missing', message: `${pinned} It was read without pins.` }, ...found.notes],
    };
  return { winner: pinned, runnersUp: [found.winner, ...found.runnersUp].filter(each => each !== null), notes: [] };
}

/** Rows up to which other readings of a table are told as well. */
const MOST_COMPARED = 100;

/** A table is a table: what else its rows could be read as comes behind that. */
function readRows(document: Json): Envelopes | null {
  const table = readTable(document);
  if (!table) return null;
  const others = (document as Json[]).length > MOST_COMPARED ? null : readUnpinned(document);
  const behind = [others?.winner, ...(others?.runnersUp ?? [])].flatMap(each =>
    each ? [{ ...each, score: Math.min(each.score, table.score - 0.1) }] : [],
  );
  return ranked([table, ...behind]);
}

function readUnpinned(document: Json): Envelopes {
  if (typeof document === 'string') return ranked(textReadings(document, {}, ''));
  if (!isJsonObject(document) && !Array.isArray(document)) return ranked([]);
  const readOne = (item: JsonObject | JsonObject[], at: string) =>
    Array.isArray(item) ? listReading(item, at) : (readingsOf(item, at)[0] ?? null);
  const alone = isJsonObject(document) ? readingsOf(document, '') : listAlone(document);
  const answerLists = alone
    .filter(each => each.reader === labelledList.id && each.score > SURE)
    .map(each => each.answersAt);
  const batches = batchesIn(document, readOne, answerLists);
  return ranked([...alone, ...batches]);
}

/** Every reading of one submission's document, surest first. */
function readingsOf(object: JsonObject, at: string): EnvelopeReading[] {
  // Without anything inside, there is nothing to be listed or defined: a row of a table is read at once.
  if (isRow(object)) return flatAlone(object, at);
  const readings = envelopeReaders.flatMap(reader => reader.read(object, at) ?? []);
  // Where every answer words its question, nothing needs to be defined apart.
  const isTold = readings.some(each => each.score > CERTAIN);
  const defined = isTold ? [] : definitionsIn(object, at);
  const told = readings.map(reading => withDefinitions(reading, defined) ?? reading);
  return [...told, ...textsIn(object, at)].sort((a, b) => b.score - a.score);
}

const flatAlone = (object: JsonObject, at: string): EnvelopeReading[] => {
  const reading = flat.read(object, at);
  return reading === null ? [] : [reading];
};

/** True for an object that holds nothing but values in one line. */
function isRow(object: JsonObject): boolean {
  for (const name in object) {
    const value = object[name];
    if (typeof value === 'object' && value !== null) return false;
    if (typeof value === 'string' && value.includes('\n')) return false;
  }
  return true;
}

/** A list at the top that is one submission's list of answers. */
const listAlone = (document: Json[]): EnvelopeReading[] =>
  readingsOf({ '': document }, '')
    .filter(each => each.answersAt === '/')
    .map(rooted);

/** A list inside a list that is one submission's list of answers. */
function listReading(list: JsonObject[], at: string): EnvelopeReading | null {
  const [reading] = listAlone(list);
  if (!reading || reading.reader === flat.id) return null;
  return {
    ...reading,
    answersAt: at,
    submissions: reading.submissions.map(each => ({
      ...each,
      answers: each.answers.map(answer => ({ ...answer, pointer: at + answer.pointer })),
    })),
  };
}

function ranked(readings: EnvelopeReading[]): Envelopes {
  const [winner = null, ...rest] = readings.sort((a, b) => b.score - a.score);
  const runnersUp = rest.filter(
    (each, index) => rest.findIndex(other => other.label === each.label) === index && each.label !== winner?.label,
  );
  return {
    winner,
    runnersUp,
    notes: winner ? [] : [{ code: 'envelope.none', message: 'No answers were found in it.' }],
  };
}

/** Texts of one object that are read line by line, the longest. */
const MOST_TEXTS = 4;

/** Texts of several lines under a key that say `Label: value`. */
function textsIn(object: JsonObject, at: string): EnvelopeReading[] {
  const texts = Object.entries(object).filter(
    (entry): entry is [string, string] => typeof entry[1] === 'string' && entry[1].includes('\n'),
  );
  const longest = texts.length > MOST_TEXTS ? texts.sort((a, b) => b[1].length - a[1].length) : texts;
  return longest.slice(0, MOST_TEXTS).flatMap(([name, value]) => {
    const rest = Object.fromEntries(Object.entries(object).filter(([key]) => key !== name));
    const lone = Object.values(rest).every(each => typeof each !== 'string' || each.length < 200);
    return textReadings(value, rest, `${at}/${escapeToken(name)}`).map(each => ({
      ...each,
      score: /^(text|body|plain|message|content|summary)/i.test(name) && lone ? each.score - 0.1 : each.score - 0.3,
    }));
  });
}

function textReadings(text: string, rest: JsonObject, pointer: string): EnvelopeReading[] {
  const read = readLabelledText(text, pointer);
  if (!read) return [];
  const { answers, around: said, ...told } = read;
  const files = Object.entries(rest)
    .filter(([name, value]) => filesOf(name, value, false) !== null)
    .map(([name, value]): RawAnswer => ({
      key: name,
      label: labelFromKey(name),
      stated: null,
      value,
      pointer: `/${escapeToken(name)}`,
      options: null,
      other: null,
    }));
  const fileNames = new Set(files.map(file => file.key));
  const around = Object.fromEntries(Object.entries(rest).filter(([name]) => !fileNames.has(name)));
  const submission = { ...surroundings({ ...around, ...said }), answers: [...answers, ...files] };
  return [{ reader: 'labelled-text', label: 'lines of “label: value”', ...told, submissions: [submission] }];
}

/** Takes the helping object's empty key off the pointers again. */
const rooted = (reading: EnvelopeReading): EnvelopeReading => ({
  ...reading,
  answersAt: '',
  submissions: reading.submissions.map(each => ({
    ...each,
    answers: each.answers.map(answer => ({ ...answer, pointer: answer.pointer.slice(1) })),
  })),
});
