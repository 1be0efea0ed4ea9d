import path from 'node:path';
import { assemble, atLast, ConfigFault, configFrom } from '@grammata/server';
import { pino } from 'pino';
import { putOnTheirDays } from './putOnTheirDays';
import { readFeeds } from './readFeeds';
import { seed, seedOwner } from './seed';
import { startYardOn } from './startYardOn';

// What is stored here is its owner's alone.
process.umask(0o077);

/** ms that the demo takes at most to fill itself before it says where it is. */
const PATIENCE = 45_000;

/** Starts the practice yard and a server with demo data, both on loopback, and prints one address. */
try {
  const root = process.env.GRAMMATA_ROOT ?? path.resolve(import.meta.dirname, '..');
  const base = configFrom(
    {
      ...process.env,
      GRAMMATA_HOST: '127.0.0.1',
      GRAMMATA_DATA: process.env.GRAMMATA_DATA ?? path.join(root, 'data/demo'),
    },
    root,
  );
  const yard = await startYardOn(base.host, process.env.GRAMMATA_PRACTICE_PORT, path.join(base.dataDir, 'practice'));
  const config = {
    ...base,
    demo: true,
    practiceUrl: yard.url,
    mail: base.mail ?? { port: base.port + 1, domain: 'localhost' },
    allowPrivate: [...base.allowPrivate, new URL(yard.url).host, new URL(yard.outbox.baseUrl).host],
  };
  const log = pino({ level: config.logLevel });
  const assembled = assemble(config, log);
  const begun = Date.now();
  // Empty, with the practice yard beside it: for who wants to connect a first form.
  const isEmpty = process.env.GRAMMATA_EMPTY === 'on';
  const isFresh = await (isEmpty ? seedOwner(assembled.services) : seed(assembled.services, yard, begun));
  const running = await assembled.listen();
  const last = atLast(log, () => running.stop());
  process.on('uncaughtException', last);
  process.on('unhandledRejection', last);
  const filled = async () => {
    if (isEmpty) return;
    await readFeeds(assembled.services);
    if (isFresh) await putOnTheirDays(assembled.services, begun);
  };
  const { timers } = assembled.services;
  // On a slow machine it goes on while somebody looks at what is there.
  await Promise.race([timers.run('filling the demo', filled), timers.pause(PATIENCE)]);
  console.log(`\n  Grammata, ${isEmpty ? 'empty' : 'with demo data'}:  ${config.publicUrl}\n`);
  const stop = () => void running.stop().then(() => process.exit(0));
  process.once('SIGINT', stop);
  process.once('SIGTERM', stop);
} catch (error) {
  if (!(error instanceof ConfigFault)) throw error;
  console.error(`\n  ${error.message}\n`);
  process.exit(2);
}
