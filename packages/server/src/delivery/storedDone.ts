import type { Done } from '@grammata/core/perform';
import { maskedIn, type Vault } from '../access';
import type { StoredDone } from '../store';

/** A call that is done, as it is kept. */
export function keptDone(done: Done, vault: Pick<Vault, 'mask' | 'wrap'>): StoredDone {
  const shown = maskedIn(done, vault.mask);
  return shown === done ? done : { ...shown, sealed: vault.wrap(JSON.stringify(done)).toString('base64') };
}

/** The call as it was done, for the calls after it. */
export function storedDone(text: string, vault: Pick<Vault, 'unwrap'>): Done {
  const kept = JSON.parse(text) as StoredDone;
  return kept.sealed === undefined ? kept : (JSON.parse(vault.unwrap(Buffer.from(kept.sealed, 'base64'))) as Done);
}
