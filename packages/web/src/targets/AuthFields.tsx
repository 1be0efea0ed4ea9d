import type { AuthInput, TargetInput } from '@grammata/contract';
import { ChoiceField, TextField } from '../ui/form';

/** The kinds of credentials, and what their secret is called. */
export const authWords: Record<AuthInput['kind'], { words: string; secret: string }> = {
  bearer: { words: 'a bearer token', secret: 'Bearer token' },
  basic: { words: 'user and password (HTTP Basic)', secret: 'Password' },
  header: { words: 'an API key in a header', secret: 'Key' },
  query: { words: 'an API key in the query', secret: 'Key' },
  oauth: { words: 'OAuth 2 client credentials', secret: 'Client secret' },
  consent: { words: 'somebody’s consent (OAuth 2)', secret: 'Client secret, where there is one' },
  webhook: { words: 'a signature (Standard Webhooks)', secret: 'Signing secret' },
  hmac: { words: 'a signature (HMAC over the body)', secret: 'Signing secret' },
  none: { words: 'none', secret: '' },
};

const OAuthFields = ({ asksConsent = false }: { asksConsent?: boolean }) => (
  <>
    {asksConsent && (
      <TextField<TargetInput>
        name="auth.authorizeUrl"
        label="Consent is given at"
        look="code"
        hint="People are sent there from the target’s page, once this is stored."
        placeholder="https://…/authorize"
      />
    )}
    <TextField<TargetInput> name="auth.tokenUrl" label="Tokens are had at" look="code" placeholder="https://…/token" />
    <TextField<TargetInput> name="auth.clientId" label="Client identifier" look="code" autoComplete="off" />
    <TextField<TargetInput> name="auth.scope" label="Scope" hint="Left empty, the target’s usual one." look="code" />
    <ChoiceField<TargetInput>
      name="auth.clientIn"
      label="The client shows itself"
      options={{ header: 'by HTTP Basic', body: 'in the body' }}
    />
  </>
);

const HmacFields = () => (
  <>
    <ChoiceField<TargetInput>
      name="auth.algorithm"
      label="Algorithm"
      options={{ sha256: 'SHA-256', sha512: 'SHA-512', sha1: 'SHA-1' }}
    />
    <ChoiceField<TargetInput>
      name="auth.encoding"
      label="Written"
      options={{ hex: 'in hexadecimal', base64: 'in base64' }}
    />
    <TextField<TargetInput> name="auth.prefix" label="With this before it" look="code" placeholder="sha256=" />
  </>
);

const namePlaces: Partial<Record<AuthInput['kind'], { label: string; placeholder: string }>> = {
  header: { label: 'Header', placeholder: 'X-Api-Key' },
  query: { label: 'Parameter', placeholder: 'key' },
  hmac: { label: 'Header', placeholder: 'X-Signature' },
};

/** What each kind of credentials needs beside its secret. */
export function AuthFields({ kind }: { kind: AuthInput['kind'] }) {
  const place = namePlaces[kind];
  return (
    <>
      {kind === 'basic' && <TextField<TargetInput> name="auth.user" label="User" autoComplete="off" />}
      {kind === 'oauth' && <OAuthFields />}
      {kind === 'consent' && <OAuthFields asksConsent />}
      {kind === 'hmac' && <HmacFields />}
      {place && <TextField<TargetInput> name="auth.name" {...place} look="code" />}
    </>
  );
}
