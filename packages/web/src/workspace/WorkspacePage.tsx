import type { ComparedView } from '@grammata/contract';
import { asText, type Json } from '@grammata/core/submission';
import type { FileChange, WorkspaceFiles } from '@grammata/core/workspace';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, ApiFault, wordsFor } from '../api';
import { Act, count, counted, Fault, FileAct, FolderAct, Note, Press, Sheet } from '../ui';
import { archiveOf, filesFrom, NotAWorkspace } from './files';

/** What is kept here as files, to be taken away, and to be brought back: the difference is shown first. */
export function WorkspacePage() {
  const [files, setFiles] = useState<WorkspaceFiles | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const compare = useMutation({
    mutationFn: (given: WorkspaceFiles) =>
      api<ComparedView>('/workspace/compare', { method: 'POST', body: { files: given } }),
  });
  const save = useMutation({ mutationFn: async () => download(archiveOf(await api<WorkspaceFiles>('/workspace'))) });
  const choose = async (chosen: File[]) => {
    setFault(null);
    setFiles(null);
    compare.reset();
    try {
      const given = await filesFrom(chosen);
      setFiles(given);
      compare.mutate(given);
    } catch (error) {
      if (!(error instanceof NotAWorkspace)) throw error;
      setFault(error.message);
    }
  };
  const done = () => (setFiles(null), compare.reset());
  return (
    <Sheet
      crumb={<Link to="/routes">Routes</Link>}
      title="Workspace"
      aside={
        <>
          <Note tone="goes">
            Intakes, targets, routes, samples and proofs, one file each, for version control and checks in a pipeline.
            Secrets are not included.
          </Note>
          <Note tone="look">Samples and proofs contain personal data. Keep the files private.</Note>
        </>
      }
    >
      <h2 className="mt-5">Export</h2>
      <p className="font-serif text-ink-2">
        As an archive, or into a folder with <code className="font-mono text-small">npx grammata export DIR</code>.
      </p>
      <p className="mt-2">
        <Press quiet onClick={() => save.mutate()} disabled={save.isPending}>
          {save.isPending ? 'Exporting…' : 'Export as .zip'}
        </Press>
      </p>
      {save.error && <Fault>{wordsFor(save.error)}</Fault>}
      <h2 className="mt-8">Import</h2>
      <p className="font-serif text-ink-2">
        Changes are shown first, then imported all or not at all. Live versions stay until you publish.
      </p>
      <p className="mt-2 flex gap-x-6">
        <FolderAct onFiles={chosen => void choose(chosen)}>Choose a folder…</FolderAct>
        <FileAct accept=".zip" onFile={file => void choose([file])}>
          Choose an archive…
        </FileAct>
      </p>
      {fault && <Fault>{fault}</Fault>}
      {compare.isPending && (
        <p role="status" className="mt-4 font-serif text-ink-2">
          Comparing {count(Object.keys(files ?? {}).length)} files with this workspace…
        </p>
      )}
      {compare.error && <Fault>{wordsFor(compare.error)}</Fault>}
      {compare.data && files && (
        <Comparison key={compare.submittedAt} view={compare.data} files={files} onDone={done} />
      )}
    </Sheet>
  );
}

function download(archive: Uint8Array<ArrayBuffer>) {
  const url = URL.createObjectURL(new Blob([archive], { type: 'application/zip' }));
  Object.assign(document.createElement('a'), { href: url, download: 'workspace.zip' }).click();
  URL.revokeObjectURL(url);
}

