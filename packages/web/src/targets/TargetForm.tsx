import { TargetInput, type AuthInput, type ReadingKind } from '@grammata/contract';
import { classValidatorResolver } from '@hookform/resolvers/class-validator';
import { useForm, useWatch } from 'react-hook-form';
import { ApiFault, wordsFor } from '../app/api';
import { Fault, Labelled, Press } from '../ui';

const usualPaths: Record<ReadingKind, string> = { tables: '/tables', openapi: '/openapi.json' };

/** The kinds of credentials, and what their secret is called. */
export const authWords: Record<AuthInput['kind'], { words: string; secret: string }> = {
  bearer: { words: 'a bearer token', secret: 'Bearer token' },
  basic: { words: 'user and password (HTTP Basic)', secret: 'Password' },
  header: { words: 'an API key in a header', secret: 'Key' },
  query: { words: 'an API key in the query', secret: 'Key' },
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
        <Labelled label="Base address" error={errorOf('baseUrl')}>
          {ids => (
            <input {...ids} {...register('baseUrl')} className="write font-mono text-small" placeholder="https://…" />
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
                },
              })}
              className="write"
            >
              <option value="tables">a list of its tables and columns</option>
              <option value="openapi">an OpenAPI document</option>
            </select>
          )}
        </Labelled>
        <Labelled
          label={reads === 'openapi' ? 'Has its document at' : 'Lists its tables at'}
          hint="Below the base address."
          error={errorOf('discoveryPath')}
        >
          {ids => <input {...ids} {...register('discoveryPath')} className="write font-mono text-small" />}
        </Labelled>
        <Labelled label="Credentials">
          {ids => (
            <select {...ids} {...register('auth.kind')} className="write">
              {Object.entries(authWords).map(([value, { words }]) => (
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
        {(kind === 'header' || kind === 'query') && (
          <Labelled
            label={kind === 'header' ? 'Header' : 'Parameter'}
            error={authErrors?.name?.message ?? errorOf('auth')}
          >
            {ids => (
              <input
                {...ids}
                {...register('auth.name')}
                className="write font-mono text-small"
                placeholder={kind === 'header' ? 'X-Api-Key' : 'key'}
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
