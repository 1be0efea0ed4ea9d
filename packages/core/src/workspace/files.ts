import type { CallTarget } from '../perform';
import type { Enacted, Loose, Proof, RecordedAnswers } from '../proof';
import { targetsOf, withTargets, type Call, type RouteDefinition } from '../route';
import { asText, isJsonObject, isSubmission, type Json, type Submission } from '../submission';
import type { Operation, OwnOperation } from '../target';
import { workspaceSchemas } from './schemas';

/** What stays on its server, as the folder says itself. */
const leaves: Json = [
  'secrets and consents: they are given again',
  'what arrived and what was delivered',
  'which version of a route is live',
  'changes that were told',
];

/** The version of this folder's own shape. */
const WORKSPACE_FORMAT = 1;

/** What a workspace holds, without secrets: intakes with their forms and samples, targets with what they offer, routes with their proofs. */
export interface Workspace {
  intakes: readonly WorkspaceIntake[];
  targets: readonly WorkspaceTarget[];
  routes: readonly WorkspaceRoute[];
}

export interface WorkspaceIntake {
  name: string;
  /** What its file is called, of one that was read from a folder. */
  own?: string;
  /** What is set of it, as the API takes it. */
  settings: Record<string, Json>;
  forms: readonly WorkspaceForm[];
}

export interface WorkspaceForm {
  name: string;
  own?: string;
  /** What its builder calls it. */
  key: string;
  samples: readonly { name: string; own?: string; submission: Submission }[];
}

export interface WorkspaceTarget extends Omit<CallTarget, 'operations'> {
  operations: readonly Operation[];
  /** What people set of them by hand: it stays when the target is read again. */
  own?: readonly OwnOperation[];
  /** Where and how it is reached and read, as the API takes it: a server's own business, taken on with a new target only. */
  reached: Record<string, Json>;
}

export interface WorkspaceRoute {
  /** The one of {@link Workspace.intakes} whose submissions it takes. */
  form: WorkspaceForm;
  own?: string;
  definition: RouteDefinition;
  proofs: readonly (Proof & { name: string })[];
}

/** What files of a workspace are about. */
export type FileKind = 'intake' | 'sample' | 'target' | 'route' | 'proof';

/** A thing of a workspace with the file it stands in, and what it belongs to where that is a thing of its own. */
export interface Placed<W extends Workspace = Workspace> {
  file: string;
  kind: FileKind;
  name: string;
  of: Things<W>[FileKind];
  owner: string | null;
  content: Json;
}

