import { createHash } from 'node:crypto';
import type { ComparedView, DefinitionInput, IntakeInput, TargetInput } from '@grammata/contract';
import type { Pins } from '@grammata/core/decode';
import { canonical, type Json } from '@grammata/core/submission';
import {
  compareFiles,
  filesOf,
  placed,
  workspaceOf,
  type CheckedRoute,
  type FileChange,
  type Placed,
  type Workspace,
  type WorkspaceFiles,
} from '@grammata/core/workspace';
import type { Here } from './here';

/** How the parts of files become what acts take; each throws HttpProblem for what is none. */
export interface Readers {
  intake(input: Record<string, Json>): IntakeInput;
  pins(pins: Json): Pins;
  target(input: Record<string, Json>): TargetInput;
  definition(definition: object): DefinitionInput;
  /** What is wrong with the content of a file. */
  faults(file: Placed): string[];
}

/** Holds files against what is here: what importing them would do, and the workspace that they are; null where they are none. */
export function comparedWith(
  here: Here,
  files: WorkspaceFiles,
  readers: Pick<Readers, 'faults'>,
  proofs: readonly CheckedRoute[],
): { view: ComparedView; given: Workspace | null } {
  const given = workspaceOf(files);
  const own = filesOf(here);
  const mark = createHash('sha256')
    .update(canonical([own, files]))
    .digest('hex');
  if ('faults' in given)
    return { view: { changes: [], stays: [], proofs: [], mark, faults: given.faults }, given: null };
  // By their names, whatever the files are called.
  const { changes, stays } = compareFiles(own, filesOf(given));
  const was = new Map(placed(here).map(each => [each.file, each]));
  const now = new Map(placed(given).map(each => [each.file, each]));
  // What was recorded is not removed by what a folder lacks.
  const recorded = changes.filter(each => each.change === 'gone' && isRecorded(was.get(each.file)));
  const view: ComparedView = {
    changes: changes.filter(each => !recorded.includes(each)),
    stays: [...stays, ...recorded.map(({ kind, name }) => ({ kind, name }))],
    faults: changes.flatMap(change =>
      faultsOf(change, was.get(change.file), now.get(change.file), readers).map(message => ({
        file: change.file,
        message,
      })),
    ),
    proofs: proofs.map(route => ({
      ...route,
      proofs: route.proofs.filter(each => each.differences.length > 0),
    })),
    mark,
  };
  return { view, given };
}

const isRecorded = (thing: Placed | undefined): boolean =>
  thing?.kind === 'sample' && 'isRecorded' in thing.of && thing.of.isRecorded === true;

/** What speaks against taking one thing over. */
function faultsOf(
  { kind, change, differences }: FileChange,
  was: Placed | undefined,
  now: Placed | undefined,
  readers: Pick<Readers, 'faults'>,
): string[] {
  if (!now) return [];
  const readFaults = readers.faults(now);
  if (readFaults.length > 0 || change !== 'changed') return readFaults;
  if (kind === 'route' && differences.some(({ place }) => place[0] === 'form'))
    return ['A route can’t change its form by import. Give it another name to import it as a new route.'];
  if (isRecorded(was)) return ['Received samples can’t be changed. Give it another name to import it as a variant.'];
  return [];
}
