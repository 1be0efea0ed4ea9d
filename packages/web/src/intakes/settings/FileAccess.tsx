import { FileAccessInput, type IntakeInput, type IntakeView } from '@grammata/contract';
import { useFormContext, useWatch } from 'react-hook-form';
import { Act } from '../../ui';
import { ChoiceField, SecretField, TextField } from '../../ui/form';

const kinds: Record<FileAccessInput['kind'], string> = {
  bearer: 'a bearer token',
  basic: 'user and password (HTTP Basic)',
  header: 'a key in a header',
  query: 'a key in the query',
};
const names: Record<FileAccessInput['kind'], string | null> = {
  bearer: null,
  basic: 'User',
  header: 'Header',
  query: 'Parameter',
};

/** Credentials for files that submissions link to, for builders whose links do not open for everyone. */
export function FileAccess({ stored }: { stored: IntakeView['fileAccess'] }) {
  const { control, setValue } = useFormContext<IntakeInput>();
  const access = useWatch({ control, name: 'fileAccess' }) ?? null;
  const set = (next: FileAccessInput | null) => setValue('fileAccess', next, { shouldDirty: true });
  if (!access)
    return (
      <p>
        <span className="block text-small text-ink-2">Linked files</span>
        are downloaded without credentials.{' '}
        <Act onClick={() => set(new FileAccessInput())}>Add credentials for files</Act>
      </p>
    );
  const name = names[access.kind];
  return (
    <fieldset className="border-t border-rule pt-3">
      <legend className="sr-only">Linked files</legend>
      <div className="grid gap-x-6 gap-y-4 sm:grid-cols-2 lg:grid-cols-4">
        <TextField<IntakeInput>
          name="fileAccess.host"
          label="Host of the files"
          hint="Credentials are sent to this host only."
          look="code"
          placeholder="files.example.org"
        />
        <ChoiceField<IntakeInput> name="fileAccess.kind" label="It requires" options={kinds} />
        {name !== null && <TextField<IntakeInput> name="fileAccess.name" label={name} autoComplete="off" />}
        <SecretField<IntakeInput>
          name="fileAccess.secret"
          label="Secret for files"
          isStored={stored?.hasSecret === true && stored.host === access.host}
        />
      </div>
      <p className="mt-2">
        <Act onClick={() => set(null)}>Remove credentials for files</Act>
      </p>
    </fieldset>
  );
}
