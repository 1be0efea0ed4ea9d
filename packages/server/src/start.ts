import { mkdirSync, rmSync } from 'node:fs';
import path from 'node:path';
import type { AddressInfo } from 'node:net';
import { pino, type Logger } from 'pino';
import { keyIn, vaultIn } from './access';
import { httpServer } from './app';
import { ConfigFault, type Config } from './config';
import { Courier, DeliveryQueue, dispatcher, Postman } from './delivery';
import { Contents, Copies, RowFiles } from './files';
import { ArrivalReader, Bodies, Feeds, listenForMail, mailbox, Recorder, retention } from './intake';
import { LiveHub } from './live';
import { Authorizations, Outward } from './outward';
import type { Services } from './services';
import { openDatabase, storeOn, type IntakeRow } from './store';
import { Workshop } from './work';

export interface Running {
  services: Services;
  port: number;
  /** Where mails are taken; null where none are. */
  mailPort: number | null;
  stop(): Promise<void>;
}

/** Everything wired together, not yet listening. */
export interface Assembled {
  services: Services;
  listen(): Promise<Running>;
}

/** Opens the data folder and builds the server. Throws ConfigFault when the folder can't be used. */
export function assemble(config: Config, log: Logger = pino({ level: process.env.GRAMMATA_LOG ?? 'warn' })): Assembled {
  const { vault, linkKey, database } = openData(config);
  const store = storeOn(database.db);
  const live = new LiveHub();
  const outward = new Outward(config.allowPrivate);
  const authorizations = new Authorizations(outward, vault);
  const postman = new Postman(vault, config.allowPrivate);
  const bodies = new Bodies(config.dataDir);
  const folder = path.join(config.dataDir, 'underway');
  rmSync(folder, { recursive: true, force: true });
  const contents = new Contents({
    store,
    bodyFile: id => bodies.fileOf(id),
    outward,
    vault,
    folder,
    most: config.largestFile,
  });
  const copies = new Copies(store.copies, config.publicUrl, linkKey, config.dataDir);
  const rows = new RowFiles(config.rowsDir);
  const courier = new Courier({ outward, authorizations, contents, copies, postman, rows });
  const queue = new DeliveryQueue({ store, courier, live, log, concurrency: config.concurrency });
  const workshop = new Workshop(live);
  const dispatch = dispatcher(store, live, () => queue.wake());
  const recorder = new Recorder(store.arrivals);
  const reader = new ArrivalReader({
    store,
    live,
    dispatch,
    workshop,
    bodies,
    log,
    isPressed: () => recorder.isPressed,
    decoderFile: config.decoderFile,
  });
  const stored = () => reader.wake();
  const secretOf = ({ feedSecret }: IntakeRow) => (feedSecret ? vault.open(feedSecret) : '');
  const feeds = new Feeds({ store, live, outward, secretOf, stored });
  const services: Services = {
    config,
    store,
    vault,
    outward,
    authorizations,
    postman,
    courier,
    contents,
    copies,
    live,
    queue,
    reader,
    feeds,
    workshop,
    bodies,
    log,
  };
  const mails = config.mail && mailbox({ intakes: store.intakes, recorder, live, stored });
  const server = httpServer(services, {
    intakes: store.intakes,
    recorder,
    bodies,
    live,
    stored,
    secretsOf: intake => (intake.secrets ? (JSON.parse(vault.open(intake.secrets)) as string[]) : []),
  });
  return {
    services,
    listen: async () => {
      await new Promise<void>((resolve, reject) => {
        server.once('error', reject);
        server.listen(config.port, config.host, resolve);
      }).catch((error: NodeJS.ErrnoException) => {
        throw listenFault(error, config.host, config.port, 'GRAMMATA_PORT');
      });
      const mailPort =
        mails && config.mail
          ? await listenForMail(mails, config.mail.port, config.host).catch((error: NodeJS.ErrnoException) => {
              server.close();
              throw listenFault(error, config.host, config.mail!.port, 'GRAMMATA_MAIL_PORT');
            })
          : null;
      reader.wake();
      queue.start();
      feeds.schedule();
      bodies.sweep(id => store.arrivals.has(id));
      const timer = retention(store, bodies, copies, log);
      const { port } = server.address() as AddressInfo;
      const stop = async () => {
        timer.stop();
        server.closeAllConnections();
        await new Promise(done => server.close(done));
        if (mails) await new Promise<void>(done => mails.close(done));
        await feeds.close();
        await reader.close();
        await queue.stop();
        await outward.close();
        database.close();
      };
      return { services, port, mailPort, stop };
    },
  };
}

/** Makes the data folder where it is missing, and opens what is in it. Throws ConfigFault where it can't be used. */
function openData({ dataDir, migrationsDir }: Config) {
  try {
    mkdirSync(dataDir, { recursive: true });
    const vault = vaultIn(dataDir);
    return {
      vault,
      linkKey: keyIn(dataDir, 'links'),
      database: openDatabase(path.join(dataDir, 'grammata.db'), migrationsDir),
    };
  } catch (error) {
    throw new ConfigFault(
      `The data folder ${dataDir} can't be used: ${(error as Error).message}. Set GRAMMATA_DATA to one that can be written.`,
    );
  }
}

function listenFault(error: NodeJS.ErrnoException, host: string, port: number, setting: string): Error {
  if (error.code === 'EADDRINUSE')
    return new ConfigFault(`Port ${port} on ${host} is in use. Stop what runs there, or set ${setting} to another.`);
  if (error.code === 'EACCES')
    return new ConfigFault(`Port ${port} may not be used by this user. Set ${setting} to one above 1023.`);
  return error;
}
