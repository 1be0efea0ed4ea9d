import { credentialsOf, maskedCredentials, type Credentials } from '@grammata/core/target';
import type { Vault } from '../access';
import type { TargetRow } from '../store';

const none: Credentials = { headers: [], query: [] };

/** What is put on a request to this target. */
export const credentialsFor = ({ auth, secret }: Pick<TargetRow, 'auth' | 'secret'>, vault: Vault): Credentials =>
  secret ? credentialsOf(auth, vault.open(secret)) : none;

/** The same as it is recorded. */
export const maskedFor = ({ auth, secret }: Pick<TargetRow, 'auth' | 'secret'>): Credentials =>
  secret ? maskedCredentials(auth) : none;
