import { apply } from './apply';
import { decodeFile } from './decode';
import { Misuse, type Command } from './command';

/** The commands, in the order the help shows them. */
const commands: Command[] = [decodeFile, apply];

const help = () => `Usage: grammata COMMAND\n\n${commands.map(each => `  ${each.usage}\n      ${each.summary}`).join('\n')}\n`;

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
    process.stdout.write(`${JSON.stringify(await command.run(args))}\n`);
    return 0;
  } catch (error) {
    if (!(error instanceof Misuse)) throw error;
    process.stderr.write(`grammata ${name}: ${error.message}\nUsage: grammata ${command.usage}\n`);
    return 2;
  }
}

process.exitCode = await main(process.argv.slice(2));
