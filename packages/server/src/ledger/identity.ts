import { createHash } from 'node:crypto';

/** Characters of an arrival's identifier (see `ids`). */
const ARRIVAL = 23;

/**
 * The identifier of the submission at a place of an arrival. It follows from both, so that what is read anew after a power cut
 * is the same submission, and goes out under the same keys. Sorts like the arrival, then by place.
 */
export const submissionIdOf = (arrivalId: string, position: number): string =>
  arrivalId + position.toString(36).padStart(4, '0');

/** True where a submission's identifier says that it came with an arrival. */
export const isOfArrival = (submissionId: string, arrivalId: string): boolean =>
  submissionId.length > ARRIVAL && submissionId.startsWith(arrivalId);

/** The arrival that a submission's identifier names. */
export const arrivalOf = (submissionId: string): string => submissionId.slice(0, ARRIVAL);

/** A digest of texts: 132 bits of SHA-256, in base64url. */
export const printOf = (...texts: readonly string[]): string =>
  createHash('sha256').update(texts.join('\u0000')).digest('base64url').slice(0, 22);
