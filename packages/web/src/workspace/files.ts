import { fileText, type WorkspaceFiles } from '@grammata/core/workspace';
import { parseJson } from '@grammata/core/submission';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';

/** A file that is no JSON, or an archive that is none; says which. */
export class NotAWorkspace extends Error {}

/** Paths of a workspace's own files: what else a folder holds is not read. */
const own = /^(workspace|(intakes|samples|targets|routes|proofs|schemas)\/.+)\.json$/;

/** A workspace's files out of named texts: the folder that all of them stand in is not a part of their paths. */
export function filesOfTexts(texts: readonly { path: string; text: string }[]): WorkspaceFiles {
  const root = texts.find(({ path }) => /(^|\/)workspace\.json$/.test(path))?.path.replace(/workspace\.json$/, '');
  if (root === undefined) throw new NotAWorkspace('No workspace.json found: this is not an exported workspace.');
  const files: WorkspaceFiles = {};
  for (const { path, text } of texts) {
    const name = path.startsWith(root) ? path.slice(root.length) : '';
    if (!own.test(name)) continue;
    const content = parseJson(text);
    if (content === undefined) throw new NotAWorkspace(`${name} is not JSON.`);
    files[name] = content;
  }
  return files;
}

/** A workspace out of what was chosen: the files of a folder, or one archive (ZIP). Throws NotAWorkspace. */
export async function filesFrom(chosen: readonly File[]): Promise<WorkspaceFiles> {
  const [first] = chosen;
  if (chosen.length === 1 && first && /\.zip$/i.test(first.name))
    return filesOfArchive(new Uint8Array(await first.arrayBuffer()));
  const json = chosen.filter(each => each.name.endsWith('.json'));
  return filesOfTexts(
    await Promise.all(
      json.map(async each => ({ path: each.webkitRelativePath || each.name, text: await each.text() })),
    ),
  );
}

function filesOfArchive(bytes: Uint8Array): WorkspaceFiles {
  try {
    const entries = Object.entries(unzipSync(bytes, { filter: ({ name }) => name.endsWith('.json') }));
    return filesOfTexts(entries.map(([path, content]) => ({ path, text: strFromU8(content) })));
  } catch (error) {
    throw error instanceof NotAWorkspace ? error : new NotAWorkspace('This is not a readable ZIP archive.');
  }
}

/** A workspace as one archive: the same to the byte as long as nothing changed. */
export function archiveOf(files: WorkspaceFiles): Uint8Array<ArrayBuffer> {
  const names = Object.keys(files).sort();
  const entries = names.map(name => [`workspace/${name}`, strToU8(fileText(files[name]!))] as const);
  // A day that any archive can state (APPNOTE 4.4.6): the time of writing is nobody's business.
  return zipSync(Object.fromEntries(entries), { mtime: new Date(1980, 0, 1) }) as Uint8Array<ArrayBuffer>;
}