interface Things<W extends Workspace> {
  intake: W['intakes'][number];
  sample: W['intakes'][number]['forms'][number]['samples'][number];
  target: W['targets'][number];
  route: W['routes'][number];
  proof: W['routes'][number]['proofs'][number];
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

/** A proof is called by answers of people, and the names of files are read by more than those: its file has a digest of it (FNV-1a, 32 bits). */
function proofFile(name: string): string {
  let hash = 0x811c9dc5;
  for (let at = 0; at < name.length; at++) hash = Math.imul(hash ^ name.charCodeAt(at), 0x01000193);
  return `proof-${(hash >>> 0).toString(16).padStart(8, '0')}`;
}

/** Gives names that are not taken yet, with a number behind those that are. */
function names(): (name: string, own?: string) => string {
  const taken = new Set<string>();
  return (name, own = '') => {
    const wanted = fileNameFor(name);
    // Of several of one name each stays the one it was in a folder.
    const isOwn = own.startsWith(wanted) && /^(-\d+)?$/.test(own.slice(wanted.length)) && !taken.has(own);
    let free = isOwn ? own : wanted;
    for (let number = 2; taken.has(free); number++) free = `${wanted}-${number}`;
    taken.add(free);
    return free;
  };
}

/** The things of a workspace, each with its file: routes name their form and their targets by their files. */
export function placed<W extends Workspace>(workspace: W): Placed<W>[] {
  const all: Placed<W>[] = [];
  const forms = new Map<WorkspaceForm, string>();
  const free = names();
  for (const intake of workspace.intakes) {
    const own = free(intake.name, intake.own);
    const file = `intakes/${own}.json`;
    const freeForm = names();
    const stated = intake.forms.map(form => {
      const of = freeForm(form.name || form.key, form.own);
      forms.set(form, `${own}/${of}`);
      const freeSample = names();
      for (const sample of form.samples)
        all.push({
          file: `samples/${own}/${of}/${freeSample(sample.name, sample.own)}.json`,
          kind: 'sample',
          name: sample.name,
          of: sample,
          owner: file,
          content: plain({ $schema: '../../../schemas/sample.json', name: sample.name, submission: sample.submission }),
        });
      return [of, { name: form.name, key: form.key }];
    });
    all.push({
      file,
      kind: 'intake',
      name: intake.name,
      of: intake,
      owner: null,
      content: plain({
        $schema: '../schemas/intake.json',
        name: intake.name,
        settings: intake.settings,
        forms: Object.fromEntries(stated) as Json,
      }),
    });
  }
  const targets = new Map<string, string>();
  const freeTarget = names();
  for (const target of workspace.targets) {
    const { id, name, baseUrl, reached, operations, own: set } = target;
    const own = freeTarget(name, id);
    targets.set(id, own);
    const content = plain({ $schema: '../schemas/target.json', name, baseUrl, reached, operations, own: set });
    all.push({ file: `targets/${own}.json`, kind: 'target', name, of: target, owner: null, content });
  }
  const freeRoute = names();
  for (const route of workspace.routes) {
    const { definition, proofs } = route;
    const own = freeRoute(definition.name, route.own);
    const file = `routes/${own}.json`;
    all.push({
      file,
      kind: 'route',
      name: definition.name,
      of: route,
      owner: null,
      content: plain({
        $schema: '../schemas/route.json',
        ...definition,
        form: forms.get(route.form) ?? '',
        calls: definition.calls.map(each => named(each, targets)),
      }),
    });
    const freeProof = names();
    for (const proof of proofs) {
      const { name, submission, answers, approved, loose, calls } = proof;
      all.push({
        file: `proofs/${own}/${freeProof(proofFile(name), proof.id)}.json`,
        kind: 'proof',
        name,
        of: proof,
        owner: file,
        content: plain({
          $schema: '../../schemas/proof.json',
          name,
          submission,
          answers,
          approved: withTargets(approved, id => targets.get(id) ?? id),
          loose,
          calls: calls.map(each => named(each, targets)),
        }),
      });
    }
  }
  return all;
}

/** A workspace as files, one thing a file. */
export function filesOf(workspace: Workspace): WorkspaceFiles {
  const files: WorkspaceFiles = { 'workspace.json': { format: WORKSPACE_FORMAT, leaves } };
  for (const [kind, schema] of Object.entries(workspaceSchemas)) files[`schemas/${kind}.json`] = schema;
  for (const { file, content } of placed(workspace)) files[file] = content;
  return files;
}

const plain = (value: unknown): Json => JSON.parse(JSON.stringify(value)) as Json;

/** With targets by the names of their files. */
function named(call: Call, names: ReadonlyMap<string, string>) {
  const { targetId, ...others } = withTargets(call, id => names.get(id) ?? id);
  return { ...others, target: targetId };
}

/** True for what `workspace.json` holds in a folder of this format. */
export const isWorkspace = (document: Json): boolean => isJsonObject(document) && document.format === WORKSPACE_FORMAT;

/** A workspace out of its files, or what is wrong with them: which file, and what. */
export function workspaceOf(files: WorkspaceFiles): Workspace | { faults: { file: string; message: string }[] } {
  const faults: { file: string; message: string }[] = [];
  const fault: Fault = (file, message) => void faults.push({ file, message });
  if (!isWorkspace(objectAt(files, 'workspace.json')))
    fault('workspace.json', `Not a workspace of format ${WORKSPACE_FORMAT}.`);
  const { intakes, forms } = intakesIn(files, fault);
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
        reached: isJsonObject(of.reached ?? null) ? (of.reached as Record<string, Json>) : {},
        operations: of.operations as unknown as Operation[],
        ...(Array.isArray(of.own) && { own: of.own as unknown as OwnOperation[] }),
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
    for (const call of calls)
      for (const targetId of targetsOf({ calls: [call] }))
        if (!known.has(targetId))
          fault(
            file,
            `The call ${call.id} ${targetId === call.targetId ? 'goes to' : 'has files from'} “${targetId}”, and there is no targets/${targetId}.json.`,
          );
    const { form: stated, $schema: _schema, ...definition } = of;
    const form = typeof stated === 'string' ? forms.get(stated) : undefined;
    if (!form) {
      fault(
        file,
        `Its form “${asText(stated ?? null)}” is in none of the intakes: it is INTAKE/FORM, as their files say.`,
      );
      continue;
    }
    const proofs: (Proof & { name: string })[] = [];
    for (const [proofFile, folder] of inFolder(files, /^proofs\/([^/]+)\/[^/]+\.json$/)) {
      if (folder !== own) continue;
      const proofName = proofFile.slice(proofFile.lastIndexOf('/') + 1, -'.json'.length);
      const proof = proofIn(objectAt(files, proofFile), proofName);
      if (proof) proofs.push(proof);
      else fault(proofFile, 'A proof has a name, a submission, answers, and what was approved.');
    }
    routes.push({ form, own, definition: { ...(definition as unknown as RouteDefinition), calls }, proofs });
  }
  return faults.length > 0 ? { faults } : { intakes, targets, routes };
}

