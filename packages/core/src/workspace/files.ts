import type { CallTarget } from '../perform';
import type { Enacted, Loose, Proof, RecordedAnswers } from '../proof';
import type { Call, RouteDefinition } from '../route';
import { isJsonObject, isSubmission, type Json, type Submission } from '../submission';
import type { Operation } from '../target';
import { workspaceSchemas } from './schemas';

/** The version of this folder's own shape. */
const WORKSPACE_FORMAT = 1;

/** What a workspace holds, without secrets: targets with what they offer, routes, and proofs of them. */
export interface Workspace {
  targets: WorkspaceTarget[];
  routes: WorkspaceRoute[];
}

export interface WorkspaceTarget extends Omit<CallTarget, 'operations'> {
  operations: readonly Operation[];
}

export interface WorkspaceRoute {
  /** The form's name, for people. */
  form: string;
  definition: RouteDefinition;
  proofs: (Proof & { name: string })[];
}

/** Files of a folder, by their paths: JSON that reads well in version control. */
export type WorkspaceFiles = Record<string, Json>;

/** A name as a file may be called: small letters, digits and hyphens. */
export const fileNameFor = (name: string): string =>
  name
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .split(/[^a-z0-9]+/)
    .filter(Boolean)
    .join('-')
    .slice(0, 60) || 'unnamed';

/** A name that is not taken yet, with a number behind it where it is. */
function freeName(name: string, taken: Set<string>): string {
  const plain = fileNameFor(name);
  let free = plain;
  for (let number = 2; taken.has(free); number++) free = `${plain}-${number}`;
  taken.add(free);
  return free;
}

/** A workspace as files, one thing a file; targets are named in routes, not numbered. */
export function filesOf({ targets, routes }: Workspace): WorkspaceFiles {
  const files: WorkspaceFiles = { 'workspace.json': { format: WORKSPACE_FORMAT } };
  for (const [kind, schema] of Object.entries(workspaceSchemas)) files[`schemas/${kind}.json`] = schema;
  const names = new Map<string, string>();
  const taken = new Set<string>();
  for (const { id, name, baseUrl, operations } of targets) {
    const file = freeName(name, taken);
    names.set(id, file);
    files[`targets/${file}.json`] = plain({ $schema: '../schemas/target.json', name, baseUrl, operations });
  }
  const takenRoutes = new Set<string>();
  for (const { form, definition, proofs } of routes) {
    const file = freeName(definition.name, takenRoutes);
    files[`routes/${file}.json`] = plain({
      $schema: '../schemas/route.json',
      form,
      ...definition,
      calls: definition.calls.map(each => named(each, names)),
    });
    const takenProofs = new Set<string>();
    for (const { name, submission, answers, approved, loose, calls } of proofs)
      files[`proofs/${file}/${freeName(name, takenProofs)}.json`] = plain({
        $schema: '../../schemas/proof.json',
        name,
        submission,
        answers,
        approved,
        loose,
        calls: calls.map(each => named(each, names)),
      });
  }
  return files;
}

const plain = (value: unknown): Json => JSON.parse(JSON.stringify(value)) as Json;

const named = ({ targetId, ...call }: Call, names: ReadonlyMap<string, string>) => ({
  ...call,
  target: names.get(targetId) ?? targetId,
});

/** True for what `workspace.json` holds in a folder of this format. */
export const isWorkspace = (document: Json): boolean => isJsonObject(document) && document.format === WORKSPACE_FORMAT;

