import { mkdirSync } from 'node:fs';
import path from 'node:path';
import type { AddressInfo } from 'node:net';
import { pino, type Logger } from 'pino';
import { vaultIn } from './access';
import { httpServer } from './app';
import { ConfigFault, type Config } from './config';
import { DeliveryQueue, dispatcher } from './delivery';
import { ArrivalReader, Recorder } from './intake';
import { LiveHub } from './live';
import { Outward } from './outward';
import type { Services } from './services';
import { openDatabase, storeOn } from './store';

export interface Running {
  services: Services;
  port: number;
  stop(): Promise<void>;
}

/** Everything wired together, not yet listening. */
export interface Assembled {
  services: Services;
  listen(): Promise<Running>;
}

/** Opens the data folder and builds the server. Throws ConfigFault when the folder can't be used. */
export function assemble(config: Config, log: Logger = pino({ level: process.env.GRAMMATA_LOG ?? 'warn' })): Assembled {
  const { vault, database } = openData(config);
  const store = storeOn(database.db);
  const live = new LiveHub();
  const outward = new Outward(config.allowPrivate);
  const queue = new DeliveryQueue({ store, outward, vault, live, log, concurrency: config.concurrency });
  const reader = new ArrivalReader(
    store.arrivals,
    live,
    dispatcher(store, live, () => queue.wake()),
    log,
  );
  const services: Services = { config, store, vault, outward, live, queue, reader, log };
  const server = httpServer(services, {
    intakes: store.intakes,
    recorder: new Recorder(store.arrivals),
    live,
    stored: () => reader.wake(),
    secretsOf: intake => (intake.secrets ? (JSON.parse(vault.open(intake.secrets)) as string[]) : []),
  });
  return {
    services,
    listen: () =>
      new Promise((resolve, reject) => {
        server.once('error', error => reject(listenFault(error as NodeJS.ErrnoException, config)));
        server.listen(config.port, config.host, () => {
          reader.wake();
          queue.start();
          const { port } = server.address() as AddressInfo;
          const stop = async () => {
            server.closeAllConnections();
            await new Promise(done => server.close(done));
            await queue.stop();
            await outward.close();
            database.close();
          };
          resolve({ services, port, stop });
        });
      }),
  };
}

/** Makes the data folder where it is missing, and opens what is in it. Throws ConfigFault where it can't be used. */
function openData({ dataDir, migrationsDir }: Config) {
  try {
    mkdirSync(dataDir, { recursive: true });
    const vault = vaultIn(dataDir);
    return { vault, database: openDatabase(path.join(dataDir, 'grammata.db'), migrationsDir) };
  } catch (error) {
    throw new ConfigFault(
      `The data folder ${dataDir} can't be used: ${(error as Error).message}. Set GRAMMATA_DATA to one that can be written.`,
    );
  }
}

function listenFault(error: NodeJS.ErrnoException, { host, port }: Config): Error {
  if (error.code === 'EADDRINUSE')
    return new ConfigFault(`Port ${port} on ${host} is in use. Stop what runs there, or set GRAMMATA_PORT to another.`);
  if (error.code === 'EACCES')
    return new ConfigFault(`Port ${port} may not be used by this user. Set GRAMMATA_PORT to one above 1023.`);
  return error;
}
