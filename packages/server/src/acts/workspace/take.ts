import type { Operation, OwnOperation } from '@grammata/core/target';
import { withTargets } from '@grammata/core/route';
import { canonical, type Json } from '@grammata/core/submission';
import {
  placed,
  type FileChange,
  type FileKind,
  type Workspace,
  type WorkspaceForm,
  type WorkspaceIntake,
  type WorkspaceRoute,
  type WorkspaceTarget,
} from '@grammata/core/workspace';
import { now } from '../../clock';
import { HttpProblem } from '../../problems';
import type { Services } from '../../services';
import type { Actor } from '../actor';
import { addVariant, changeVariant, removeVariant } from '../forms';
import { changeIntake, keepPins, openIntake } from '../intakes';
import { createDraft, saveDraft } from '../routes';
import { addTarget } from '../targets';
import type { Readers } from './compare';
import type { Here } from './here';

type Things = {
  intake: [Here['intakes'][number], WorkspaceIntake];
  sample: [Here['intakes'][number]['forms'][number]['samples'][number], WorkspaceForm['samples'][number]];
  target: [Here['targets'][number], WorkspaceTarget];
  route: [Here['routes'][number], WorkspaceRoute];
  proof: [Here['routes'][number]['proofs'][number], WorkspaceRoute['proofs'][number]];
};

/** A thing of the files beside the one that is here under the same name. */
interface Pair<K extends FileKind> {
  file: string;
  /** What it belongs to. */
  owner: string | null;
  was: Things[K][0] | undefined;
  now: Things[K][1] | undefined;
  isChanged: boolean;
}

/** Takes over what files say. Throws HttpProblem with the file where one can't be; the caller undoes what was done until then. */
export function take(
  parts: Services,
  actor: Actor,
  here: Here,
  given: Workspace,
  changes: readonly FileChange[],
  readers: Readers,
): void {
  const changed = new Map(changes.map(each => [each.file, each]));
  const was = new Map(placed(here).map(each => [each.file, each]));
  const is = new Map(placed(given).map(each => [each.file, each]));
  const pairs = <K extends FileKind>(kind: K): Pair<K>[] =>
    [...new Set([...is.keys(), ...changed.keys()])].flatMap(file => {
      const [before, after] = [was.get(file), is.get(file)];
      if ((after ?? before)?.kind !== kind) return [];
      return [
        {
          file,
          owner: (after ?? before)!.owner,
          was: before?.of as Things[K][0] | undefined,
          now: after?.of as Things[K][1] | undefined,
          isChanged: changed.has(file),
        },
      ];
    });
  const forms = takeIntakes(parts, actor, pairs('intake'), readers);
  takeSamples(parts, actor, pairs('sample'), forms);
  const targets = takeTargets(parts, actor, pairs('target'), readers);
  const routes = takeRoutes(parts, actor, pairs('route'), readers, forms, targets);
  takeProofs(parts, actor, pairs('proof'), routes, targets);
}

/** Identifiers of forms that are here, by the forms of the files. */
type Forms = ReadonlyMap<WorkspaceForm, string>;
/** Gives parts of routes their targets here. */
type Aimed = <Part>(part: Part) => Part;

function takeIntakes(parts: Services, actor: Actor, pairs: Pair<'intake'>[], readers: Readers): Forms {
  const forms = new Map<WorkspaceForm, string>();
  for (const { file, was, now: given, isChanged } of pairs) {
    const { pins = {}, ...settings } = given!.settings;
    const row = inFile(file, () => {
      if (was && !isChanged) return was.row;
      const input = readers.intake({ ...settings, name: given!.name });
      const kept = was ? changeIntake(parts, actor, was.row, input) : openIntake(parts, actor, input);
      const wanted = readers.pins(pins);
      return canonical(kept.pins as Json) === canonical(wanted as Json) ? kept : keepPins(parts, actor, kept, wanted);
    });
    for (const form of given!.forms) forms.set(form, parts.store.forms.open(row.id, form).id);
  }
  return forms;
}

function takeSamples(parts: Services, actor: Actor, pairs: Pair<'sample'>[], forms: Forms): void {
  const formOf = new Map([...forms].flatMap(([form, id]) => form.samples.map(sample => [sample, id] as const)));
  for (const { file, was, now: given, isChanged } of pairs)
    inFile(file, () => {
      if (!isChanged) return;
      if (!given) return removeVariant(parts, actor, was!.id);
      if (was) changeVariant(parts, actor, was.id, given);
      else addVariant(parts, actor, formOf.get(given)!, given);
    });
}

function takeTargets(parts: Services, actor: Actor, pairs: Pair<'target'>[], readers: Readers): Aimed {
  const ids = new Map<string, string>();
  for (const { file, was, now: given, isChanged } of pairs) {
    const { id, name, baseUrl, reached, operations, own } = given!;
    const row = inFile(file, () => was?.row ?? addTarget(parts, actor, readers.target({ ...reached, name, baseUrl })));
    ids.set(id, row.id);
    if (!isChanged) continue;
    parts.store.targets.update(row.id, {
      name,
      operations: operations as Operation[],
      own: (own ?? []) as OwnOperation[],
      ...(!was && { readAt: now() }),
    });
  }
  return part => withTargets(part, id => ids.get(id) ?? id);
}

function takeRoutes(
  parts: Services,
  actor: Actor,
  pairs: Pair<'route'>[],
  readers: Readers,
  forms: Forms,
  aimed: Aimed,
): ReadonlyMap<string, string> {
  const rows = pairs.map(({ file, was, now: given, isChanged }) =>
    inFile(file, () => {
      if (was && !isChanged) return [file, was.row.id] as const;
      const { definition, form } = given!;
      const read = readers.definition({ ...definition, calls: aimed(definition.calls) });
      const row = was
        ? saveDraft(parts, actor, was.row, { definition: read, revision: was.row.revision })
        : createDraft(parts, actor, forms.get(form)!, read);
      return [file, row.id] as const;
    }),
  );
  return new Map(rows);
}

function takeProofs(
  { store }: Services,
  actor: Actor,
  pairs: Pair<'proof'>[],
  routes: ReadonlyMap<string, string>,
  aimed: Aimed,
): void {
  for (const { owner, was, now: given, isChanged } of pairs) {
    if (!isChanged) continue;
    const routeId = routes.get(owner!)!;
    if (!given) {
      store.proofs.remove(routeId, [was!.id]);
      continue;
    }
    const { name, submission, answers, approved, loose, calls } = given;
    const values = {
      name,
      submission,
      answers,
      approved: aimed(approved),
      loose,
      calls: aimed([...calls]),
      at: now(),
      by: actor.name,
    };
    if (was) store.proofs.update([{ id: was.id, ...values }]);
    else store.proofs.add([{ ...values, routeId, sampleId: '' }]);
  }
}

/** Does work for a file; a problem says which. */
function inFile<T>(file: string, work: () => T): T {
  try {
    return work();
  } catch (error) {
    if (!(error instanceof HttpProblem)) throw error;
    const { status, title, detail, errors } = error;
    const faults = errors ?? [{ field: '', message: [title, detail].filter(Boolean).join(' ') }];
    throw new HttpProblem(
      status,
      'These files can’t be imported as they are.',
      'Nothing was changed.',
      faults.map(({ field, message }) => ({ field: file, message: field ? `${field}: ${message}` : message })),
    );
  }
}
