import {
  AuthInput,
  PaceInput,
  PatienceInput,
  TargetInput,
  type DocumentView,
  type ReadingKind,
} from '@grammata/contract';
import { useRef, useState } from 'react';
import { useWatch } from 'react-hook-form';
import { Act } from '../ui';
import { ChoiceField, InputForm, SecretField, TextField, TickField, useInput, type Input } from '../ui/form';
import { AuthFields, authWords } from './AuthFields';
import { DocumentField } from './DocumentField';
import { PaceFields } from './PaceFields';
import { PatienceFields } from './PatienceFields';
import { useLookAt } from './queries';
import { RecipeFields, usualPlaces } from './RecipeFields';

const usualPaths: Record<ReadingKind, string> = {
  tables: '/tables',
  openapi: '/openapi.json',
  graphql: '/graphql',
  example: '/',
  mail: '/',
  files: '/',
};
const readingWords: Record<ReadingKind, string> = {
  tables: 'a list of its tables and columns',
  openapi: 'an OpenAPI document',
  graphql: 'a GraphQL schema',
  example: 'nothing: add operations by hand or from examples',
  mail: 'nothing: it is a mail server',
  files: 'nothing: write rows to files on this server',
};
const addressWords: Partial<Record<ReadingKind, { label: string; placeholder: string; hint?: string }>> = {
  mail: { label: 'Server address', placeholder: 'smtp://mail.example.org:587' },
  files: {
    label: 'Folder',
    placeholder: 'visits',
    hint: 'Inside the folder for files on this server.',
  },
};
const usualAddress = { label: 'Base address', placeholder: 'https://…' };

/** What is taken from an example. */
const taken = ({ baseUrl, document, auth, token }: TargetInput) => ({
  baseUrl,
  document,
  auth,
  ...(token && { token }),
});

const nonBlank = (auth: AuthInput): Partial<AuthInput> =>
  Object.fromEntries(Object.entries(auth).filter(([, value]) => value !== '' && value !== undefined && value !== null));

