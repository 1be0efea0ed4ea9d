import { asText, parseJson } from '@grammata/core/submission';
import { MASK } from '@grammata/core/target';
import { now } from '../clock';

/** Secrets that are too short to be told from other text are not looked for; also the characters that are hashed. */
const SHORTEST = 6;
/** ms between two looks for secrets that have run out. */
const SWEEP = 60_000;
/** The base of the hash: any odd number that spreads well. */
const BASE = 16_777_619;
const BITS = 16;
const LAST = (1 << BITS) - 1;
const HIGHEST = power(BASE, SHORTEST - 1);

/**
 * The secrets that may be valid, and how they may be written: as they are, percent-encoded, in JSON, in Base64 (alone or behind a
 * user’s name). A text is searched once, whatever their number: a rolling hash of six characters tells where one may begin (Karp and
 * Rabin, “Efficient randomized pattern-matching algorithms”, 1987).
 */
export class KnownSecrets {
  /** Until when each may be valid, in ms since the epoch. */
  readonly #until = new Map<string, number>();
  /** Ways to write them by the hash of their beginning, longest first. */
  readonly #ways = new Map<number, string[]>();
  /** Which hashes there are, by their last bits: most places of a text are passed by a look at this. */
  readonly #begins = new Uint8Array(1 << BITS);
  #sweptAt = now();

  /** @param until when it runs out, in ms since the epoch; one that nobody knows the end of is kept as long as the process runs */
  add(secret: string, until = Infinity): void {
    this.#sweep();
    const parts = secret.startsWith('[') ? listIn(secret) : [secret];
    for (const part of parts) {
      if (part.length < SHORTEST) continue;
      const before = this.#until.get(part);
      this.#until.set(part, Math.max(until, before ?? 0));
      if (before === undefined) this.#lookFor(part);
    }
  }

  #lookFor(secret: string): void {
    for (const way of waysToWrite(secret)) {
      const hash = hashOf(way);
      const all = [...(this.#ways.get(hash) ?? []), way].sort((a, b) => b.length - a.length);
      this.#ways.set(hash, all);
      this.#begins[hash & LAST] = 1;
    }
  }

  mask(text: string): string {
    if (this.#ways.size === 0 || text.length < SHORTEST) return text;
    let [masked, from] = ['', 0];
    let hash = hashOf(text);
    for (let at = 0; ;) {
      const ways = this.#begins[hash & LAST] === 1 ? this.#ways.get(hash) : undefined;
      const found = ways?.find(way => text.startsWith(way, at));
      if (found === undefined) {
        if (at + SHORTEST >= text.length) break;
        hash = (Math.imul(hash - Math.imul(text.charCodeAt(at), HIGHEST), BASE) + text.charCodeAt(at + SHORTEST)) | 0;
        at += 1;
        continue;
      }
      masked += text.slice(from, at) + MASK;
      from = at += found.length;
      if (at + SHORTEST > text.length) break;
      hash = hashOf(text, at);
    }
    return from === 0 ? text : masked + text.slice(from);
  }

  /** Forgets what has run out. */
  #sweep(): void {
    const time = now();
    if (time - this.#sweptAt < SWEEP) return;
    this.#sweptAt = time;
    const over = [...this.#until].filter(([, until]) => until < time).map(([secret]) => secret);
    if (over.length === 0) return;
    over.forEach(secret => this.#until.delete(secret));
    // Made anew of those that are left: two secrets may be written in one way, and it goes with the last of them.
    this.#ways.clear();
    this.#begins.fill(0);
    for (const secret of this.#until.keys()) this.#lookFor(secret);
  }
}

/** The hash of the first characters from a place. */
function hashOf(text: string, from = 0): number {
  let hash = 0;
  for (let at = from; at < from + SHORTEST; at++) hash = (Math.imul(hash, BASE) + text.charCodeAt(at)) | 0;
  return hash;
}

function power(base: number, times: number): number {
  return Array.from({ length: times }).reduce<number>(product => Math.imul(product, base), 1);
}

/** A list of secrets is sealed as one JSON text. */
function listIn(text: string): string[] {
  const list = parseJson(text);
  return Array.isArray(list) ? list.map(asText) : [text];
}

function waysToWrite(secret: string): string[] {
  const base64 = Buffer.from(secret).toString('base64').replace(/=/g, '');
  // Behind `user:` the first letters of the Base64 depend on the user: what follows is the same in one of three ways.
  const shifted = [1, 2].map(by =>
    Buffer.from(`${'x'.repeat(by)}${secret}`)
      .toString('base64')
      .replace(/=/g, '')
      .slice(by + 1, -1),
  );
  const inJson = JSON.stringify(secret).slice(1, -1);
  return [...new Set([secret, encodeURIComponent(secret), inJson, base64, ...shifted])].filter(
    each => each.length >= SHORTEST,
  );
}

/** Data in JSON with every text in it masked, names too; the same object where none holds a secret. */
export const maskedIn = <Data>(data: Data, mask: (text: string) => string): Data => masked(data, mask) as Data;

function masked(data: unknown, mask: (text: string) => string): unknown {
  if (typeof data === 'string') return mask(data);
  if (typeof data !== 'object' || data === null) return data;
  if (Array.isArray(data)) {
    const all = data.map(each => masked(each, mask));
    return all.some((each, at) => each !== data[at]) ? all : data;
  }
  const before = data as Record<string, unknown>;
  const all = Object.entries(before).map(([name, each]) => [mask(name), masked(each, mask)] as const);
  return all.some(([name, each]) => before[name] !== each) ? Object.fromEntries(all) : data;
}
