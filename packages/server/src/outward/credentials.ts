import { credentialsOf, maskedCredentials, type Auth, type Credentials } from '@grammata/core/target';
import type { Vault } from '../access';

/** How a target is shown who asks, as it is stored. */
interface Sealed {
  auth: Auth;
  secret: Buffer | null;
}

const none: Credentials = { headers: [], query: [] };

/** What is put on a request to this target. */
export const credentialsFor = ({ auth, secret }: Sealed, vault: Vault): Credentials =>
  secret ? credentialsOf(auth, vault.open(secret)) : none;

/** The same as it is recorded. */
export const maskedFor = ({ auth, secret }: Sealed): Credentials => (secret ? maskedCredentials(auth) : none);