/** Name, address and credentials of a target. The token goes in and never comes out again. */
export function TargetForm({
  initial,
  hasToken,
  keptSize = null,
  targetId = null,
  keptAs,
  deed,
  save,
  onCancel,
}: {
  initial: Partial<TargetInput>;
  hasToken: boolean;
  /** Characters of a document that is kept and too large to be shown. */
  keptSize?: number | null;
  /** The target that is changed; null for a new one. */
  targetId?: string | null;
  /** By which name what is typed outlives the page. */
  keptAs: string;
  deed: string;
  /** Stores it; rejects with what the server has against it. */
  save: (input: TargetInput, changed: Partial<TargetInput>) => Promise<unknown>;
  onCancel: () => void;
}) {
  const looking = useRef<Promise<unknown> | null>(null);
  const of: Input<TargetInput> = useInput<TargetInput>({
    input: TargetInput,
    values: {
      ...new TargetInput(),
      ...initial,
      auth: { ...new AuthInput(), algorithm: 'sha256', encoding: 'hex', clientIn: 'header', ...initial.auth },
      token: undefined,
      tryToken: undefined,
    },
    keptAs,
    save: async (typed, changedByHand) => {
      // What an example shows of the address and of who asks belongs to what is stored.
      await looking.current;
      const late = looking.current ? of.form.getValues() : null;
      looking.current = null;
      const [input, changed] = late ? [late, { ...changedByHand, ...taken(late) }] : [typed, changedByHand];
      if (isGiven) return save(input, changed);
      const { document: _unused, ...others } = changed;
      return save({ ...input, document: null }, initial.document ? { ...others, document: null } : others);
    },
  });
  const { control, setValue, getValues } = of.form;
  const [reads, path, kind = 'bearer', document, recipe, patience, pace, tryBaseUrl] = useWatch({
    control,
    name: ['reads', 'discoveryPath', 'auth.kind', 'document', 'recipe', 'patience', 'pace', 'tryBaseUrl'],
  });
  const [givesDocument, setGivesDocument] = useState(Boolean(document) || keptSize !== null);
  const [givesAnother, setGivesAnother] = useState(false);
  const look = useLookAt();
  const isAsked = reads !== 'mail' && reads !== 'files';
  const isGiven =
    reads === 'example' || reads === 'files' || ((reads === 'openapi' || reads === 'graphql') && givesDocument);
  /** What the chosen reading has no use for is not stored. */
  const follow = (chosen: ReadingKind) => {
    // A path that nobody changed follows what is read.
    if (Object.values(usualPaths).includes(path)) setValue('discoveryPath', usualPaths[chosen]);
    if (chosen === 'mail') setValue('auth.kind', 'basic');
    if (chosen === 'files') setValue('auth.kind', 'none');
    if (chosen !== 'tables') setValue('recipe', null);
    if (chosen === 'mail' || chosen === 'files') {
      setValue('patience', null);
      setValue('tryBaseUrl', null);
    }
  };
  /** What a text says of the address and of who asks is taken where nobody said otherwise. */
  const take = ({ baseUrl, auth, secret, text }: DocumentView) => {
    if (baseUrl !== null && !getValues('baseUrl')) setValue('baseUrl', baseUrl);
    if (text !== getValues('document')) setValue('document', text);
    if (hasToken || getValues('token') || !auth) return;
    // What somebody typed stays; a text says the rest, and nothing of other credentials than theirs.
    const typed = getValues('auth') as AuthInput;
    const isTyped = [typed.user, typed.name, typed.tokenUrl, typed.clientId].some(Boolean);
    if (isTyped && typed.kind !== auth.kind) return;
    setValue('auth', { ...typed, ...auth, ...(isTyped && nonBlank(typed)) } as AuthInput);
    if (secret !== null) setValue('token', secret);
  };
  const address = addressWords[reads] ?? usualAddress;
  const kinds = Object.fromEntries(
    Object.entries(authWords)
      .filter(([each]) => reads !== 'mail' || each === 'basic' || each === 'none')
      .map(([each, { words }]) => [each, words]),
  );
  const offer = (words: string, take: () => void) => (
    <p className="self-end pb-1 text-small text-ink-3">
      <Act onClick={take}>{words}</Act>
    </p>
  );
  return (
    <InputForm
      of={of}
      label="Target"
      deed={deed}
      onCancel={onCancel}
      className="mt-4 space-y-4 border-y border-ink bg-raised px-4 py-4"
    >
      <div className="grid gap-x-6 gap-y-4 sm:grid-cols-2">
        <TextField<TargetInput> name="name" label="Name" placeholder="Register" autoFocus />
        <TextField<TargetInput> name="baseUrl" {...address} look="code" />
        <ChoiceField<TargetInput, ReadingKind>
          name="reads"
          label="Operations from"
          options={readingWords}
          onPick={follow}
        />
        {reads === 'tables' && (
          <TextField<TargetInput>
            name="discoveryPath"
            label="List of tables"
            look="code"
            hint={
              <>
                Relative to the base address.{' '}
                {!recipe && <Act onClick={() => setValue('recipe', usualPlaces())}>Custom response structure</Act>}
              </>
            }
          />
        )}
        {((reads === 'openapi' && !givesDocument) || reads === 'graphql') && (
          <TextField<TargetInput>
            name="discoveryPath"
            label={reads === 'graphql' ? 'Endpoint' : 'Document path'}
            look="code"
            hint={
              <>
                {reads === 'graphql'
                  ? 'Relative to the base address.'
                  : 'Relative to the base address, or a whole URL.'}{' '}
                {!givesDocument && (
                  <Act onClick={() => setGivesDocument(true)}>
                    Paste the {reads === 'graphql' ? 'schema' : 'document'} text
                  </Act>
                )}
              </>
            }
          />
        )}
        {reads === 'tables' && recipe && <RecipeFields targetId={targetId} onUsual={() => setValue('recipe', null)} />}
        {isGiven && keptSize !== null && !document && !givesAnother && (
          <p className="self-end pb-1 text-small text-ink-2 sm:col-span-2">
            Document of {(keptSize / 1e6).toFixed(1)} MB stored.{' '}
            <Act onClick={() => setGivesAnother(true)}>Replace</Act>
          </p>
        )}
        {isGiven && (keptSize === null || document || givesAnother) && (
          <DocumentField
            kind={reads}
            look={look}
            onText={text => {
              setValue('document', text);
              if (text.trim() !== '' && reads !== 'files')
                looking.current = look.mutateAsync({ reads, document: text }).then(take, () => undefined);
            }}
            onAddress={reads === 'openapi' || reads === 'graphql' ? () => setGivesDocument(false) : null}
          />
        )}
        {reads !== 'files' && <ChoiceField<TargetInput> name="auth.kind" label="Credentials" options={kinds} />}
        <AuthFields kind={kind} />
        {kind !== 'none' && (
          <SecretField<TargetInput> name="token" label={authWords[kind].secret} isStored={hasToken} />
        )}
        <TickField<TargetInput>
          name="takesPersonal"
          label="May receive personal data"
          hint="If not, each route warns before going live which lines send personal data."
        />
        {isAsked && (
          <TickField<TargetInput>
            name="knowsKeys"
            label="Supports idempotency keys"
            hint="A retried request is then stored only once."
          />
        )}
        {(reads === 'tables' || reads === 'openapi' || reads === 'graphql') && (
          <TickField<TargetInput>
            name="takesNames"
            label="Send option labels"
            hint={`For options such as {"id": "s1", "label": "New"}: “New” is sent instead of “s1”.`}
          />
        )}
        {/* A consent is given to one side. */}
        {isAsked &&
          kind !== 'consent' &&
          (tryBaseUrl === null || tryBaseUrl === undefined
            ? offer('Add a test address', () => setValue('tryBaseUrl', ''))
            : null)}
        {isAsked && !patience && offer('Set timeouts', () => setValue('patience', new PatienceInput()))}
        {patience && <PatienceFields onUsual={() => setValue('patience', null)} />}
        {!pace && offer('Set rate limits', () => setValue('pace', new PaceInput()))}
        {pace && <PaceFields onUsual={() => setValue('pace', null)} />}
        {isAsked && tryBaseUrl !== null && tryBaseUrl !== undefined && (
          <>
            <TextField<TargetInput>
              name="tryBaseUrl"
              label="Test address"
              hint={
                <>
                  Such as a sandbox. Tests go there; live routes use the base address.{' '}
                  <Act onClick={() => setValue('tryBaseUrl', null)}>Remove test address</Act>
                </>
              }
              look="code"
              placeholder="https://test.…"
            />
            {kind !== 'none' && (
              <SecretField<TargetInput>
                name="tryToken"
                label={`${authWords[kind].secret}, for tests`}
                isStored={Boolean(initial.tryBaseUrl)}
                hint={initial.tryBaseUrl ? undefined : 'Leave empty to test without one.'}
              />
            )}
          </>
        )}
      </div>
    </InputForm>
  );
}
