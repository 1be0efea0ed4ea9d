import { execFile } from 'node:child_process';
import path from 'node:path';

const bin = path.resolve(__dirname, '../../../cli/bin/grammata.mjs');

/** Runs the command line as people do: its exit code and what it says. */
export const grammata = (
  args: string[],
  env: NodeJS.ProcessEnv = {},
): Promise<{ code: number; out: string; err: string }> =>
  new Promise(resolve =>
    execFile(process.execPath, [bin, ...args], { env: { ...process.env, ...env } }, (error, out, err) =>
      resolve({ code: error ? Number(error.code) : 0, out, err }),
    ),
  );
