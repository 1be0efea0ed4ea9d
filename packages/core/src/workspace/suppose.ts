import { fareOf, operationChanges, type DocumentChange } from '../drift';
import { targetsOf } from '../route';
import type { Json } from '../submission';
import { readOpenApi, withEarlierIds } from '../target';
import { checkProofs } from './check';
import type { Workspace, WorkspaceTarget } from './files';

/** What would become of a route. */
export interface SupposedRoute {
  route: string;
  /** Of its samples and those of its proofs, those that go, those that can't be sent as it stands and as it would be, and the commonest reasons then. */
  samples: { looked: number; held: number; heldThen: number; reasons: string[] };
  /** Proofs that differ as it stands, and as it would be. */
  proofs: { total: number; differing: number; differingThen: number };
}

/** What would be otherwise if a target published another document. */
export interface SupposedDocument {
  changes: DocumentChange[];
  /** Routes that go to the target. */
  routes: SupposedRoute[];
}

/** True where nothing that goes now would not go then, and no proof would differ that holds now. */
export const holdsThen = ({ routes }: Pick<SupposedDocument, 'routes'>): boolean =>
  routes.every(({ samples, proofs }) => samples.heldThen <= samples.held && proofs.differingThen <= proofs.differing);

/**
 * What would become of the routes of a workspace if one of its targets published this OpenAPI document.
 * @returns why that can't be told, where there is no such target, or the document is none
 */
export function supposeDocument(
  workspace: Workspace,
  targetName: string,
  document: Json,
): SupposedDocument | { fault: string } {
  const target = workspace.targets.find(each => each.name === targetName);
  if (!target) return { fault: `there is no target “${targetName}”.` };
  const read = readOpenApi(document);
  if ('fault' in read) return { fault: read.fault };
  const operations = withEarlierIds(target.operations, read.operations);
  const supposed = (each: WorkspaceTarget): WorkspaceTarget => (each === target ? { ...each, operations } : each);
  const then = { ...workspace, targets: workspace.targets.map(supposed) };
  return {
    changes: operationChanges(target.operations, operations),
    routes: workspace.routes
      .filter(({ definition }) => targetsOf(definition).includes(target.id))
      .map(route => {
        const samples = [...route.form.samples, ...route.proofs].map(each => each.submission);
        const [stands, would] = [workspace, then].map(each => ({
          fare: fareOf(route.definition, each.targets, samples),
          differing: differingIn({ ...each, routes: [route] }),
        }));
        return {
          route: route.definition.name,
          samples: {
            looked: stands!.fare.looked,
            held: stands!.fare.held,
            heldThen: would!.fare.held,
            reasons: would!.fare.reasons.filter(each => !stands!.fare.reasons.includes(each)),
          },
          proofs: {
            total: route.proofs.length,
            differing: stands!.differing,
            differingThen: would!.differing,
          },
        };
      }),
  };
}

/** Proofs that differ; all of them where the calls of their route can't be made. */
const differingIn = (workspace: Workspace): number =>
  checkProofs(workspace).reduce(
    (sum, { fault, proofs }, at) =>
      sum +
      (fault === null
        ? proofs.filter(each => each.differences.length > 0).length
        : workspace.routes[at]!.proofs.length),
    0,
  );
