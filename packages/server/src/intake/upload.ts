import { UPLOADED, type IntakeRow, type ReceivedArrival } from '../store';
import { newArrival } from './arrival';
import type { StoredBody } from './body';

/** Bytes of the largest file that can be uploaded. */
export const LARGEST_UPLOAD = 50_000_000;

const typeByEnding = new Map(
  Object.entries({
    csv: 'text/csv',
    tsv: 'text/tab-separated-values',
    xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
    json: 'application/json',
    ndjson: 'application/x-ndjson',
    jsonl: 'application/x-ndjson',
    har: 'application/har+json',
    xml: 'application/xml',
    eml: 'message/rfc822',
    txt: 'text/plain',
  }),
);

/** The media type that a file's ending tells, or null when the ending is none that can be read. */
export const typeOfFile = (name: string): string | null =>
  typeByEnding.get(name.split('.').at(-1)?.toLowerCase() ?? '') ?? null;

/** The endings that can be read, for people. */
export const readableEndings = [...typeByEnding.keys()];

/** A file of past submissions as an arrival of its intake. */
export const arrivalFromFile = (
  intake: IntakeRow,
  id: string,
  { name, type }: { name: string; type: string },
  { bytes, size, aside }: StoredBody,
): ReceivedArrival =>
  newArrival(intake, {
    id,
    size,
    aside: aside !== null,
    ...(aside !== null && { digest: aside }),
    method: UPLOADED,
    contentType: type,
    headers: [
      ['content-disposition', `attachment; filename="${name.replace(/["\r\n]/g, '_')}"`],
      ['content-type', type],
    ],
    body: bytes,
  });