/** A workspace out of its files, or what is wrong with them: which file, and what. */
export function workspaceOf(files: WorkspaceFiles): Workspace | { faults: { file: string; message: string }[] } {
  const faults: { file: string; message: string }[] = [];
  const fault = (file: string, message: string) => void faults.push({ file, message });
  if (!isWorkspace(objectAt(files, 'workspace.json')))
    fault('workspace.json', `It is no workspace of format ${WORKSPACE_FORMAT}.`);
  const targets: WorkspaceTarget[] = [];
  for (const [file, own] of inFolder(files, /^targets\/([^/]+)\.json$/)) {
    const of = objectAt(files, file);
    if (typeof of?.name !== 'string' || typeof of.baseUrl !== 'string' || !Array.isArray(of.operations))
      fault(file, 'A target has a name, a baseUrl, and a list of operations.');
    else
      targets.push({
        id: own,
        name: of.name,
        baseUrl: of.baseUrl,
        operations: of.operations as unknown as Operation[],
      });
  }
  const known = new Set(targets.map(each => each.id));
  const routes: WorkspaceRoute[] = [];
  for (const [file, own] of inFolder(files, /^routes\/([^/]+)\.json$/)) {
    const of = objectAt(files, file);
    const calls = callsIn(of?.calls);
    if (
      !of ||
      calls === null ||
      typeof of.name !== 'string' ||
      !isJsonObject(of.condition ?? null) ||
      !isJsonObject(of.terms ?? null)
    ) {
      fault(file, 'A route has a name, a condition, calls and terms; each call names its target and its lines.');
      continue;
    }
    for (const { id, targetId } of calls)
      if (!known.has(targetId))
        fault(file, `The call ${id} goes to “${targetId}”, and there is no targets/${targetId}.json.`);
    const { form, $schema: _schema, ...definition } = of;
    const route: WorkspaceRoute = {
      form: typeof form === 'string' ? form : '',
      definition: { ...(definition as unknown as RouteDefinition), calls },
      proofs: [],
    };
    for (const [proofFile, proofName] of inFolder(files, new RegExp(`^proofs/${own}/([^/]+)\\.json$`))) {
      const proof = proofIn(objectAt(files, proofFile), proofName);
      if (proof) route.proofs.push(proof);
      else fault(proofFile, 'A proof has a name, a submission, answers, and what was approved.');
    }
    routes.push(route);
  }
  return faults.length > 0 ? { faults } : { targets, routes };
}

const inFolder = (files: WorkspaceFiles, pattern: RegExp): [file: string, name: string][] =>
  Object.keys(files)
    .sort()
    .flatMap((file): [string, string][] => {
      const [, name] = pattern.exec(file) ?? [];
      return name === undefined ? [] : [[file, name]];
    });

function objectAt(files: WorkspaceFiles, file: string): Record<string, Json> | null {
  const held = Object.hasOwn(files, file) ? files[file]! : null;
  return isJsonObject(held) ? held : null;
}

function callsIn(calls: Json | undefined): Call[] | null {
  if (!Array.isArray(calls)) return null;
  const read = calls.map(call => {
    if (
      !isJsonObject(call) ||
      typeof call.target !== 'string' ||
      typeof call.operationId !== 'string' ||
      !Array.isArray(call.lines)
    )
      return null;
    const { target, ...others } = call;
    return { ...others, targetId: target } as unknown as Call;
  });
  return read.every(each => each !== null) ? read : null;
}

function proofIn(of: Record<string, Json> | null, id: string): (Proof & { name: string }) | null {
  const calls = callsIn(of?.calls ?? []);
  const approved = of?.approved ?? null;
  if (
    !of ||
    calls === null ||
    !isSubmission(of.submission) ||
    !isJsonObject(of.answers ?? null) ||
    !isJsonObject(approved) ||
    !Array.isArray(approved.requests) ||
    !Array.isArray(approved.held)
  )
    return null;
  return {
    id,
    name: typeof of.name === 'string' ? of.name : id,
    submission: of.submission as unknown as Submission,
    answers: of.answers as RecordedAnswers,
    approved: approved as unknown as Enacted,
    loose: (Array.isArray(of.loose) ? of.loose : []) as unknown as Loose[],
    calls,
  };
}

/** JSON as it stands in a file: names first, then in the order of the letters, two spaces deep, the same each time. */
export const fileText = (value: Json): string => `${JSON.stringify(ordered(value), null, 2)}\n`;

function ordered(value: Json): Json {
  if (Array.isArray(value)) return value.map(ordered);
  if (!isJsonObject(value)) return value;
  const rank = (key: string) =>
    key === '$schema' ? -1 : key === 'name' ? 0 : key === 'label' ? 1 : key === 'key' ? 2 : key === 'id' ? 3 : 4;
  const keys = Object.keys(value).sort((a, b) => rank(a) - rank(b) || (a < b ? -1 : a > b ? 1 : 0));
  return Object.fromEntries(keys.map(key => [key, ordered(value[key]!)]));
}
