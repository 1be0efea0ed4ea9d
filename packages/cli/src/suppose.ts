import { parseArgs } from 'node:util';
import type { Json } from '@grammata/core/submission';
import { holdsThen, supposeDocument } from '@grammata/core/workspace';
import { Checked, documentOf, Misuse, type Command } from './command';
import { workspaceFrom } from './workspace';

/** `grammata suppose`: what would become of routes if a target published this document; exit code 1 where one would break. */
export const suppose: Command = async args => {
  const { file, target, from } = optionsOf(args);
  const document = (await documentOf(file)) as Json;
  const supposed = supposeDocument(await workspaceFrom(from), target, document);
  if ('fault' in supposed) throw new Misuse(supposed.fault);
  return new Checked(supposed, holdsThen(supposed));
};

function optionsOf(args: string[]) {
  const { values, positionals } = parsed(args);
  const { workspace, server, target } = values;
  if (positionals.length !== 1) throw new Misuse('give one FILE with the document, or - for standard input.');
  if (target === undefined) throw new Misuse('name the target with --target NAME.');
  if ((workspace === undefined) === (server === undefined))
    throw new Misuse('give the folder with --workspace DIR, or the server with --server URL.');
  return { file: positionals[0]!, target, from: workspace === undefined ? { server: server! } : { folder: workspace } };
}

function parsed(args: string[]) {
  try {
    return parseArgs({
      args,
      options: { workspace: { type: 'string' }, server: { type: 'string' }, target: { type: 'string' } },
      allowPositionals: true,
      strict: true,
    });
  } catch (error) {
    throw new Misuse((error as Error).message);
  }
}
