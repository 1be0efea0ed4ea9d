import type { FileAccessInput, IntakeView } from '@grammata/contract';
import { Act, Labelled } from '../ui';

export const fileAccessOf = (stored: IntakeView['fileAccess']): FileAccessInput | null =>
  stored && { host: stored.host, kind: stored.kind as FileAccessInput['kind'], name: stored.name };

const kinds: Record<FileAccessInput['kind'], { words: string; name: string | null }> = {
  bearer: { words: 'a bearer token', name: null },
  basic: { words: 'user and password (HTTP Basic)', name: 'User' },
  header: { words: 'a key in a header', name: 'Header' },
  query: { words: 'a key in the query', name: 'Parameter' },
};

/** Credentials for files that submissions link to, for builders whose links do not open for everyone. */
export function FileAccess({
  access,
  isStored,
  errorOf,
  onChange,
}: {
  access: FileAccessInput | null;
  isStored: boolean;
  errorOf: (field: string) => string | null;
  onChange: (access: FileAccessInput | null) => void;
}) {
  if (!access)
    return (
      <p>
        <span className="text-small text-ink-2">Files by link</span>
        <br />
        are fetched without credentials.{' '}
        <Act onClick={() => onChange({ host: '', kind: 'bearer', name: '' })}>Give credentials for files</Act>
      </p>
    );
  const set = (more: Partial<FileAccessInput>) => onChange({ ...access, ...more });
  const { name } = kinds[access.kind];
  return (
    <fieldset className="border-t border-rule pt-3">
      <legend className="sr-only">Files by link</legend>
      <div className="grid gap-x-6 gap-y-4 sm:grid-cols-2 lg:grid-cols-4">
        <Labelled
          label="Files come from the host"
          hint="The credentials go to no other."
          error={errorOf('fileAccess.host')}
        >
          {ids => (
            <input
              {...ids}
              className="write font-mono text-small"
              value={access.host}
              placeholder="files.example.org"
              onChange={event => set({ host: event.target.value.trim() })}
            />
          )}
        </Labelled>
        <Labelled label="which asks for" error={errorOf('fileAccess.kind')}>
          {ids => (
            <select
              {...ids}
              className="write"
              value={access.kind}
              onChange={event => set({ kind: event.target.value as FileAccessInput['kind'] })}
            >
              {Object.entries(kinds).map(([key, { words }]) => (
                <option key={key} value={key}>
                  {words}
                </option>
              ))}
            </select>
          )}
        </Labelled>
        {name !== null && (
          <Labelled label={name} error={errorOf('fileAccess.name')}>
            {ids => (
              <input
                {...ids}
                className="write"
                value={access.name ?? ''}
                autoComplete="off"
                onChange={event => set({ name: event.target.value })}
              />
            )}
          </Labelled>
        )}
        <Labelled
          label="Secret for files"
          hint={isStored ? 'One is stored. Leave this empty to keep it.' : 'Stored encrypted; never shown again.'}
          error={errorOf('fileAccess.secret')}
        >
          {ids => (
            <input
              {...ids}
              type="password"
              autoComplete="off"
              className="write font-mono text-small"
              value={access.secret ?? ''}
              placeholder={isStored ? '••••••' : ''}
              onChange={event => set({ secret: event.target.value || undefined })}
            />
          )}
        </Labelled>
      </div>
      <p className="mt-2">
        <Act onClick={() => onChange(null)}>Fetch files without credentials</Act>
      </p>
    </fieldset>
  );
}
