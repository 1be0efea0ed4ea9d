import { decode, type Decoded, type Pins } from '@grammata/core/decode';
import { isBlank } from '@grammata/core/submission';
import type { ArrivalRow } from '../store';
import type { Bodies } from './bodies';
import { decodeMultipartFile } from './multipartFile';

/** What followed `?` in an address. */
export const queryOf = (url: string): string => (url.includes('?') ? url.slice(url.indexOf('?') + 1) : '');

/** The decoding of an arrival, made afresh from the bytes that came. */
export const decodeArrival = (arrival: Pick<ArrivalRow, 'body' | 'contentType' | 'url'>, pins: Pins = {}): Decoded =>
  decode(arrival.body, arrival.contentType, queryOf(arrival.url), pins);

/** True for one whose body lies in a file and can be read from there bit by bit. */
export const isStreamed = ({ aside, contentType }: Pick<ArrivalRow, 'aside' | 'contentType'>): boolean =>
  aside && /^multipart\/form-data\s*;/i.test(contentType ?? '');

/** The decoding of an arrival wherever its body lies; null where that is too large to be decoded at once. */
export async function decodeStored(arrival: ArrivalRow, pins: Pins, bodies: Bodies): Promise<Decoded | null> {
  if (!arrival.aside) return decodeArrival(arrival, pins);
  return isStreamed(arrival) ? decodeMultipartFile(bodies.fileOf(arrival.id), arrival.contentType!, pins) : null;
}

/** What is stored of a decoding. A document without a single answer counts as unread. */
export function readingOf({ submissions, notes }: Decoded) {
  const answered = submissions.filter(each => each.fields.length + each.files.length > 0 || each.id !== null);
  const trouble = notes[0]?.message ?? (answered.length === 0 ? 'It holds no answers.' : null);
  const isRead =
    answered.length > 0 &&
    !answered.every(each => isBlank(each.fields.map(field => field.value)) && each.files.length === 0);
  return {
    state: isRead ? ('read' as const) : ('unread' as const),
    trouble: isRead ? trouble : (trouble ?? 'It holds no answers.'),
    submissions: isRead ? answered : [],
  };
}
