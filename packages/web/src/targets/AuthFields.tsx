import type { AuthInput, TargetInput } from '@grammata/contract';
import type { FieldErrors, UseFormRegister } from 'react-hook-form';
import { Labelled } from '../ui';

/** The kinds of credentials, and what their secret is called. */
export const authWords: Record<AuthInput['kind'], { words: string; secret: string }> = {
  bearer: { words: 'a bearer token', secret: 'Bearer token' },
  basic: { words: 'user and password (HTTP Basic)', secret: 'Password' },
  header: { words: 'an API key in a header', secret: 'Key' },
  query: { words: 'an API key in the query', secret: 'Key' },
  oauth: { words: 'OAuth 2 client credentials', secret: 'Client secret' },
  webhook: { words: 'a signature (Standard Webhooks)', secret: 'Signing secret' },
  hmac: { words: 'a signature (HMAC over the body)', secret: 'Signing secret' },
  none: { words: 'none', secret: '' },
};

interface AuthFieldsProps {
  register: UseFormRegister<TargetInput>;
  errors?: FieldErrors<TargetInput>['auth'];
}

function OAuthFields({ register, errors }: AuthFieldsProps) {
  return (
    <>
      <Labelled label="Tokens are had at" error={errors?.tokenUrl?.message ?? null}>
        {ids => (
          <input
            {...ids}
            {...register('auth.tokenUrl')}
            className="write font-mono text-small"
            placeholder="https://…/token"
          />
        )}
      </Labelled>
      <Labelled label="Client identifier" error={errors?.clientId?.message ?? null}>
        {ids => (
          <input {...ids} {...register('auth.clientId')} className="write font-mono text-small" autoComplete="off" />
        )}
      </Labelled>
      <Labelled label="Scope" hint="Left empty, the target’s usual one.">
        {ids => <input {...ids} {...register('auth.scope')} className="write font-mono text-small" />}
      </Labelled>
      <Labelled label="The client shows itself">
        {ids => (
          <select {...ids} {...register('auth.clientIn')} className="write">
            <option value="header">by HTTP Basic</option>
            <option value="body">in the body</option>
          </select>
        )}
      </Labelled>
    </>
  );
}

function HmacFields({ register }: AuthFieldsProps) {
  return (
    <>
      <Labelled label="Algorithm">
        {ids => (
          <select {...ids} {...register('auth.algorithm')} className="write">
            <option value="sha256">SHA-256</option>
            <option value="sha512">SHA-512</option>
            <option value="sha1">SHA-1</option>
          </select>
        )}
      </Labelled>
      <Labelled label="Written">
        {ids => (
          <select {...ids} {...register('auth.encoding')} className="write">
            <option value="hex">in hexadecimal</option>
            <option value="base64">in base64</option>
          </select>
        )}
      </Labelled>
      <Labelled label="With this before it">
        {ids => (
          <input {...ids} {...register('auth.prefix')} className="write font-mono text-small" placeholder="sha256=" />
        )}
      </Labelled>
    </>
  );
}

/** What each kind of credentials needs beside its secret. */
export function AuthFields({
  kind,
  register,
  errors: authErrors,
  said,
}: AuthFieldsProps & {
  kind: AuthInput['kind'];
  /** What the server has against them. */
  said: string | null;
}) {
  return (
    <>
      {kind === 'basic' && (
        <Labelled label="User" error={authErrors?.user?.message ?? said}>
          {ids => <input {...ids} {...register('auth.user')} className="write" autoComplete="off" />}
        </Labelled>
      )}
      {kind === 'oauth' && <OAuthFields register={register} errors={authErrors} />}
      {kind === 'hmac' && <HmacFields register={register} />}
      {(kind === 'header' || kind === 'query' || kind === 'hmac') && (
        <Labelled label={kind === 'query' ? 'Parameter' : 'Header'} error={authErrors?.name?.message ?? said}>
          {ids => (
            <input
              {...ids}
              {...register('auth.name')}
              className="write font-mono text-small"
              placeholder={kind === 'query' ? 'key' : kind === 'hmac' ? 'X-Signature' : 'X-Api-Key'}
            />
          )}
        </Labelled>
      )}
    </>
  );
}
