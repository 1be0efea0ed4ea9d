import { writeFile } from 'node:fs/promises';
import { checkProofs, rehearseSamples, routesNamed } from '@grammata/core/workspace';
import { Checked, Misuse, type Command } from './command';
import { junitOf } from './junit';
import { workspaceFrom, workspaceOptions } from './workspace';

/** `grammata proof`: holds the proofs of a folder, or of a server, against its routes; nothing is sent. */
export const proof: Command = async args => {
  const { from, route, junit } = workspaceOptions(args, true);
  const workspace = await workspaceFrom(from);
  if (route !== null && routesNamed(workspace, route).length === 0) throw new Misuse(`there is no route “${route}”.`);
  const routes = checkProofs(workspace, route);
  if (junit !== null) await writeFile(junit, junitOf(routes, Date.now()));
  const holds = routes.every(
    each => each.fault === null && each.proofs.every(({ differences }) => differences.length === 0),
  );
  return new Checked(
    {
      routes: routes.map(({ proofs, ...of }) => ({
        ...of,
        proofs: proofs.length,
        differing: proofs.filter(each => each.differences.length > 0),
      })),
    },
    holds,
  );
};

/** `grammata rehearse`: what the routes of a folder, or of a server, do with its samples. */
export const rehearse: Command = async args => {
  const { from, route } = workspaceOptions(args);
  const workspace = await workspaceFrom(from);
  if (route !== null && routesNamed(workspace, route).length === 0) throw new Misuse(`there is no route “${route}”.`);
  const routes = rehearseSamples(workspace, route);
  return new Checked(
    { routes },
    routes.every(each => each.fault === null),
  );
};
