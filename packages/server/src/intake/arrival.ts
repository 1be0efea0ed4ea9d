import { createHash } from 'node:crypto';
import { now } from '../clock';
import { newId } from '../ids';
import type { ArrivalRow, IntakeRow } from '../store';

type Came = Pick<ArrivalRow, 'method' | 'contentType' | 'headers' | 'body'> & Partial<ArrivalRow>;

/** The row of something that arrived at an intake, by whatever way: read next, unless told otherwise. */
export function newArrival({ id: intakeId, slug }: IntakeRow, came: Came): ArrivalRow {
  const { receivedAt = now() } = came;
  return {
    id: newId(receivedAt),
    intakeId,
    receivedAt,
    url: `/in/${slug}`,
    sender: null,
    size: came.body.length,
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
