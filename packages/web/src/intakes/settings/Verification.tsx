import {
  VerificationInput,
  type IntakeInput,
  type SignedContent,
  type VerificationKind,
  type VerificationView,
} from '@grammata/contract';
import { useFormContext, useWatch } from 'react-hook-form';
import { Choice } from '../../ui';
import { ChoiceField, NumberField, SecretField, TextField } from '../../ui/form';

const kinds: Record<VerificationKind | 'none', string> = {
  none: 'no check',
  header: 'a secret in a header',
  query: 'a secret in the address',
  basic: 'user name and password (Basic)',
  hmac: 'a signature (HMAC)',
  standard: 'a Standard Webhooks signature',
};
const nameWords: Record<VerificationKind, string> = {
  header: 'Header',
  query: 'Parameter',
  basic: 'User',
  hmac: 'Signature header',
  standard: '',
};
const signedWords: Record<SignedContent, string> = {
  body: 'the body',
  'timestamp.body': 'timestamp.body',
  'id.timestamp.body': 'id.timestamp.body',
};

/** Who may send to an intake, and how they prove it. */
export function Verification({ stored }: { stored: VerificationView | null }) {
  const { control, setValue } = useFormContext<IntakeInput>();
  const rule = useWatch({ control, name: 'verification' }) ?? null;
  const choose = (kind: VerificationKind | 'none') =>
    setValue(
      'verification',
      kind === 'none' ? null : Object.assign(new VerificationInput(), { ...rule, kind, secrets: ['', ''] }),
      { shouldDirty: true },
    );
  const secretLabel = rule?.kind === 'basic' ? 'Password' : 'Secret';
  return (
    <fieldset className="space-y-4 border-t border-rule pt-3">
      <legend className="sr-only">Verification</legend>
      <div className="grid gap-x-6 gap-y-4 sm:grid-cols-3">
        <Choice label="Senders are verified by" value={rule?.kind ?? 'none'} onChange={choose} options={kinds} />
        {rule && rule.kind !== 'standard' && (
          <TextField<IntakeInput> name="verification.name" label={nameWords[rule.kind]} look="code" />
        )}
        {rule && (
          <SecretField<IntakeInput>
            name="verification.secrets.0"
            isText
            label={secretLabel}
            isStored={stored !== null && stored.kind === rule.kind}
            autoComplete="new-password"
          />
        )}
        {rule?.secrets?.[0] && (
          <SecretField<IntakeInput>
            name="verification.secrets.1"
            isText
            label={`Previous ${secretLabel.toLowerCase()}`}
            hint="Also accepted while you rotate secrets."
            isStored={false}
            autoComplete="new-password"
          />
        )}
        {rule?.kind === 'hmac' && <Signature signed={rule.signed} />}
        {rule && (rule.kind === 'standard' || (rule.kind === 'hmac' && rule.signed !== 'body')) && (
          <NumberField<IntakeInput>
            name="verification.tolerance"
            label="Timestamp tolerance, seconds"
            hint="0 for no limit."
          />
        )}
      </div>
    </fieldset>
  );
}

function Signature({ signed }: { signed: SignedContent }) {
  return (
    <>
      <ChoiceField<IntakeInput>
        name="verification.algorithm"
        label="Algorithm"
        options={{ sha256: 'SHA-256', sha1: 'SHA-1', sha512: 'SHA-512' }}
      />
      <ChoiceField<IntakeInput>
        name="verification.encoding"
        label="Encoding"
        options={{ hex: 'hexadecimal', base64: 'base64' }}
      />
      <TextField<IntakeInput> name="verification.prefix" label="Prefix" look="code" placeholder="sha256=" />
      <ChoiceField<IntakeInput> name="verification.signed" label="Signed content" options={signedWords} />
      {signed !== 'body' && (
        <TextField<IntakeInput> name="verification.timestampHeader" label="Timestamp header" look="code" />
      )}
      {signed === 'id.timestamp.body' && (
        <TextField<IntakeInput> name="verification.idHeader" label="ID header" look="code" />
      )}
    </>
  );
}
