import { isJsonObject, type Json } from '../../submission';
import type { Note } from '../notes';
import { flat } from './flat';
import { labelledList } from './labelledList';
import type { EnvelopeReader, EnvelopeReading } from './reader';

export type { EnvelopeReader, EnvelopeReading, RawAnswer, RawSubmission } from './reader';

export const envelopeReaders: EnvelopeReader[] = [
  labelledList, // the question beside its answer
  flat, //         the question as a key
];

export interface Envelopes {
  winner: EnvelopeReading | null;
  /** The other shapes it could have been, surest first. */
  runnersUp: EnvelopeReading[];
  notes: Note[];
}

/** Stage two: where the answers are in a document. A list of submissions is read one by one. */
export function readEnvelope(document: Json): Envelopes {
  if (isJsonObject(document)) return ranked(envelopeReaders.flatMap(reader => reader.read(document, '') ?? []));
  if (Array.isArray(document) && document.length > 0 && document.every(isJsonObject)) {
    const asAnswers = envelopeReaders
      .flatMap(reader => reader.read({ '': document }, '') ?? [])
      .filter(each => each.answersAt === '/');
    const asBatch = batch(document);
    const alone = asAnswers[0];
    if (alone && (asBatch === null || alone.score > asBatch.score))
      return ranked([rooted(alone), ...(asBatch ? [asBatch] : [])]);
    return ranked(asBatch ? [asBatch] : []);
  }
  return { winner: null, runnersUp: [], notes: [{ code: 'envelope.none', message: 'No answers were found in it.' }] };
}

function ranked(readings: EnvelopeReading[]): Envelopes {
  const [winner = null, ...runnersUp] = readings.sort((a, b) => b.score - a.score);
  return {
    winner,
    runnersUp,
    notes: winner ? [] : [{ code: 'envelope.none', message: 'No answers were found in it.' }],
  };
}

/** A list whose every item is a submission of its own, read with the shape that fits the first. */
function batch(items: Json[]): EnvelopeReading | null {
  const readings = items.map((item, index) => {
    if (!isJsonObject(item)) return null;
    return ranked(envelopeReaders.flatMap(reader => reader.read(item, `/${index}`) ?? [])).winner;
  });
  const first = readings[0];
  if (!first) return null;
  const read = readings.filter(each => each !== null);
  return {
    ...first,
    score: Math.min(...read.map(each => each.score)),
    why: `A list of ${items.length === 1 ? 'one submission' : `${items.length} submissions`}; in the first, ${first.why}`,
    submissions: read.flatMap(each => each.submissions),
  };
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
