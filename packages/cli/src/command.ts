import { readFile } from 'node:fs/promises';
import { parseArgs, type ParseArgsConfig } from 'node:util';

/** One command of the command line. What it gives back is written to stdout as one JSON document. */
export type Command = (args: string[]) => Promise<unknown>;

/** What a command checked, and whether it holds: exit code 1 where it does not. */
export class Checked {
  constructor(
    readonly document: unknown,
    readonly holds: boolean,
  ) {}
}

/** The command was called wrongly: exit code 2. */
export class Misuse extends Error {}

/** The one FILE argument and the options; throws Misuse otherwise. */
export function fileAndOptions<O extends NonNullable<ParseArgsConfig['options']>>(args: string[], options: O) {
  try {
    const { values, positionals } = parseArgs({ args, options, allowPositionals: true, strict: true });
    if (positionals.length !== 1) throw new Misuse('give one FILE, or - for standard input.');
    return { file: positionals[0]!, values };
  } catch (error) {
    throw error instanceof Misuse ? error : new Misuse((error as Error).message);
  }
}

/** The one DIR argument and the options; throws Misuse otherwise. */
export function folderAndOptions<O extends NonNullable<ParseArgsConfig['options']>>(args: string[], options: O) {
  try {
    const { values, positionals } = parseArgs({ args, options, allowPositionals: true, strict: true });
    if (positionals.length !== 1) throw new Misuse('give one DIR.');
    return { folder: positionals[0]!, values };
  } catch (error) {
    throw error instanceof Misuse ? error : new Misuse((error as Error).message);
  }
}

/** The bytes of a file, or of standard input for `-`. */
export async function bytesOf(file: string): Promise<Buffer> {
  if (file === '-') {
    const chunks: Buffer[] = [];
    for await (const chunk of process.stdin) chunks.push(chunk as Buffer);
    return Buffer.concat(chunks);
  }
  return readFile(file).catch((error: NodeJS.ErrnoException) => {
    throw new Misuse(
      error.code === 'ENOENT' ? `there is no file “${file}”.` : `“${file}” can't be read: ${error.message}`,
    );
  });
}

/** The JSON document in a file. */
export async function documentOf(file: string): Promise<unknown> {
  const text = (await bytesOf(file)).toString('utf8');
  try {
    return JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch (error) {
    throw new Misuse(`“${file}” is not JSON: ${(error as Error).message}`);
  }
}
