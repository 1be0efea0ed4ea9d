import { type Json, type JsonObject, type Submission } from '../submission';
import { readEnvelope, withEmbeddedOpened, type Columns, type EnvelopeReading, type Envelopes } from './envelope';
import { contentTypeParts, isPlain, mailHead, readDocuments, type Document } from './media';
import { isHarmless, LONGEST_NOTE, most, TOO_DEEP, tooMany, type Note } from './notes';
import { generationsOf, type Pins, type PinSet } from './pins';
import { KnownShapes } from './shapes';
import { withinReach } from './reach';
import { filesAsked, readAnswers, type FilesAsked } from './value';

export { withArrival, withHeaders } from './reach';
export { asksForFiles, type FilesAsked } from './value';

export { isHarmless, type Note } from './notes';
export * from './contents';
export * from './pins';
export { KnownShapes };
export {
  contentTypeParts,
  fileValue,
  headerParameters,
  nestedFromPairs,
  nestedFromValues,
  type Document,
} from './media';

/** How the answers were found, for people to check. */
export interface FoundEnvelope {
  reader: string;
  label: string;
  /** 0 to 1. */
  score: number;
  why: string;
  answersAt: string;
  /** The list whose every item is a submission, or null where the document is one. */
  splitAt: string | null;
  /** Where each answer is a record: the names in it that say what was asked. */
  columns: Columns | null;
  /** Places that say what is asked, where the answers do not say it themselves. */
  definedAt: string[];
  /** Which generation's pins it was read by, from 0; null where it was read without. */
  generation: number | null;
  /**
   * True where readings like it are seldom wrong: of drawn messages told as sure 99 in 100 are right, of ninety that were
   * written by hand and read for the first time, nine in ten were. Any other is to be looked at.
   */
  isSure: boolean;
}

export interface Decoded {
  /** Which media reader read the body. */
  media: string;
  document: Json;
  envelope: FoundEnvelope | null;
  runnersUp: FoundEnvelope[];
  submissions: Submission[];
  notes: Note[];
}

/**
 * Reads a message into submissions, in three stages: media (bytes to a document), envelope (where the answers are),
 * value (what they mean). Never throws on input: what could not be read is told in `notes`.
 * @param bytes the body as it came
 * @param contentType the Content-Type header as it came, or null
 * @param query what followed `?` in the address, without the mark
 * @param pins what a person pointed at to overrule the reading
 * @param known what is known of messages that came by the same way
 * @param shapes the shapes that messages with the same pins had so far; learns from this one
 */
export function decode(
  bytes: Uint8Array,
  contentType: string | null,
  query = '',
  pins: Pins = {},
  known: DecodeContext = {},
  shapes?: KnownShapes,
): Decoded {
  try {
    const { type } = contentTypeParts(contentType);
    const meant = generationsOf(pins).find(({ media }) => media && media.stated === type)?.media?.as;
    return withinReach(decodeBest(readDocuments(bytes, contentType, query, meant), pins, known, shapes), query);
  } catch (error) {
    const note = { code: 'media.failed', message: `It could not be read: ${(error as Error).message}.` };
    return { ...nothing, media: 'none', notes: [short(note)] };
  }
}

/** How much better another way to read a body must fit than the one that was stated. */
const STATED = 0.06;

/** What a form of its own counts for: a text that happens to parse as one is rare. */
const FORMAL = 0.12;

/** Of several ways to read a body, the one whose result reads best. */
function decodeBest(
  [first, ...others]: [Document, ...Document[]],
  pins: Pins,
  known: DecodeContext,
  shapes?: KnownShapes,
): Decoded {
  if (others.length === 0) return decodeDocument(first, pins, known, shapes);
  const best = decodeDocument(first, pins, known);
  const worth = (decoded: Decoded) =>
    decoded.submissions.some(each => each.fields.length + each.files.length > 0)
      ? (decoded.envelope?.score ?? 0) + (isPlain(decoded.media) ? 0 : FORMAL)
      : 0;
  return others.reduce<{ decoded: Decoded; worth: number }>(
    (found, each) => {
      const decoded = decodeDocument(each, pins, known);
      return worth(decoded) > found.worth ? { decoded, worth: worth(decoded) } : found;
    },
    { decoded: best, worth: worth(best) + STATED },
  ).decoded;
}

/** Stages two and three alone, for a document that was read elsewhere. */
export function decodeDocument(
  read: Document,
  pins: Pins = {},
  known: DecodeContext = {},
  shapes?: KnownShapes,
): Decoded {
  try {
    return (shapes && decodedByShape(read, shapes)) ?? decoded(read, pins, known, shapes);
  } catch (error) {
    // The last resort: a document that a reader did not expect is unread, and that is told.
    const note = { code: 'envelope.failed', message: `It could not be read: ${(error as Error).message}.` };
    return { ...nothing, media: read.media, notes: [...read.notes, note].map(short) };
  }
}

const nothing: Omit<Decoded, 'media' | 'notes'> = { document: null, envelope: null, runnersUp: [], submissions: [] };

/** A message of a shape that is known. */
function decodedByShape({ media, document, notes }: Document, shapes: KnownShapes): Decoded | null {
  const read = notes.every(isHarmless) ? shapes.read(media, document) : null;
  if (!read) return null;
  const envelope = { ...found({ ...read.told, submissions: [] }), isSure: true };
  return { media, document, envelope, runnersUp: [], submissions: [read.submission], notes };
}

