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

/** Random bytes are had many at a time: asking for a few costs as much as asking for thousands. */
const pool = { bytes: Buffer.alloc(0), at: 0 };

function randomByte(): number {
  if (pool.at === pool.bytes.length) Object.assign(pool, { bytes: randomBytes(4096), at: 0 });
  return pool.bytes[pool.at++]!;
}

/** Unguessable text of lower-case letters and digits without look-alikes; 5 bits a character. */
export function randomPart(length: number): string {
  const alphabet = '23456789abcdefghjkmnpqrstuvwxyz0';
  let text = '';
  for (let at = 0; at < length; at++) text += alphabet[randomByte() & 31]!;
  return text;
}
