import { Checked, folderAndOptions, Misuse, type Command } from './command';
import { Server, USUAL_SERVER } from './server';
import { filesIn, workspaceIn } from './workspace';

interface Compared {
  changes: unknown[];
  stays: unknown[];
  faults: unknown[];
  proofs: { route: string; fault: string | null; proofs: unknown[] }[];
  mark: string;
}

/**
 * `grammata import`: holds a folder against a server and tells what importing it would change; with `--apply` it is imported, as a whole or
 * not at all. What differs and was not imported is exit code 1.
 */
export const importWorkspace: Command = async args => {
  const { folder, values } = folderAndOptions(args, { server: { type: 'string' }, apply: { type: 'boolean' } });
  await workspaceIn(folder);
  const files = await filesIn(folder);
  const server = await Server.at(values.server ?? USUAL_SERVER);
  const { mark, ...view } = (await server.post('/workspace/compare', { files })).body as Compared;
  const proofs = view.proofs.filter(each => each.fault !== null || each.proofs.length > 0);
  const result = { ...view, proofs };
  if (view.faults.length > 0) return new Checked({ imported: false, ...result }, false);
  if (!values.apply) return new Checked({ imported: false, ...result }, view.changes.length === 0);
  const { status, body } = await server.post('/workspace', { files, mark });
  if (status === 200) return { imported: true, ...result };
  const { title, errors = [] } = body as { title: string; errors?: { field: string; message: string }[] };
  if (status === 409) throw new Misuse(`${title} Nothing was imported.`);
  const faults = errors.map(({ field, message }) => ({ file: field, message }));
  return new Checked({ imported: false, ...result, faults }, false);
};
