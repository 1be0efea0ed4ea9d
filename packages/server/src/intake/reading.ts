import { decode, type Decoded, type Pins } from '@grammata/core/decode';
import { isBlank } from '@grammata/core/submission';
import type { ArrivalRow } from '../store';

/** What followed `?` in an address. */
export const queryOf = (url: string): string => (url.includes('?') ? url.slice(url.indexOf('?') + 1) : '');

/** The decoding of an arrival, made afresh from the bytes that came. */
export const decodeArrival = (arrival: Pick<ArrivalRow, 'body' | 'contentType' | 'url'>, pins: Pins = {}): Decoded =>
  decode(arrival.body, arrival.contentType, queryOf(arrival.url), pins);

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