function Comparison({ view, files, onDone }: { view: ComparedView; files: WorkspaceFiles; onDone: () => void }) {
  const client = useQueryClient();
  const take = useMutation({
    mutationFn: () => api('/workspace', { method: 'POST', body: { files, mark: view.mark } }),
    onSuccess: () => client.invalidateQueries(),
  });
  const { changes, stays, faults, proofs } = view;
  if (take.isSuccess)
    return (
      <div role="status" className="mt-5 border-y border-ink py-4">
        <p className="font-serif text-lead">
          {counted(changes.length, 'file')} {changes.length === 1 ? 'was' : 'were'} imported.
        </p>
        <Act onClick={onDone}>Done</Act>
      </div>
    );
  const differing = proofs.flatMap(({ route, fault, proofs: differ }) =>
    fault ? [`“${route}” can’t be imported: ${fault}`] : differ.map(({ name }) => `“${name}” of “${route}”`),
  );
  const refused = take.error instanceof ApiFault ? (take.error.problem.errors ?? []) : [];
  return (
    <section aria-label="Changes" className="mt-5 border-y border-ink bg-raised px-4 py-4">
      <p className="font-serif text-lead" role="status">
        {faults.length > 0
          ? 'It can’t be imported.'
          : changes.length === 0
            ? 'No changes.'
            : `${counted(changes.length, 'file')} would change.`}
      </p>
      {faults.length > 0 && <Faults faults={faults} />}
      {changes.length > 0 && (
        <ul aria-label="Files" className="ledger mt-3 border-t border-rule">
          {changes.map(each => (
            <Changed key={each.file} change={each} />
          ))}
        </ul>
      )}
      {differing.length > 0 && (
        <div className="mt-4">
          <p className="font-serif text-crimson">Proofs that would differ:</p>
          <ul className="list-inside list-disc text-small">
            {differing.slice(0, 20).map(each => (
              <li key={each}>{each}</li>
            ))}
            {differing.length > 20 && <li>and {count(differing.length - 20)} more</li>}
          </ul>
        </div>
      )}
      {stays.length > 0 && (
        <p className="mt-3 text-small text-ink-2">
          Unchanged, not in the files: {stays.map(each => `${each.kind} “${each.name}”`).join(', ')}.
        </p>
      )}
      {take.error && <Fault>{wordsFor(take.error)}</Fault>}
      {refused.length > 0 && <Faults faults={refused.map(({ field, message }) => ({ file: field, message }))} />}
      <div className="mt-4 flex gap-4">
        {faults.length === 0 && changes.length > 0 && (
          <Press onClick={() => take.mutate()} disabled={take.isPending}>
            {take.isPending ? 'Importing…' : 'Import all'}
          </Press>
        )}
        <Press quiet onClick={onDone}>
          {faults.length === 0 && changes.length > 0 ? 'Cancel' : 'Close'}
        </Press>
      </div>
    </section>
  );
}

const Faults = ({ faults }: { faults: ComparedView['faults'] }) => (
  <ul className="mt-2 border-l-2 border-crimson pl-4">
    {faults.map(({ file, message }, at) => (
      <li key={at}>
        <code className="font-mono text-small">{file}</code> <span className="font-serif">{message}</span>
      </li>
    ))}
  </ul>
);

const changeWords = { added: ['+', 'new'], changed: ['~', 'changed'], gone: ['−', 'goes'] } as const;

function Changed({ change: { file, kind, name, change, differences } }: { change: FileChange }) {
  const [mark, word] = changeWords[change];
  return (
    <li className="py-2">
      <p className="flex flex-wrap items-baseline gap-x-3">
        <span aria-hidden className="w-3 font-mono font-bold">
          {mark}
        </span>
        <span className="min-w-0 flex-1 truncate">
          <span className="text-ink-2">{kind}</span> {name}
        </span>
        <span className="text-small text-ink-2">{word}</span>
        <code className="font-mono text-fine text-ink-3 max-md:hidden">{file}</code>
      </p>
      {differences.length > 0 && (
        <table className="mt-1 ml-6 w-[calc(100%-1.5rem)] table-fixed text-left">
          <thead className="sr-only">
            <tr>
              <th>Where</th>
              <th>Here</th>
              <th>There</th>
            </tr>
          </thead>
          <tbody>
            {differences.slice(0, 40).map(({ place, was, now }) => (
              <tr key={place.join('/')} className="align-baseline">
                <th scope="row" className="py-0.5 pr-3 font-mono text-small font-medium break-words">
                  {place.join(' › ') || 'all of it'}
                </th>
                <td className="py-0.5 pr-3 font-mono text-small break-words text-ink-2">{shown(was)}</td>
                <td className="py-0.5 font-mono text-small break-words">{shown(now)}</td>
              </tr>
            ))}
            {differences.length > 40 && (
              <tr>
                <td colSpan={3} className="text-small text-ink-2">
                  and {count(differences.length - 40)} more
                </td>
              </tr>
            )}
          </tbody>
        </table>
      )}
    </li>
  );
}

/** A value in a few words: whole things are only named. */
function shown(value: Json | undefined): string {
  if (value === undefined) return 'missing';
  if (value === null) return 'nothing';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  const text = asText(value);
  return text === '' ? 'blank' : text.length > 160 ? `${text.slice(0, 160)}…` : text;
}
