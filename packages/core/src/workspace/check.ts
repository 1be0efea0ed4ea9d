import { compileStages } from '../perform';
import { enact, holdAll, type Difference, type Enacted, type Play } from '../proof';
import { Problem } from '../transform';
import type { Workspace, WorkspaceRoute } from './files';

/** How the proofs of a route fare. */
export interface CheckedRoute {
  route: string;
  /** Why none of its calls can be made any more; null where they can. */
  fault: string | null;
  /** `file` is what it is called where names of people should not be read. */
  proofs: { name: string; file: string; differences: Difference[] }[];
}

/** Routes of a workspace, all or the one of this name. */
export const routesNamed = ({ routes }: Workspace, name: string | null): readonly WorkspaceRoute[] =>
  name === null ? routes : routes.filter(each => each.definition.name === name);

function playOf({ targets }: Workspace, { definition }: WorkspaceRoute): Play | Problem {
  const stages = compileStages(definition.calls, targets);
  if (stages instanceof Problem) return stages;
  return { stages, condition: definition.condition, context: { timeZone: definition.terms.timeZone } };
}

/** Holds the proofs of a workspace's routes against the routes as they stand in it; needs no network. */
export function checkProofs(workspace: Workspace, name: string | null = null): CheckedRoute[] {
  return routesNamed(workspace, name).map(route => {
    const play = playOf(workspace, route);
    if (play instanceof Problem) return { route: route.definition.name, fault: play.message, proofs: [] };
    const held = holdAll(play, route.proofs);
    return {
      route: route.definition.name,
      fault: null,
      proofs: held.map(({ differences }, at) => ({
        name: route.proofs[at]!.name,
        file: route.proofs[at]!.id,
        differences,
      })),
    };
  });
}

/** What a workspace's routes do with the samples of their form, and with those of their proofs. */
export function rehearseSamples(
  workspace: Workspace,
  name: string | null = null,
): { route: string; fault: string | null; samples: (Enacted & { name: string })[] }[] {
  return routesNamed(workspace, name).map(route => {
    const play = playOf(workspace, route);
    if (play instanceof Problem) return { route: route.definition.name, fault: play.message, samples: [] };
    return {
      route: route.definition.name,
      fault: null,
      samples: [
        ...route.form.samples.map(({ name: sample, submission }) => ({ name: sample, ...enact(play, submission, {}) })),
        ...route.proofs.map(({ name: sample, submission, answers }) => ({
          name: sample,
          ...enact(play, submission, answers),
        })),
      ],
    };
  });
}