function decoded(
  { media, document: raw, notes: before, isTable = false, labels = {} }: Document,
  pins: Pins,
  known: DecodeContext,
  shapes?: KnownShapes,
): Decoded {
  const notes = [...before];
  const isTooDeep = isDeeperThan(raw, TOO_DEEP);
  if (isTooDeep)
    notes.push({ code: 'media.deep', message: `It is nested more than ${TOO_DEEP} levels deep; it was not read.` });
  const document = isTooDeep ? null : withEmbeddedOpened(raw);
  const head = media === 'mail' ? mailHead : [];
  const read = readEnvelope(document, pins, { isTable, labels, head, media });
  const { winner, runnersUp, notes: more, isKnown } = withKnown(read, known.ways ?? []);
  const files = {
    ...filesAsked((winner?.submissions ?? []).map(each => each.answers)),
    ...known.files,
    ...filesPinned(pins, winner?.generation),
  };
  const submissions = (winner?.submissions ?? []).map(({ answers, ...envelope }) => ({
    ...envelope,
    ...readAnswers(answers, files),
  }));
  const widest = (winner?.submissions ?? []).reduce((widest, each) => Math.max(widest, each.answers.length), 0);
  if (winner?.isCut) notes.push(tooMany('envelope.submissions', `more than ${most.submissions} submissions`));
  if (widest > most.answers) notes.push(tooMany('envelope.answers', `more than ${most.answers} answers`));
  // What a person pointed at is meant, however well it reads otherwise.
  const isPinned = winner?.generation !== undefined;
  const isCertain = winner !== null && (isPinned || isKnown || isSure(winner, runnersUp[0]));
  if (shapes && isCertain && !isTable && document === raw && [...notes, ...more].every(isHarmless))
    shapes.learn(media, document, winner, submissions[0]!, files);
  return {
    media,
    document,
    envelope: winner && { ...found(winner), isSure: isCertain },
    runnersUp: runnersUp.map(found),
    submissions,
    notes: (media === 'none' || isTooDeep ? notes : [...notes, ...more]).map(short),
  };
}

/** The questions that a person said ask for files, in the generation that a message is of. */
const filesPinned = (pins: Pins, generation: number | undefined): FilesAsked =>
  generation === undefined
    ? {}
    : Object.fromEntries((generationsOf(pins)[generation]?.files ?? []).map(key => [key, true]));

const short = (note: Note): Note =>
  note.message.length <= LONGEST_NOTE ? note : { ...note, message: `${note.message.slice(0, LONGEST_NOTE)}…` };

/** Walks without recursion: the depth of a hostile document must not matter. */
function isDeeperThan(document: Json, most: number): boolean {
  const waiting: [value: Json, depth: number][] = [[document, 0]];
  for (let next = waiting.pop(); next !== undefined; next = waiting.pop()) {
    const [value, depth] = next;
    if (depth > most) return true;
    if (typeof value !== 'object' || value === null) continue;
    for (const name in value) {
      const inner = (value as JsonObject)[name]!;
      if (typeof inner === 'object' && inner !== null) waiting.push([inner, depth + 1]);
    }
  }
  return false;
}

const found = ({
  reader,
  label,
  score,
  why,
  answersAt,
  splitAt,
  columns,
  definedAt,
  generation,
}: EnvelopeReading): FoundEnvelope => ({
  reader,
  label,
  score,
  why,
  answersAt,
  splitAt: splitAt ?? null,
  columns: columns ?? null,
  definedAt: definedAt ?? [],
  generation: generation ?? null,
  isSure: false,
});

/** The scores from which a reading is sure, each with how far the next has to be behind it. Fitted on drawn messages. */
const sure: [score: number, ahead: number][] = [
  [0.75, 0.05],
  [0.62, 0.3],
];

const isSure = ({ score }: EnvelopeReading, next: EnvelopeReading | undefined): boolean =>
  sure.some(([least, ahead]) => score >= least && score - (next?.score ?? 0) >= ahead);

/** How a message was read: by which reader, and where its answers stand. */
export type Way = Pick<FoundEnvelope, 'reader' | 'answersAt' | 'splitAt'>;

/** What is known of the messages of an intake. */
export interface DecodeContext {
  /** How they were read for sure: one that may be read so, and not surely otherwise, is. */
  ways?: readonly Way[];
  /** Which questions ask for files, by all that was answered so far. */
  files?: FilesAsked;
}

/** Of what a winner scores, the least for a reading that is known to be meant. */
const KNOWN = 0.4;

/** What is known weighs: where nothing is sure, the message is read as those before it were. */
function withKnown(found: Envelopes, known: readonly Way[]): Envelopes & { isKnown: boolean } {
  const { winner, runnersUp } = found;
  if (!winner || known.length === 0 || isSure(winner, runnersUp[0])) return { ...found, isKnown: false };
  const all = found.all ?? [winner, ...runnersUp];
  const meant = known.flatMap(
    way =>
      all.find(
        ({ reader, answersAt, splitAt, score }) =>
          reader === way.reader &&
          answersAt === way.answersAt &&
          (splitAt ?? null) === way.splitAt &&
          score >= KNOWN * winner.score,
      ) ?? [],
  )[0];
  if (!meant) return { ...found, isKnown: false };
  const why = `${meant.why} Messages before it were read so.`;
  return {
    ...found,
    winner: { ...meant, why },
    runnersUp: [winner, ...runnersUp].filter(each => each.label !== meant.label),
    isKnown: true,
  };
}

/** The pins that ask for a reading which came second. */
export const pinsFor = ({ answersAt, splitAt }: Pick<FoundEnvelope, 'answersAt' | 'splitAt'>): PinSet =>
  splitAt === null ? { answers: answersAt } : { split: splitAt };
