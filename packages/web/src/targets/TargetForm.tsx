import { TargetInput, type ReadingKind } from '@grammata/contract';
import { usualPace, usualPatience } from '@grammata/core/perform';
import { classValidatorResolver } from '@hookform/resolvers/class-validator';
import { useState } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import { ApiFault, wordsFor } from '../app/api';
import { Act, Fault, Labelled, Press } from '../ui';
import { AuthFields, authWords } from './AuthFields';
import { DocumentField } from './DocumentField';
import { PaceFields } from './PaceFields';
import { PatienceFields } from './PatienceFields';
import { RecipeFields, usualPlaces } from './RecipeFields';

const usualPaths: Record<ReadingKind, string> = {
  tables: '/tables',
  openapi: '/openapi.json',
  example: '/',
  mail: '/',
  files: '/',
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
  const { register, handleSubmit, formState, getValues, setValue, control } = useForm<TargetInput>({
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
  const isFiles = reads === 'files';
  const [givesDocument, setGivesDocument] = useState(Boolean(initial.document));
  const [hasTrySide, setHasTrySide] = useState(Boolean(initial.tryBaseUrl));
  const givenHere = reads === 'example' || isFiles || (reads === 'openapi' && givesDocument);
  const [pointsElsewhere, setPointsElsewhere] = useState(Boolean(initial.recipe));
  const [isPatient, setHasPatience] = useState(Boolean(initial.patience));
  const [hasPace, setHasPace] = useState(Boolean(initial.pace));
  /** Only what is asked over HTTP is waited for so. */
  const canWait = !isMail && !isFiles;
  const hasPatience = canWait && isPatient;
  const hasPath = reads === 'tables' || (reads === 'openapi' && !givesDocument);
  const kinds = Object.entries(authWords).filter(([each]) => !isMail || each === 'basic' || each === 'none');
  const said = error instanceof ApiFault ? (error.problem.errors ?? []) : [];
  const authErrors = formState.errors.auth;
  const errorOf = (field: keyof TargetInput) =>
    formState.errors[field]?.message ?? said.find(each => each.field === field)?.message ?? null;
  const submit = handleSubmit(input =>
    onSubmit({
      ...input,
      token: input.token || undefined,
      document: givenHere ? input.document : null,
      recipe: reads === 'tables' && pointsElsewhere ? input.recipe : null,
      tryBaseUrl: (hasTrySide && input.tryBaseUrl) || null,
      tryToken: input.tryToken || undefined,
      patience: hasPatience ? input.patience : null,
      pace: hasPace ? input.pace : null,
    }),
  );
  return (
    <form
      onSubmit={event => void submit(event)}
      noValidate
      aria-label="Target"
      className="mt-4 space-y-4 border-y border-ink bg-raised px-4 py-4"
    >
      <div className="grid gap-x-6 gap-y-4 sm:grid-cols-2">
        <Labelled label="Name" error={errorOf('name')}>
          {ids => <input {...ids} {...register('name')} className="write" placeholder="Register" autoFocus />}
        </Labelled>
        <Labelled
          label={isMail ? 'Address of the server' : isFiles ? 'Folder' : 'Base address'}
          hint={isFiles ? 'Below the folder that this server was given for rows.' : undefined}
          error={errorOf('baseUrl')}
        >
          {ids => (
            <input
              {...ids}
              {...register('baseUrl')}
              className="write font-mono text-small"
              placeholder={isMail ? 'smtp://mail.example.org:587' : isFiles ? 'file://visits' : 'https://…'}
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
                  if (chosen === 'files') setValue('auth.kind', 'none');
                },
              })}
              className="write"
            >
              <option value="tables">a list of its tables and columns</option>
              <option value="openapi">an OpenAPI document</option>
              <option value="example">an example: a curl line, a HAR file, a record</option>
              <option value="mail">nothing: it is a mail server</option>
              <option value="files">nothing: rows go to files on this server</option>
            </select>
          )}
        </Labelled>
        {hasPath && (
          <Labelled
            label={reads === 'openapi' ? 'Has its document at' : 'Lists its tables at'}
            hint={
              reads === 'openapi' ? (
                <>
                  Below the base address. <Act onClick={() => setGivesDocument(true)}>Give the document itself</Act>
                </>
              ) : (
                <>
                  Below the base address.{' '}
                  {!pointsElsewhere && (
                    <Act
                      onClick={() => {
                        setValue('recipe', usualPlaces());
                        setPointsElsewhere(true);
                      }}
                    >
                      Its answer is built otherwise
                    </Act>
                  )}
                </>
              )
            }
            error={errorOf('discoveryPath')}
          >
            {ids => <input {...ids} {...register('discoveryPath')} className="write font-mono text-small" />}
          </Labelled>
        )}
        {reads === 'tables' && pointsElsewhere && (
          <RecipeFields
            register={register}
            errors={formState.errors.recipe}
            onUsual={() => setPointsElsewhere(false)}
          />
        )}
        {givenHere && (
          <DocumentField
            kind={reads}
            register={register('document')}
            onText={text => {
              setValue('document', text);
              const [, origin] = /(https?:\/\/[^\s/'"]+)/.exec(text) ?? [];
              if (reads === 'example' && origin && !getValues('baseUrl')) setValue('baseUrl', origin);
            }}
            error={errorOf('document')}
            onAddress={reads === 'openapi' ? () => setGivesDocument(false) : null}
          />
        )}
        {!isFiles && (
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
        )}
        <AuthFields kind={kind} register={register} errors={authErrors} said={errorOf('auth')} />
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
        {!isMail && !isFiles && !hasTrySide && (
          <p className="self-end pb-1 text-small text-ink-3">
            <Act onClick={() => setHasTrySide(true)}>Add a side to try things on</Act>
          </p>
        )}
        {canWait && !hasPatience && (
          <p className="self-end pb-1 text-small text-ink-3">
            <Act
              onClick={() => {
                setValue('patience', { ...usualPatience });
                setHasPatience(true);
              }}
            >
              Change how long its answers are waited for
            </Act>
          </p>
        )}
        {hasPatience && (
          <PatienceFields
            register={register}
            errors={formState.errors.patience}
            onUsual={() => setHasPatience(false)}
          />
        )}
        {!hasPace && (
          <p className="self-end pb-1 text-small text-ink-3">
            <Act
              onClick={() => {
                setValue('pace', { ...usualPace });
                setHasPace(true);
              }}
            >
              Change how much is asked of it at once
            </Act>
          </p>
        )}
        {hasPace && <PaceFields register={register} errors={formState.errors.pace} onUsual={() => setHasPace(false)} />}
        {hasTrySide && (
          <>
            <Labelled
              label="Things are tried on"
              hint="Real tries go there; live routes go to the base address."
              error={errorOf('tryBaseUrl')}
            >
              {ids => (
                <input
                  {...ids}
                  {...register('tryBaseUrl')}
                  className="write font-mono text-small"
                  placeholder="https://try.…"
                />
              )}
            </Labelled>
            {kind !== 'none' && (
              <Labelled label={`${authWords[kind].secret}, for trying`} error={errorOf('tryToken')}>
                {ids => (
                  <input
                    {...ids}
                    {...register('tryToken')}
                    className="write font-mono text-small"
                    type="password"
                    autoComplete="off"
                    placeholder={initial.tryBaseUrl ? '••••••' : ''}
                  />
                )}
              </Labelled>
            )}
          </>
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
