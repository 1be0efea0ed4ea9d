import { folderAndOptions, type Command } from './command';
import { Server, USUAL_SERVER } from './server';
import { writeFiles } from './workspace';

/** `grammata export`: what a server holds, without secrets, as files fit for version control. */
export const exportWorkspace: Command = async args => {
  const { folder, values } = folderAndOptions(args, { server: { type: 'string' } });
  const files = await (await Server.at(values.server ?? USUAL_SERVER)).files();
  await writeFiles(folder, files);
  return { folder, files: Object.keys(files).sort() };
};
