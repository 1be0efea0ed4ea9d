import { Checked, Misuse, type Command } from './command';

interface Entry {
  name: string;
  usage: string;
  summary: string;
  /** Loaded when it is called: each command starts with no more than it needs. */
  load: () => Promise<Command>;
}

/** The commands, in the order the help shows them. */
const commands: Entry[] = [
  {
    name: 'decode',
    usage: 'decode FILE [--type CONTENT_TYPE] [--query STRING]',
    summary: 'Reads a message body into submissions.',
    load: async () => (await import('./decode')).decodeFile,
  },
  {
    name: 'match',
    usage: 'match FILE',
    summary: 'Suggests lines from {"from":{"fields":[…]},"to":{"fields":[…]}}, with a score and a reason.',
    load: async () => (await import('./match')).match,
  },
  {
    name: 'apply',
    usage: 'apply FILE',
    summary: 'Runs the cleaning in {"chain":[{"id","params"}],"values":[…]} over its values.',
    load: async () => (await import('./apply')).apply,
  },
  {
    name: 'drift',
    usage: 'drift FILE',
    summary:
      'Compares what a form sent, or two OpenAPI documents, in {"before","after"}. Exit code 1 if something changed.',
    load: async () => (await import('./drift')).drift,
  },
  {
    name: 'export',
    usage: 'export DIR [--server URL]',
    summary: 'Writes intakes, targets, routes, samples and proofs of a server as files; GRAMMATA_PASSWORD signs in.',
    load: async () => (await import('./export')).exportWorkspace,
  },
  {
    name: 'import',
    usage: 'import DIR [--server URL] [--apply]',
    summary: 'Shows what such a folder would change on a server. With --apply it is imported, all or nothing.',
    load: async () => (await import('./import')).importWorkspace,
  },
  {
    name: 'proof',
    usage: 'proof --workspace DIR | --server URL [--route NAME] [--junit FILE]',
    summary: 'Checks the proofs in such a folder, or on a server. Exit code 1 if one differs. Nothing is sent.',
    load: async () => (await import('./proof')).proof,
  },
  {
    name: 'rehearse',
    usage: 'rehearse --workspace DIR | --server URL [--route NAME]',
    summary: 'Rehearses the routes in such a folder, or on a server, with their samples.',
    load: async () => (await import('./proof')).rehearse,
  },
  {
    name: 'suppose',
    usage: 'suppose FILE --target NAME --workspace DIR | --server URL',
    summary:
      'Shows the effect on the routes if a target published the OpenAPI document in FILE. Exit code 1 if one would break.',
    load: async () => (await import('./suppose')).suppose,
  },
];

const help = () =>
  `Usage: grammata COMMAND\n\n${commands.map(each => `  ${each.usage}\n      ${each.summary}`).join('\n')}\n`;

/** Runs one command; exit code 0 on success, 1 when what was checked does not hold, 2 on misuse. */
async function main([name, ...args]: string[]): Promise<number> {
  if (name === undefined || name === '--help' || name === 'help') {
    (name ? process.stdout : process.stderr).write(help());
    return name ? 0 : 2;
  }
  const command = commands.find(each => each.name === name);
  if (!command) {
    process.stderr.write(`grammata: there is no command “${name}”.\n\n${help()}`);
    return 2;
  }
  try {
    const result = await (await command.load())(args);
    const [document, holds] = result instanceof Checked ? [result.document, result.holds] : [result, true];
    process.stdout.write(`${JSON.stringify(document)}\n`);
    return holds ? 0 : 1;
  } catch (error) {
    if (!(error instanceof Misuse)) throw error;
    process.stderr.write(`grammata ${name}: ${error.message}\nUsage: grammata ${command.usage}\n`);
    return 2;
  }
}

process.exitCode = await main(process.argv.slice(2));
