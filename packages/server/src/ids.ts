import { randomBytes } from 'node:crypto';
import { now } from './clock';

let last = { at: 0, count: 0 };

/**
 * An identifier that sorts by the time it was made, and within a millisecond by the order in which this process made
 * them: 9 characters of time, 4 that count on, 10 of chance.
 */
export function newId(at: number = now()): string {
  last = { at, count: at === last.at ? last.count + 1 : 0 };
  return at.toString(36).padStart(9, '0') + last.count.toString(36).padStart(4, '0') + randomPart(10);
}

/** Unguessable text of lower-case letters and digits without look-alikes; 5 bits a character. */
export function randomPart(length: number): string {
  const alphabet = '23456789abcdefghjkmnpqrstuvwxyz0';
  return Array.from(randomBytes(length), byte => alphabet[byte & 31]).join('');
}
