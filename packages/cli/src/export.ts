import { parseArgs } from 'node:util';
import type { WorkspaceFiles } from '@grammata/core/workspace';
import { Misuse, type Command } from './command';
import { writeFiles } from './workspace';

/** `grammata export`: what a server holds, without secrets, as files fit for version control. */
export const exportWorkspace: Command = async args => {
  const { folder, server } = optionsOf(args);
  const cookie = await signIn(server);
  const answer = await asked(`${server}/api/workspace`, { headers: { cookie } });
  if (answer.status === 401) throw new Misuse('it wants to know who asks: set GRAMMATA_PASSWORD.');
  if (!answer.ok) throw new Misuse(`${server} answered ${answer.status}.`);
  const files = (await answer.json()) as WorkspaceFiles;
  await writeFiles(folder, files);
  return { folder, files: Object.keys(files).sort() };
};

function optionsOf(args: string[]): { folder: string; server: string } {
  try {
    const { values, positionals } = parseArgs({
      args,
      options: { server: { type: 'string' } },
      allowPositionals: true,
      strict: true,
    });
    if (positionals.length !== 1) throw new Misuse('give one DIR.');
    const server = values.server ?? 'http://127.0.0.1:4600';
    if (!URL.canParse(server)) throw new Misuse(`“${server}” is no address.`);
    return { folder: positionals[0]!, server: server.replace(/\/$/, '') };
  } catch (error) {
    throw error instanceof Misuse ? error : new Misuse((error as Error).message);
  }
}

/** The session's cookie; a server that signs in by itself gives one without a password. */
async function signIn(server: string): Promise<string> {
  const password = process.env.GRAMMATA_PASSWORD;
  const answer = await asked(`${server}/api/session`, {
    method: password === undefined ? 'GET' : 'POST',
    headers: { 'content-type': 'application/json' },
    ...(password !== undefined && { body: JSON.stringify({ password }) }),
  });
  if (answer.status === 401 || answer.status === 422)
    throw new Misuse('the password in GRAMMATA_PASSWORD is not the right one.');
  return (answer.headers.get('set-cookie') ?? '').split(';')[0]!;
}

const asked = (url: string, init: RequestInit): Promise<Response> =>
  fetch(url, init).catch(() => {
    throw new Misuse(`nothing answers at ${new URL(url).origin}.`);
  });
