import { mkdir, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { parseJson, type Json } from '@grammata/core/submission';
import {
  fileText,
  isWorkspace,
  workspaceOf,
  workspaceSchemas,
  type Workspace,
  type WorkspaceFiles,
} from '@grammata/core/workspace';
import Ajv2020, { type ValidateFunction } from 'ajv/dist/2020.js';
import { Misuse } from './command';
import { Server } from './server';

/** Options of what is checked in a workspace; a report is an option of some commands only. */
export function workspaceOptions(
  args: string[],
  mayReport = false,
): { from: WorkspaceFrom; route: string | null; junit: string | null } {
  try {
    const { values, positionals } = parseArgs({
      args,
      options: {
        workspace: { type: 'string' },
        server: { type: 'string' },
        route: { type: 'string' },
        ...(mayReport && { junit: { type: 'string' } as const }),
      },
      allowPositionals: true,
      strict: true,
    });
    if (positionals.length > 0 || (values.workspace === undefined) === (values.server === undefined))
      throw new Misuse('give the folder with --workspace DIR, or the server with --server URL.');
    return {
      from: values.workspace === undefined ? { server: values.server! } : { folder: values.workspace },
      route: values.route ?? null,
      junit: (values.junit as string | undefined) ?? null,
    };
  } catch (error) {
    throw error instanceof Misuse ? error : new Misuse((error as Error).message);
  }
}

/** Where a workspace is had from. */
export type WorkspaceFrom = { folder: string } | { server: string };

/** A workspace out of its folder, or as a server has it. Throws like {@link workspaceIn}. */
export async function workspaceFrom(from: WorkspaceFrom): Promise<Workspace> {
  return 'folder' in from ? workspaceIn(from.folder) : read(await (await Server.at(from.server)).files());
}

/** A workspace out of its folder. Throws Misuse where it is none, with the file at fault. */
export async function workspaceIn(folder: string): Promise<Workspace> {
  return read(await filesIn(folder));
}

function read(files: WorkspaceFiles): Workspace {
  const found = workspaceOf(files);
  const faults = 'faults' in found ? [] : Object.entries(files).flatMap(([file, content]) => faultsOf(file, content));
  if (faults.length > 0) throw new Misuse(faults.join('\n'));
  if ('faults' in found) throw new Misuse(found.faults.map(({ file, message }) => `${file}: ${message}`).join('\n'));
  return found;
}

const kinds: Record<string, keyof typeof workspaceSchemas> = {
  intakes: 'intake',
  samples: 'sample',
  targets: 'target',
  routes: 'route',
  proofs: 'proof',
};
const checks = new Map<string, ValidateFunction>();

/** What speaks against a file as its schema has it: a name that is none is a slip, and does nothing. */
function faultsOf(file: string, content: Json): string[] {
  const kind = kinds[file.split('/')[0]!];
  if (kind === undefined) return [];
  const check =
    checks.get(kind) ?? new Ajv2020({ strict: false, allErrors: true }).compile(workspaceSchemas[kind] as object);
  checks.set(kind, check);
  if (check(content)) return [];
  // A name that means nothing says more than the one that is missing for it.
  const isStray = ({ keyword }: { keyword: string }) => keyword === 'additionalProperties';
  const faults = [...(check.errors ?? [])].sort((a, b) => Number(isStray(b)) - Number(isStray(a)));
  return faults.slice(0, 1).map(({ instancePath, message, params }) => {
    const name = (params as { additionalProperty?: string }).additionalProperty;
    return `${file}: ${instancePath || 'It'} ${name === undefined ? `${message}` : `has the unknown property “${name}”`}.`;
  });
}

export async function filesIn(folder: string): Promise<WorkspaceFiles> {
  const names = await readdir(folder, { recursive: true }).catch(() => {
    throw new Misuse(`there is no folder “${folder}”.`);
  });
  const files: WorkspaceFiles = {};
  for (const name of names.filter(each => isOurs(each.split(path.sep).join('/')))) {
    const text = await readFile(path.join(folder, name), 'utf8');
    try {
      files[name.split(path.sep).join('/')] = JSON.parse(text) as Json;
    } catch (error) {
      throw new Misuse(`${name} is not JSON: ${(error as Error).message}`);
    }
  }
  return files;
}

/** Whether a path is one that a workspace has: what else a repository holds is not read. */
const isOurs = (name: string): boolean =>
  name === 'workspace.json' || (name.endsWith('.json') && own.includes(name.split('/')[0]!));

/** Throws Misuse where a folder holds something that is no workspace: an export would write over it. */
async function mustBeOurs(folder: string): Promise<void> {
  const held = await readdir(folder).catch((error: NodeJS.ErrnoException) => {
    if (error.code === 'ENOENT') return [];
    throw new Misuse(`“${folder}” can't be written to: ${error.message}`);
  });
  if (!held.some(each => each === 'workspace.json' || own.includes(each))) return;
  const manifest = await readFile(path.join(folder, 'workspace.json'), 'utf8').catch(() => '');
  if (!isWorkspace(parseJson(manifest) ?? null))
    throw new Misuse(`“${folder}” contains other files; use an empty folder or an exported workspace.`);
}

/** Paths of files below a folder, as an export has them. */
const filePath = /^([a-z0-9-]+\/){0,3}[a-z0-9-]+\.json$/;

/** The folders that an export writes, and writes anew. */
const own = ['intakes', 'samples', 'targets', 'routes', 'proofs', 'schemas'];

/**
 * Writes a workspace to a folder: what was exported there before and is gone is gone from it, too. Throws Misuse, and touches nothing, where
 * something else is there, or where a file would stand outside of it.
 */
export async function writeFiles(folder: string, files: WorkspaceFiles): Promise<void> {
  const [stray] = Object.keys(files).filter(each => !filePath.test(each));
  if (stray !== undefined)
    throw new Misuse(`the server names a file “${stray}”, which does not belong to a workspace.`);
  await mustBeOurs(folder);
  for (const each of own) await rm(path.join(folder, each), { recursive: true, force: true });
  for (const [name, value] of Object.entries(files)) {
    const at = path.join(folder, ...name.split('/'));
    await mkdir(path.dirname(at), { recursive: true });
    await writeFile(at, fileText(value));
  }
}
