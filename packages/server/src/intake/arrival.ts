import { createHash } from 'node:crypto';
import { now } from '../clock';
import { newId } from '../ids';
import type { IntakeRow, ReceivedArrival } from '../store';

type Came = Pick<ReceivedArrival, 'method' | 'contentType' | 'headers' | 'body'> & Partial<ReceivedArrival>;

/** Bytes from which an arrival is read apart from others. */
const LARGE = 256_000;

/** The row of something that arrived at an intake, by whatever way: read next, unless told otherwise. */
export function newArrival({ id: intakeId, slug }: IntakeRow, came: Came): ReceivedArrival {
  const { receivedAt = now(), size = came.body.length } = came;
  return {
    id: newId(receivedAt),
    intakeId,
    receivedAt,
    url: `/in/${slug}`,
    sender: null,
    size,
    lane: size > LARGE ? 'slow' : 'quick',
    readingRevision: 0,
    cut: false,
    state: 'waiting',
    aside: false,
    trouble: null,
    checked: null,
    digest: came.digest === undefined ? createHash('sha256').update(came.body).digest('base64url') : came.digest,
    tries: 0,
    ended: false,
    found: 0,
    repeats: 0,
    unsure: false,
    way: null,
    formId: null,
    about: null,
    ...came,
  };
}

/** Why something is not taken that is larger than its intake takes. */
export const tooLarge = (size: number, { sizeLimit }: IntakeRow): string =>
  `${(size / 1e6).toFixed(1)} MB is more than this intake’s limit of ${(sizeLimit / 1e6).toFixed(1)} MB.`;
