import { TargetInput } from '@grammata/contract';
import { classValidatorResolver } from '@hookform/resolvers/class-validator';
import { useForm } from 'react-hook-form';
import { ApiFault, wordsFor } from '../app/api';
import { Fault, Labelled, Press } from '../ui';

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
  const { register, handleSubmit, formState } = useForm<TargetInput>({
    resolver,
    defaultValues: { name: '', baseUrl: '', discoveryPath: '/tables', ...initial, token: undefined },
  });
  const said = error instanceof ApiFault ? (error.problem.errors ?? []) : [];
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
        <Labelled label="Lists its tables at" hint="Below the base address." error={errorOf('discoveryPath')}>
          {ids => <input {...ids} {...register('discoveryPath')} className="write font-mono text-small" />}
        </Labelled>
        <Labelled
          label="Bearer token"
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
