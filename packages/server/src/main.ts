import path from 'node:path';
import { pino } from 'pino';
import { ConfigFault, configFrom } from './config';
import { atLast } from './lastResort';
import { assemble } from './start';

// What is stored here is its owner's alone.
process.umask(0o077);

/** Runs the server until it is told to stop. Started from the repository's root by `npm start`. */
try {
  const config = configFrom(process.env, process.env.GRAMMATA_ROOT ?? path.resolve(import.meta.dirname, '..'));
  const log = pino({ level: config.logLevel });
  const assembled = assemble(config, log);
  const { store, setupToken } = assembled.services;
  // Whoever finds the server answering finds the token, too.
  const token = store.accounts.isEmpty() ? setupToken.value() : null;
  const running = await assembled.listen();
  const last = atLast(log, () => running.stop());
  process.on('uncaughtException', last);
  process.on('unhandledRejection', last);
  process.stdout.write(`Grammata listens at ${config.publicUrl}\n`);
  if (token !== null)
    process.stdout.write(
      `Create the owner’s account there with this setup token: ${token}\n(Also stored in ${setupToken.file}.)\n`,
    );
  const stop = () => void running.stop().then(() => process.exit(0));
  process.once('SIGINT', stop);
  process.once('SIGTERM', stop);
} catch (error) {
  if (!(error instanceof ConfigFault)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exit(2);
}
