import type { AuthInput, TargetInput } from '@grammata/contract';
import { ChoiceField, TextField } from '../ui/form';

/** The kinds of credentials, and what their secret is called. */
export const authWords: Record<AuthInput['kind'], { words: string; secret: string }> = {
  bearer: { words: 'bearer token', secret: 'Bearer token' },
  basic: { words: 'user name and password (HTTP Basic)', secret: 'Password' },
  header: { words: 'API key in a header', secret: 'Key' },
  query: { words: 'API key in the query', secret: 'Key' },
  oauth: { words: 'OAuth 2 client credentials', secret: 'Client secret' },
  consent: { words: 'OAuth 2 with user consent', secret: 'Client secret, if any' },
  webhook: { words: 'Standard Webhooks signature', secret: 'Signing secret' },
  hmac: { words: 'HMAC signature of the body', secret: 'Signing secret' },
  none: { words: 'none', secret: '' },
};

const OAuthFields = ({ asksConsent = false }: { asksConsent?: boolean }) => (
  <>
    {asksConsent && (
      <TextField<TargetInput>
        name="auth.authorizeUrl"
        label="Authorization URL"
        look="code"
        hint="After saving, give consent on the target’s page."
        placeholder="https://…/authorize"
      />
    )}
    <TextField<TargetInput> name="auth.tokenUrl" label="Token URL" look="code" placeholder="https://…/token" />
    <TextField<TargetInput> name="auth.clientId" label="Client ID" look="code" autoComplete="off" />
    <TextField<TargetInput> name="auth.scope" label="Scope" hint="Leave empty for the target’s default." look="code" />
    <ChoiceField<TargetInput>
      name="auth.clientIn"
      label="Client authentication"
      options={{ header: 'HTTP Basic', body: 'in the body' }}
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
      label="Encoding"
      options={{ hex: 'hexadecimal', base64: 'base64' }}
    />
    <TextField<TargetInput> name="auth.prefix" label="Prefix" look="code" placeholder="sha256=" />
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
