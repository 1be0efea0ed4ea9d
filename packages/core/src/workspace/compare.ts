import { canonical, isJsonObject, type Json } from '../submission';
import type { FileKind, WorkspaceFiles } from './files';

/** What would be otherwise in one file of a workspace. */
export interface FileChange {
  file: string;
  kind: FileKind;
  name: string;
  change: 'added' | 'changed' | 'gone';
  /** Of a changed one: places in words, from the outside in. */
  differences: { place: string[]; was: Json | undefined; now: Json | undefined }[];
}

/** A folder held against what is there. */
export interface Compared {
  /** What would be otherwise, in the order of the files. */
  changes: FileChange[];
  /** Names of what is there and not in the folder: it stays as it is. */
  stays: { kind: FileKind; name: string }[];
}

const kinds: Record<string, FileKind> = {
  intakes: 'intake',
  samples: 'sample',
  targets: 'target',
  routes: 'route',
  proofs: 'proof',
};

const kindOf = (file: string): FileKind | null => kinds[file.slice(0, file.indexOf('/'))] ?? null;

/**
 * Holds the files of a folder against those of a server. Samples and proofs that a folder lacks are gone, if what they belong to is in it; other
 * things that it lacks stay. How a target that is there is reached is no difference: that is the server's own business.
 */
export function compareFiles(here: WorkspaceFiles, given: WorkspaceFiles): Compared {
  const changes: FileChange[] = [];
  const stays: Compared['stays'] = [];
  for (const file of [...new Set([...Object.keys(here), ...Object.keys(given)])].sort()) {
    const kind = kindOf(file);
    if (kind === null) continue;
    const [was, now] = [contentOf(here, file), contentOf(given, file)];
    const about = { file, kind, name: nameIn(now ?? was, file) };
    if (was === undefined) changes.push({ ...about, change: 'added', differences: [] });
    else if (now !== undefined) {
      const differences = differencesIn(kind === 'target' ? reachedAs(was, now) : was, now);
      if (differences.length > 0) changes.push({ ...about, change: 'changed', differences });
    } else if (isOwned(file, kind, given)) changes.push({ ...about, change: 'gone', differences: [] });
    else if (kind !== 'sample' && kind !== 'proof') stays.push({ kind, name: about.name });
  }
  return { changes, stays };
}

/** A file without what only says where its schema is. */
function contentOf(files: WorkspaceFiles, file: string): Json | undefined {
  if (!Object.hasOwn(files, file)) return undefined;
  const held = files[file]!;
  if (!isJsonObject(held)) return held;
  const { $schema: _, ...content } = held;
  return content;
}

const nameIn = (content: Json | undefined, file: string): string =>
  isJsonObject(content ?? null) && typeof (content as Record<string, Json>).name === 'string'
    ? ((content as Record<string, Json>).name as string)
    : file;

/** What a target was, reached as the other one is. */
function reachedAs(was: Json, now: Json): Json {
  if (!isJsonObject(was) || !isJsonObject(now)) return was;
  const { baseUrl: _url, reached: _reached, ...others } = was;
  const taken = Object.fromEntries(['baseUrl', 'reached'].flatMap(key => (key in now ? [[key, now[key]!]] : [])));
  return { ...others, ...taken };
}

/** Whether a folder holds what a sample or a proof belongs to. */
function isOwned(file: string, kind: FileKind, given: WorkspaceFiles): boolean {
  const [, owner = '', form = ''] = file.split('/');
  if (kind === 'proof') return Object.hasOwn(given, `routes/${owner}.json`);
  if (kind !== 'sample') return false;
  const intake = given[`intakes/${owner}.json`];
  return isJsonObject(intake ?? null) && isJsonObject((intake as Record<string, Json>).forms ?? null)
    ? Object.hasOwn((intake as { forms: object }).forms, form)
    : false;
}

/** Places whose values differ; members of lists are told apart by their identifier, key or name where each has one. */
function differencesIn(was: Json | undefined, now: Json | undefined, place: string[] = []): FileChange['differences'] {
  if (was !== undefined && now !== undefined && canonical(was) === canonical(now)) return [];
  const [before, after] = [membersOf(was), membersOf(now)];
  if (!before || !after || before.isList !== after.isList) return [{ place, was, now }];
  const keys = [...new Set([...before.of.keys(), ...after.of.keys()])];
  const found = keys.flatMap(key => {
    const [one, other] = [before.of.get(key), after.of.get(key)];
    return differencesIn(one?.value, other?.value, [...place, (other ?? one)!.name]);
  });
  // The same members in another order.
  return found.length > 0 ? found : [{ place, was, now }];
}

type Members = Map<string, { name: string; value: Json }>;

function membersOf(value: Json | undefined): { isList: boolean; of: Members } | null {
  if (Array.isArray(value)) {
    for (const key of ['id', 'key', 'name']) {
      const own = value.map(each => (isJsonObject(each) && typeof each[key] === 'string' ? each[key] : null));
      if (own.every(each => each !== null) && new Set(own).size === own.length)
        return { isList: true, of: new Map(value.map((each, at) => [own[at]!, { name: called(each), value: each }])) };
    }
    return null;
  }
  if (!isJsonObject(value ?? null)) return null;
  const of = Object.entries(value as Record<string, Json>).map(
    ([key, each]) => [key, { name: key, value: each }] as const,
  );
  return { isList: false, of: new Map(of) };
}

/** What people know a member of a list by: a line by the field it writes. */
function called(member: Json): string {
  const { to, name, label, key, id } = member as Record<string, Json>;
  return String([to, name, label, key, id].find(each => typeof each === 'string' && each !== '') ?? '');
}
