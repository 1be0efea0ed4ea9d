import path from 'node:path';
import { ConfigFault, configFrom } from './config';
import { assemble } from './start';

/** Runs the server until it is told to stop. Started from the repository's root by `npm start`. */
try {
  const config = configFrom(process.env, process.env.GRAMMATA_ROOT ?? path.resolve(import.meta.dirname, '..'));
  const running = await assemble(config).listen();
  process.stdout.write(`Grammata listens at ${config.publicUrl}\n`);
  const stop = () => void running.stop().then(() => process.exit(0));
  process.once('SIGINT', stop);
  process.once('SIGTERM', stop);
} catch (error) {
  if (!(error instanceof ConfigFault)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exit(2);
}
