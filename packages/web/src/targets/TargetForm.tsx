import { TargetInput, type AuthInput, type ReadingKind } from '@grammata/contract';
import { classValidatorResolver } from '@hookform/resolvers/class-validator';
import { useForm, useWatch, type FieldErrors, type UseFormRegister } from 'react-hook-form';
import { ApiFault, wordsFor } from '../app/api';
import { Fault, Labelled, Press } from '../ui';

const usualPaths: Record<ReadingKind, string> = { tables: '/tables', openapi: '/openapi.json', mail: '/' };

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

const resolver = classValidatorResolver(TargetInput);

/** Name, address and credentials of a target. The token goes in and never comes out again. */
export function TargetForm({
  initial,
  hasToken,
  error,
  busy,
  deed,
  onSubmit,
  onCancel,
}: {
  initial: Partial<TargetInput>;
  hasToken: boolean;
  error: unknown;
  busy: boolean;
  deed: string;
  onSubmit: (input: TargetInput) => void;
  onCancel: () => void;
}) {
  const { register, handleSubmit, formState, setValue, control } = useForm<TargetInput>({
    resolver,
    defaultValues: {
      name: '',
      baseUrl: '',
      reads: 'tables',
      discoveryPath: usualPaths.tables,
      auth: { kind: 'bearer' },
      ...initial,
      token: undefined,
    },
  });
  const [reads, path, kind = 'bearer'] = useWatch({ control, name: ['reads', 'discoveryPath', 'auth.kind'] });
  const isMail = reads === 'mail';
  const kinds = Object.entries(authWords).filter(([each]) => !isMail || each === 'basic' || each === 'none');
  const said = error instanceof ApiFault ? (error.problem.errors ?? []) : [];
  const authErrors = formState.errors.auth;
  const errorOf = (field: keyof TargetInput) =>
    formState.errors[field]?.message ?? said.find(each => each.field === field)?.message ?? null;
  const submit = handleSubmit(input => onSubmit({ ...input, token: input.token || undefined }));
  return (
    <form
      onSubmit={event => void submit(event)}
      aria-label="Target"
      className="mt-4 space-y-4 border-y border-ink bg-raised px-4 py-4"
    >
      <div className="grid gap-x-6 gap-y-4 sm:grid-cols-2">
        <Labelled label="Name" error={errorOf('name')}>
          {ids => <input {...ids} {...register('name')} className="write" placeholder="Register" autoFocus />}
        </Labelled>
        <Labelled label={isMail ? 'Address of the server' : 'Base address'} error={errorOf('baseUrl')}>
          {ids => (
            <input
              {...ids}
              {...register('baseUrl')}
              className="write font-mono text-small"
              placeholder={isMail ? 'smtp://mail.example.org:587' : 'https://…'}
            />
          )}
        </Labelled>
        <Labelled label="Is read from">
          {ids => (
            <select
              {...ids}
              {...register('reads', {
                onChange: event => {
                  // A path that nobody changed follows what is read.
                  const chosen = (event.target as HTMLSelectElement).value as ReadingKind;
                  if (Object.values(usualPaths).includes(path)) setValue('discoveryPath', usualPaths[chosen]);
                  if (chosen === 'mail') setValue('auth.kind', 'basic');
                },
              })}
              className="write"
            >
              <option value="tables">a list of its tables and columns</option>
              <option value="openapi">an OpenAPI document</option>
              <option value="mail">nothing: it is a mail server</option>
            </select>
          )}
        </Labelled>
        {!isMail && (
          <Labelled
            label={reads === 'openapi' ? 'Has its document at' : 'Lists its tables at'}
            hint="Below the base address."
            error={errorOf('discoveryPath')}
          >
            {ids => <input {...ids} {...register('discoveryPath')} className="write font-mono text-small" />}
          </Labelled>
        )}
        <Labelled label="Credentials">
          {ids => (
            <select {...ids} {...register('auth.kind')} className="write">
              {kinds.map(([value, { words }]) => (
                <option key={value} value={value}>
                  {words}
                </option>
              ))}
            </select>
          )}
        </Labelled>
        {kind === 'basic' && (
          <Labelled label="User" error={authErrors?.user?.message ?? errorOf('auth')}>
            {ids => <input {...ids} {...register('auth.user')} className="write" autoComplete="off" />}
          </Labelled>
        )}
        {kind === 'oauth' && <OAuthFields register={register} errors={authErrors} />}
        {kind === 'hmac' && <HmacFields register={register} />}
        {(kind === 'header' || kind === 'query' || kind === 'hmac') && (
          <Labelled
            label={kind === 'query' ? 'Parameter' : 'Header'}
            error={authErrors?.name?.message ?? errorOf('auth')}
          >
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
        {kind !== 'none' && (
          <Labelled
            label={authWords[kind].secret}
            hint={hasToken ? 'One is stored. Leave this empty to keep it.' : 'Stored encrypted; never shown again.'}
            error={errorOf('token')}
          >
            {ids => (
              <input
                {...ids}
                {...register('token')}
                className="write font-mono text-small"
                type="password"
                autoComplete="off"
                placeholder={hasToken ? '••••••' : ''}
              />
            )}
          </Labelled>
        )}
      </div>
      {error !== null && error !== undefined && said.length === 0 && <Fault>{wordsFor(error)}</Fault>}
      <div className="flex gap-4">
        <button className="press" disabled={busy}>
          {deed}
        </button>
        <Press quiet onClick={onCancel}>
          Cancel
        </Press>
      </div>
    </form>
  );
}

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
