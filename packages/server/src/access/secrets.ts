import { createCipheriv, createDecipheriv, randomBytes } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { asText, parseJson } from '@grammata/core/submission';
import { MASK } from '@grammata/core/target';

/** Encrypts what must not be read from the database alone. */
export interface Vault {
  seal(secret: string): Buffer;
  open(sealed: Buffer): string;
  /** Takes note of a secret that came by other ways, such as a token that was fetched. */
  know(secret: string): void;
  /** The text without any secret that was sealed, opened or made known: for everything that comes from outside and is kept or shown. */
  mask(text: string): string;
}

/** AES-256-GCM (NIST SP 800-38D): 12 bytes of nonce, 16 of tag, then the secret. */
export function vaultWith(key: Buffer): Vault {
  const known = new KnownSecrets();
  /** What was opened, by what is kept: the same for as long as it is at hand. */
  const opened = new WeakMap<Buffer, string>();
  return {
    know: secret => known.add(secret),
    mask: text => known.mask(text),
    seal(secret) {
      known.add(secret);
      const nonce = randomBytes(12);
      const cipher = createCipheriv('aes-256-gcm', key, nonce);
      const sealed = Buffer.concat([cipher.update(secret, 'utf8'), cipher.final()]);
      return Buffer.concat([nonce, cipher.getAuthTag(), sealed]);
    },
    open(sealed) {
      const before = opened.get(sealed);
      if (before !== undefined) return before;
      const decipher = createDecipheriv('aes-256-gcm', key, sealed.subarray(0, 12)).setAuthTag(sealed.subarray(12, 28));
      const secret = Buffer.concat([decipher.update(sealed.subarray(28)), decipher.final()]).toString('utf8');
      known.add(secret);
      opened.set(sealed, secret);
      return secret;
    },
  };
}

/** Secrets that are too short to be told from other text are not looked for. */
const SHORTEST = 6;
/** Secrets that are remembered, the newest. */
const MOST_KNOWN = 1000;

/** The secrets in use, and how they may be written: as they are, percent-encoded, in Base64 (alone or behind a user’s name). */
class KnownSecrets {
  readonly #all = new Set<string>();
  #pattern: RegExp | null = null;

  add(secret: string): void {
    const parts = secret.startsWith('[') ? listIn(secret) : [secret];
    for (const part of parts) {
      if (part.length < SHORTEST || this.#all.has(part)) continue;
      this.#all.add(part);
      if (this.#all.size > MOST_KNOWN) this.#all.delete(this.#all.values().next().value!);
      this.#pattern = null;
    }
  }

  mask(text: string): string {
    if (this.#all.size === 0 || text === '') return text;
    this.#pattern ??= new RegExp(
      [...this.#all]
        .flatMap(waysToWrite)
        .sort((a, b) => b.length - a.length)
        .map(each => each.replace(/[.*+?^${}()|[\]\\/-]/g, '\\$&'))
        .join('|'),
      'g',
    );
    return text.replace(this.#pattern, MASK);
  }
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

/** The vault of a data folder; its key stands in a file beside the database, readable by its owner only. */
export function vaultIn(dataDir: string): Vault {
  return vaultWith(keyIn(dataDir, 'key'));
}

/** A key of a data folder, made when it is first asked for. Throws on a file that holds none. */
export function keyIn(dataDir: string, name: string): Buffer {
  const file = path.join(dataDir, name);
  if (!existsSync(file)) writeFileSync(file, randomBytes(32).toString('base64'), { mode: 0o600 });
  const key = Buffer.from(readFileSync(file, 'utf8'), 'base64');
  if (key.length !== 32) throw new Error(`The key file ${file} does not hold a 32-byte key.`);
  return key;
}
