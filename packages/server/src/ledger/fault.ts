import type { Fault } from './turn';

/** A command failed; its code says whether that is the disk's doing. */
export class LedgerFault extends Error {
  readonly code: string | null;

  constructor({ message, code }: Fault) {
    super(message);
    this.code = code;
  }
}
