import { mkdir, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { parseArgs } from 'node:util';
import type { Json } from '@grammata/core/submission';
import { fileText, workspaceOf, type Workspace, type WorkspaceFiles } from '@grammata/core/workspace';
import { Misuse } from './command';

/** Options of what is checked in a workspace. */
export function workspaceOptions(args: string[]): { folder: string; route: string | null; junit: string | null } {
  try {
    const { values, positionals } = parseArgs({
      args,
      options: { workspace: { type: 'string' }, route: { type: 'string' }, junit: { type: 'string' } },
      allowPositionals: true,
      strict: true,
    });
    if (positionals.length > 0 || values.workspace === undefined)
      throw new Misuse('give the folder with --workspace DIR.');
    return { folder: values.workspace, route: values.route ?? null, junit: values.junit ?? null };
  } catch (error) {
    throw error instanceof Misuse ? error : new Misuse((error as Error).message);
  }
}

/** A workspace out of its folder. Throws Misuse where it is none, with the file at fault. */
export async function workspaceIn(folder: string): Promise<Workspace> {
  const read = workspaceOf(await filesIn(folder));
  if ('faults' in read) throw new Misuse(read.faults.map(({ file, message }) => `${file}: ${message}`).join('\n'));
  return read;
}

async function filesIn(folder: string): Promise<WorkspaceFiles> {
  const names = await readdir(folder, { recursive: true }).catch(() => {
    throw new Misuse(`there is no folder “${folder}”.`);
  });
  const files: WorkspaceFiles = {};
  for (const name of names.filter(each => each.endsWith('.json'))) {
    const text = await readFile(path.join(folder, name), 'utf8');
    try {
      files[name.split(path.sep).join('/')] = JSON.parse(text) as Json;
    } catch (error) {
      throw new Misuse(`${name} is not JSON: ${(error as Error).message}`);
    }
  }
  return files;
}

/** The folders that an export writes, and writes anew. */
const own = ['targets', 'routes', 'proofs', 'schemas'];

/** Writes a workspace to a folder: what was exported there before and is gone is gone from it, too. */
export async function writeFiles(folder: string, files: WorkspaceFiles): Promise<void> {
  for (const each of own) await rm(path.join(folder, each), { recursive: true, force: true });
  for (const [name, value] of Object.entries(files)) {
    const at = path.join(folder, ...name.split('/'));
    await mkdir(path.dirname(at), { recursive: true });
    await writeFile(at, fileText(value));
  }
}