type Fault = (file: string, message: string) => void;

/** The intakes of a folder, and their forms by INTAKE/FORM. */
function intakesIn(
  files: WorkspaceFiles,
  fault: Fault,
): Pick<Workspace, 'intakes'> & { forms: Map<string, WorkspaceForm> } {
  const forms = new Map<string, WorkspaceForm>();
  const intakes = inFolder(files, /^intakes\/([^/]+)\.json$/).flatMap(([file, own]): WorkspaceIntake[] => {
    const of = objectAt(files, file);
    const stated = Object.entries(isJsonObject(of?.forms ?? null) ? (of!.forms as Record<string, Json>) : {});
    if (
      typeof of?.name !== 'string' ||
      !isJsonObject(of.settings ?? null) ||
      !stated.every(([, form]) => isJsonObject(form) && typeof form.name === 'string' && typeof form.key === 'string')
    ) {
      fault(file, 'An intake has a name, settings, and forms that have a name and a key each.');
      return [];
    }
    const read = stated.map(([name, form]): WorkspaceForm => {
      const samples = inFolder(files, /^samples\/(.+)\/[^/]+\.json$/)
        .filter(([, folder]) => folder === `${own}/${name}`)
        .flatMap(([sampleFile]) => {
          const ownName = sampleFile.slice(sampleFile.lastIndexOf('/') + 1, -'.json'.length);
          const sample = objectAt(files, sampleFile);
          if (typeof sample?.name === 'string' && isSubmission(sample.submission))
            return [{ name: sample.name, own: ownName, submission: sample.submission as unknown as Submission }];
          fault(sampleFile, 'A sample has a name and a submission.');
          return [];
        });
      const { name: called, key } = form as { name: string; key: string };
      const known = { name: called, own: name, key, samples };
      forms.set(`${own}/${name}`, known);
      return known;
    });
    return [{ name: of.name, own, settings: of.settings as Record<string, Json>, forms: read }];
  });
  return { intakes, forms };
}

/** The second of a name behind the first, the tenth behind the ninth. */
const inOrder = (a: string, b: string): number =>
  a.replace(/\.json$/, '').localeCompare(b.replace(/\.json$/, ''), 'en', { numeric: true });

const inFolder = (files: WorkspaceFiles, pattern: RegExp): [file: string, name: string][] =>
  Object.keys(files)
    .sort(inOrder)
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
