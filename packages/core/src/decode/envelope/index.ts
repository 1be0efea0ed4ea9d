import type { Json, JsonObject } from '../../submission';
import type { Note } from '../notes';
import { isUnpinned, type Pins } from '../pins';
import { batchesIn } from './batch';
import { withoutOld } from './changed';
import { Definitions, definitionsIn } from './definitions';
import { readPinned } from './pinned';
import { headersIn } from './positional';
import type { EnvelopeReading } from './reader';
import { fromRows } from '../media';
import { readCells, readTable } from './table';
import { unitReadings, type DocumentFacts } from './unit';

export { withEmbeddedOpened } from './expand';
export type { Columns, EnvelopeReading, OptionLabels, RawAnswer, RawSubmission } from './reader';

export interface Envelopes {
  winner: EnvelopeReading | null;
  /** The other shapes it could have been, surest first. */
  runnersUp: EnvelopeReading[];
  /** All that were found, those called alike too. */
  all?: EnvelopeReading[];
  notes: Note[];
}

/** What the medium tells of its document. */
export interface FromMedia {
  /** True for rows of cells by the names of their columns. */
  isTable?: boolean;
  /** What its columns are called for people, where that is not their name. */
  labels?: Record<string, string>;
  /** What stands around in it for certain. */
  head?: readonly string[];
  /** Which reader read it. */
  media?: string;
}

/**
 * Stage two: where the answers are in a document.
 * @param pins what a person pointed at; a message that has not what is pinned is read without, and a note says so
 */
export function readEnvelope(
  document: Json,
  pins: Pins = {},
  { isTable = false, labels = {}, head = [], media }: FromMedia = {},
): Envelopes {
  const found = (isTable ? readRows(document, labels) : null) ?? readUnpinned(document, head);
  if (isUnpinned(pins)) return found;
  const pinned = readPinned(document, pins, found.winner, readingsOf, media);
  if (typeof pinned === 'string')
    return {
      ...found,
      notes: [{ code: 'pins.missing', message: `${pinned} It was read without pins.` }, ...found.notes],
    };
  const { reading, generation, lacking } = pinned;
  return {
    winner: { ...reading, generation },
    runnersUp: [found.winner, ...found.runnersUp].filter(each => each !== null),
    notes: lacking.map(message => ({ code: 'pins.lacking', message })),
  };
}

/** Rows up to which other readings of a table are told as well. */
const MOST_COMPARED = 100;

/** A table is a table: what else its rows could be read as comes behind that. */
function readRows(document: Json, labels: Record<string, string>): Envelopes | null {
  const table = readTable(document, labels);
  if (!table) return null;
  const others = (document as Json[]).length > MOST_COMPARED ? null : readUnpinned(document);
  const behind = [others?.winner, ...(others?.runnersUp ?? [])].flatMap(each =>
    each ? [{ ...each, score: Math.min(each.score, table.score - 0.1) }] : [],
  );
  return ranked([table, ...behind]);
}

function readUnpinned(whole: Json, head: readonly string[] = []): Envelopes {
  const document = withoutOld(whole);
  let found: Definitions | null = null;
  const defined = () => (found ??= definitionsIn(document));
  const told: DocumentFacts = { document, defined, headers: headersIn(document), head };
  const alone = unitReadings(document, '', told);
  const sheets = readCells(document, fromRows);
  // A mail tells of one submission.
  return ranked([...alone, ...sheets, ...(head.length > 0 ? [] : batchesIn(told, alone[0] ?? null))]);
}

const nothing = new Definitions([]);

/** The readings of one submission's part of a document, surest first, without what is said of it elsewhere. */
const readingsOf = (object: JsonObject, at: string): EnvelopeReading[] =>
  unitReadings(object, at, {
    document: object,
    defined: () => nothing,
    headers: headersIn(object, at),
    head: [],
  });

function ranked(readings: EnvelopeReading[]): Envelopes {
  const [winner = null, ...rest] = readings.sort((a, b) => b.score - a.score);
  const runnersUp = rest.filter(
    (each, index) => rest.findIndex(other => other.label === each.label) === index && each.label !== winner?.label,
  );
  return {
    winner,
    runnersUp,
    all: readings,
    notes: winner ? [] : [{ code: 'envelope.none', message: 'No answers found in it.' }],
  };
}
