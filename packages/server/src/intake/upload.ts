import { createHash } from 'node:crypto';
import { now } from '../clock';
import { newId } from '../ids';
import { UPLOADED, type ArrivalRow, type IntakeRow } from '../store';

/** Bytes of the largest file that can be uploaded. */
export const LARGEST_UPLOAD = 50_000_000;

const typeByEnding: Record<string, string> = {
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
};

/** The media type that a file's ending tells, or null when the ending is none that can be read. */
export const typeOfFile = (name: string): string | null =>
  typeByEnding[name.split('.').at(-1)?.toLowerCase() ?? ''] ?? null;

/** The endings that can be read, for people. */
export const readableEndings = Object.keys(typeByEnding);

/** A file of past submissions as an arrival of its intake. */
export function arrivalFromFile(intake: IntakeRow, name: string, type: string, body: Buffer): ArrivalRow {
  const receivedAt = now();
  return {
    id: newId(receivedAt),
    intakeId: intake.id,
    receivedAt,
    method: UPLOADED,
    url: `/in/${intake.slug}`,
    contentType: type,
    headers: [
      ['content-disposition', `attachment; filename="${name.replace(/["\r\n]/g, '_')}"`],
      ['content-type', type],
    ],
    sender: null,
    size: body.length,
    body,
    cut: false,
    state: 'waiting',
    aside: false,
    trouble: null,
    checked: null,
    digest: createHash('sha256').update(body).digest('base64url'),
  };
}
