import { isJsonObject, parseJson } from '@grammata/core/submission';
import type { Vault } from '../access';
import type { TargetRow } from '../store';

/** When a token says that it ends: the claim `exp` of a JSON Web Token (RFC 7519 §4.1.4), in ms since the epoch; null for any other. */
export function endOfToken(token: string): number | null {
  const [, claims] = /^[\w-]+\.([\w-]+)\.[\w-]*$/.exec(token) ?? [];
  const read = claims === undefined ? undefined : parseJson(Buffer.from(claims, 'base64url').toString('utf8'));
  const end = isJsonObject(read ?? null) ? (read as Record<string, unknown>).exp : undefined;
  return typeof end === 'number' && Number.isFinite(end) ? end * 1000 : null;
}

/** When the secret of a target ends, where it is shown as it is and says so. */
export function tokenEnd(
  { auth, secret }: Pick<TargetRow, 'auth' | 'secret'>,
  vault: Pick<Vault, 'open'>,
): number | null {
  const isShown = auth.kind === 'bearer' || auth.kind === 'header' || auth.kind === 'query';
  return isShown && secret ? endOfToken(vault.open(secret)) : null;
}
