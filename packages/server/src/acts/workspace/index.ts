import type { ComparedView } from '@grammata/contract';
import { workspaceOf, type CheckedRoute, type WorkspaceFiles } from '@grammata/core/workspace';
import { DecodeFault, DecodeLate } from '../../decoding';
import { HttpProblem } from '../../problems';
import type { Services } from '../../services';
import type { Actor } from '../actor';
import { comparedWith, type Readers } from './compare';
import { workspaceHere } from './here';
import { take } from './take';

export type { Readers } from './compare';
export { exportedFiles } from './here';

/** Holds files against what is here, and says what importing them would do. Nothing is changed. */
export async function compareWorkspace(
  services: Services,
  files: WorkspaceFiles,
  readers: Readers,
): Promise<ComparedView> {
  const proofs = await proofsIn(services, files);
  return comparedWith(workspaceHere(services), files, readers, proofs).view;
}

/** How the proofs of files hold, played through in a thread: whoever wrote them decides how long that takes. Throws HttpProblem. */
async function proofsIn({ decoders }: Services, files: WorkspaceFiles): Promise<CheckedRoute[]> {
  const given = workspaceOf(files);
  if ('faults' in given) return [];
  try {
    return await decoders.checkProofs(given);
  } catch (error) {
    if (!(error instanceof DecodeFault || error instanceof DecodeLate)) throw error;
    throw new HttpProblem(422, 'The proofs in these files can’t be checked.', error.message);
  }
}

/**
 * Imports files: all that they would do is done, or nothing. Throws HttpProblem where something can't be taken over, and where
 * something here is otherwise than it was compared with.
 */
export async function importWorkspace(
  services: Services,
  actor: Actor,
  files: WorkspaceFiles,
  mark: string,
  readers: Readers,
): Promise<ComparedView> {
  const proofs = await proofsIn(services, files);
  const { store, feeds, breakers, log, live } = services;
  const here = workspaceHere(services);
  const { view, given } = comparedWith(here, files, readers, proofs);
  if (!given || view.faults.length > 0)
    throw new HttpProblem(
      422,
      'These files can’t be imported as they are.',
      'Nothing was changed.',
      view.faults.map(({ file, message }) => ({ field: file, message })),
    );
  if (view.mark !== mark)
    throw new HttpProblem(409, 'Something has changed.', 'Nothing was imported. Check the changes again.');
  const intakes = new Set<string>();
  try {
    store.whole(() => {
      take(services, actor, here, given, view.changes, readers);
      for (const { id } of store.intakes.all()) intakes.add(id);
    });
  } finally {
    // Feeds are read as what is stored says, whether it was taken over or not.
    for (const id of intakes) feeds.forget(id);
    feeds.schedule();
  }
  for (const { row } of here.targets) breakers.forget(row.id);
  log.info({ actor: actor.id, changes: view.changes.length }, 'a workspace was imported');
  const rows = { intake: store.intakes.all(), target: store.targets.all(), route: store.routes.all() };
  for (const what of ['intake', 'target', 'route'] as const)
    for (const { id } of rows[what]) live.publish({ type: 'changed', what, id });
  return view;
}
