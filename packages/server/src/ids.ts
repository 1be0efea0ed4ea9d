import { randomBytes } from 'node:crypto';
import { now } from './clock';

/** An identifier that sorts by the time it was made: 9 characters of time, 12 of chance. */
export const newId = (at: number = now()): string => at.toString(36).padStart(9, '0') + randomPart(12);

/** Unguessable text of lower-case letters and digits without look-alikes; 5 bits a character. */
export function randomPart(length: number): string {
  const alphabet = '23456789abcdefghjkmnpqrstuvwxyz0';
  return Array.from(randomBytes(length), byte => alphabet[byte & 31]).join('');
}
