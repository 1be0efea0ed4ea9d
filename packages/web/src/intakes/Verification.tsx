import type { SignedContent, VerificationKind, VerificationView } from '@grammata/contract';
import { Labelled } from '../ui';

/** The rule as it is being edited; secrets are only what is typed now. */
export type Rule = Omit<VerificationView, 'secrets'> & { typed: [string, string] };

const kinds: Record<VerificationKind | 'none', string> = {
  none: 'anyone who knows the address',
  header: 'a secret in a header',
  query: 'a secret in the address',
  basic: 'a user and a password (Basic)',
  hmac: 'a signature (HMAC)',
  standard: 'a signature as Standard Webhooks has it',
};
const nameWords: Record<VerificationKind, string> = {
  header: 'Header',
  query: 'Name of the value',
  basic: 'User',
  hmac: 'Header with the signature',
  standard: '',
};
const signedWords: Record<SignedContent, string> = {
  body: 'the body',
  'timestamp.body': 'timestamp.body',
  'id.timestamp.body': 'id.timestamp.body',
};

const fresh: Omit<Rule, 'kind'> = {
  name: '',
  algorithm: 'sha256',
  encoding: 'hex',
  prefix: '',
  signed: 'body',
  timestampHeader: '',
  idHeader: '',
  tolerance: 300,
  typed: ['', ''],
};

export const ruleOf = (view: VerificationView | null): Rule | null => {
  if (view === null) return null;
  const { secrets: _, ...rule } = view;
  return { ...rule, typed: ['', ''] };
};

interface VerificationProps {
  rule: Rule | null;
  /** True when a secret is stored for this kind already. */
  isStored: boolean;
  errorOf: (field: string) => string | null;
  onChange: (rule: Rule | null) => void;
}

/** Who may send to an intake, and how they prove it. */
export function Verification({ rule, isStored, errorOf, onChange }: VerificationProps) {
  const set = (part: Partial<Rule>) => rule && onChange({ ...rule, ...part });
  const choose = (kind: string) =>
    onChange(kind === 'none' ? null : { ...(rule ?? { ...fresh }), kind: kind as VerificationKind });
  const secretLabel = rule?.kind === 'basic' ? 'Password' : 'Secret';
  return (
    <fieldset className="space-y-4 border-t border-rule pt-3">
      <legend className="sr-only">Who may send</legend>
      <div className="grid gap-x-6 gap-y-4 sm:grid-cols-3">
        <Labelled label="Takes requests from" error={errorOf('verification.kind')}>
          {ids => (
            <select
              {...ids}
              className="write"
              value={rule?.kind ?? 'none'}
              onChange={event => choose(event.target.value)}
            >
              {Object.entries(kinds).map(([kind, words]) => (
                <option key={kind} value={kind}>
                  {words}
                </option>
              ))}
            </select>
          )}
        </Labelled>
        {rule && rule.kind !== 'standard' && (
          <Labelled label={nameWords[rule.kind]} error={errorOf('verification.name')}>
            {ids => (
              <input
                {...ids}
                className="write font-mono text-small"
                value={rule.name}
                onChange={event => set({ name: event.target.value })}
              />
            )}
          </Labelled>
        )}
        {rule && (
          <Labelled
            label={secretLabel}
            hint={isStored ? 'One is stored. Leave this empty to keep it.' : 'Stored encrypted; never shown again.'}
            error={errorOf('verification.secrets')}
          >
            {ids => (
              <input
                {...ids}
                className="write font-mono text-small"
                type="password"
                autoComplete="new-password"
                value={rule.typed[0]}
                onChange={event => set({ typed: [event.target.value, rule.typed[1]] })}
              />
            )}
          </Labelled>
        )}
        {rule && rule.typed[0] !== '' && (
          <Labelled
            label={`The ${secretLabel.toLowerCase()} before it`}
            hint="Taken as well while one replaces the other."
          >
            {ids => (
              <input
                {...ids}
                className="write font-mono text-small"
                type="password"
                autoComplete="new-password"
                value={rule.typed[1]}
                onChange={event => set({ typed: [rule.typed[0], event.target.value] })}
              />
            )}
          </Labelled>
        )}
        {rule?.kind === 'hmac' && <Signature rule={rule} set={set} errorOf={errorOf} />}
        {rule && (rule.kind === 'standard' || (rule.kind === 'hmac' && rule.signed !== 'body')) && (
          <Labelled label="Timestamps may be off by, s" hint="0 takes any." error={errorOf('verification.tolerance')}>
            {ids => (
              <input
                {...ids}
                className="write"
                type="number"
                min={0}
                max={86400}
                value={rule.tolerance}
                onChange={event => set({ tolerance: Number(event.target.value) })}
              />
            )}
          </Labelled>
        )}
      </div>
    </fieldset>
  );
}

interface SignatureProps {
  rule: Rule;
  set: (part: Partial<Rule>) => void;
  errorOf: (field: string) => string | null;
}

function Signature({ rule, set, errorOf }: SignatureProps) {
  return (
    <>
      <Labelled label="Algorithm">
        {ids => (
          <select
            {...ids}
            className="write"
            value={rule.algorithm}
            onChange={event => set({ algorithm: event.target.value as Rule['algorithm'] })}
          >
            {['sha256', 'sha1', 'sha512'].map(each => (
              <option key={each}>{each}</option>
            ))}
          </select>
        )}
      </Labelled>
      <Labelled label="Written as">
        {ids => (
          <select
            {...ids}
            className="write"
            value={rule.encoding}
            onChange={event => set({ encoding: event.target.value as Rule['encoding'] })}
          >
            {['hex', 'base64'].map(each => (
              <option key={each}>{each}</option>
            ))}
          </select>
        )}
      </Labelled>
      <Labelled label="After the text">
        {ids => (
          <input
            {...ids}
            className="write font-mono text-small"
            placeholder="sha256="
            value={rule.prefix}
            onChange={event => set({ prefix: event.target.value })}
          />
        )}
      </Labelled>
      <Labelled label="Over">
        {ids => (
          <select
            {...ids}
            className="write"
            value={rule.signed}
            onChange={event => set({ signed: event.target.value as SignedContent })}
          >
            {Object.entries(signedWords).map(([signed, words]) => (
              <option key={signed} value={signed}>
                {words}
              </option>
            ))}
          </select>
        )}
      </Labelled>
      {rule.signed !== 'body' && (
        <Labelled label="Header with the timestamp" error={errorOf('verification.timestampHeader')}>
          {ids => (
            <input
              {...ids}
              className="write font-mono text-small"
              value={rule.timestampHeader}
              onChange={event => set({ timestampHeader: event.target.value })}
            />
          )}
        </Labelled>
      )}
      {rule.signed === 'id.timestamp.body' && (
        <Labelled label="Header with the id" error={errorOf('verification.idHeader')}>
          {ids => (
            <input
              {...ids}
              className="write font-mono text-small"
              value={rule.idHeader}
              onChange={event => set({ idHeader: event.target.value })}
            />
          )}
        </Labelled>
      )}
    </>
  );
}
