import { createCipheriv, createDecipheriv, randomBytes } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { KnownSecrets } from './knownSecrets';

/** Encrypts what must not be read from the database alone. */
export interface Vault {
  seal(secret: string): Buffer;
  open(sealed: Buffer): string;
  /** Encrypts a text that is no secret of its own but may hold some; `unwrap` gives it back. */
  wrap(text: string): Buffer;
  unwrap(wrapped: Buffer): string;
  /**
   * Takes note of a secret that came by other ways, such as a token that was fetched.
   * @param until when it runs out, in ms since the epoch
   */
  know(secret: string, until?: number): void;
  /** The text without any secret that was sealed, opened or made known: for everything that comes from outside and is kept or shown. */
  mask(text: string): string;
}

/** AES-256-GCM (NIST SP 800-38D): 12 bytes of nonce, 16 of tag, then the secret. */
export function vaultWith(key: Buffer): Vault {
  const known = new KnownSecrets();
  /** What was opened, by what is kept: the same for as long as it is at hand. */
  const opened = new WeakMap<Buffer, string>();
  const wrap = (text: string) => {
    const nonce = randomBytes(12);
    const cipher = createCipheriv('aes-256-gcm', key, nonce);
    const sealed = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()]);
    return Buffer.concat([nonce, cipher.getAuthTag(), sealed]);
  };
  const unwrap = (sealed: Buffer) => {
    const decipher = createDecipheriv('aes-256-gcm', key, sealed.subarray(0, 12)).setAuthTag(sealed.subarray(12, 28));
    return Buffer.concat([decipher.update(sealed.subarray(28)), decipher.final()]).toString('utf8');
  };
  return {
    wrap,
    unwrap,
    know: (secret, until) => known.add(secret, until),
    mask: text => known.mask(text),
    seal(secret) {
      known.add(secret);
      return wrap(secret);
    },
    open(sealed) {
      const before = opened.get(sealed);
      if (before !== undefined) return before;
      const secret = unwrap(sealed);
      known.add(secret);
      opened.set(sealed, secret);
      return secret;
    },
  };
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
