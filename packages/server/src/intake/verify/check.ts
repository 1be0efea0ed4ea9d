import type { VerificationInput } from '@grammata/contract';

/** The digests over what is signed, one for each secret, and how many bytes that is. */
export interface Signed {
  digests: string[];
  bytes: number;
}

/** What a check looks at. */
export interface Checked {
  /** A header's value by its name, whatever its case; null when it is not there. */
  header(name: string): string | null;
  query: URLSearchParams;
  /** What the signature would have to be; null where none is asked for. */
  signed: Signed | null;
  /** ms since the epoch. */
  now: number;
}

export interface CheckVerdict {
  ok: boolean;
  /** What was found, for the people who look after the intake. Never holds a secret. */
  words: string;
}

/** One way for a sender to prove itself. Any of the secrets will do: there are two while one replaces the other. */
export type Check = (request: Checked, rule: Omit<VerificationInput, 'secrets'>, secrets: string[]) => CheckVerdict;
