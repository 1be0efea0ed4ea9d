import { chmodSync, existsSync, mkdirSync, rmSync } from 'node:fs';
import path from 'node:path';
import type { AddressInfo } from 'node:net';
import { pino, type Logger } from 'pino';
import { entranceOf, keyIn, SetupToken, vaultIn, type Vault } from './access';
import { httpServer } from './app';
import { ConfigFault, type Config } from './config';
import { Decoders } from './decoding';
import { Breakers, Courier, DeliveryDriver, keepsPace, layered, Postman, renewsToken } from './delivery';
import { Contents, Copies, RowFiles } from './files';
import { now } from './clock';
import { AnswerWatch, FormWatch, heldForChange, sendHeldFor, sendHeldStill } from './drift';
import {
  ArrivalReader,
  Bodies,
  Feeds,
  listenForMail,
  mailbox,
  recorderOn,
  Rereading,
  retention,
  TargetAnswers,
  Strays,
} from './intake';
import { arrivalOf, Gate, LedgerThread } from './ledger';
import { LiveHub } from './live';
import { Authorizations, Consents, Outward } from './outward';
import type { Services } from './services';
import { StorageHealth } from './storage';
import { FolderInUse, lockFolder, openDatabase, storeOn, type Store } from './store';
import { Timers } from './timing';
import { rereadRefusing, rereading as rereadingTargets } from './targets';
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
export function assemble(
  config: Config,
  log: Logger = pino({ level: process.env.GRAMMATA_LOG ?? 'warn' }),
  decoders = new Decoders(config.decoderFile),
): Assembled {
  const gate = new Gate();
  const { vault, linkKey, database, lock } = openData(config, gate);
  const store = storeOn(database.db);
  try {
    knowSecrets(store, vault);
  } catch {
    database.close();
    lock.release();
    throw new ConfigFault(
      `The key ${path.join(config.dataDir, 'key')} is not the one that this data’s secrets were sealed with. Put the file “key” of the same backup there.`,
    );
  }
  const live = new LiveHub();
  const timers = new Timers(log);
  const health = new StorageHealth(live, log);
  const thread = new LedgerThread({
    file: path.join(config.dataDir, 'grammata.db'),
    program: config.ledgerFile,
    gate,
    timers,
    log,
  });
  const { ledger } = thread;
  const entrance = entranceOf(config.publicUrl, config.trustProxies);
  const setupToken = new SetupToken(config.dataDir);
  const outward = new Outward(config.allowPrivate, vault.mask);
  const consents = new Consents(
    outward,
    vault,
    {
      read(id) {
        const row = store.targets.byId(id);
        return row ? { ...row, tokens: row.consentTokens } : null;
      },
      write: (id, consent, tokens, was) => store.targets.keepConsent(id, consent, tokens, was),
    },
    `${config.publicUrl}/consent`,
    id => live.publish({ type: 'changed', what: 'target', id }),
  );
  const authorizations = new Authorizations(outward, vault, consents);
  const postman = new Postman(vault, config.allowPrivate);
  const bodies = new Bodies(config.dataDir);
  const folder = path.join(config.dataDir, 'underway');
  rmSync(folder, { recursive: true, force: true });
  const contents = new Contents({
    store,
    bodyFile: id => bodies.fileOf(id),
    outward,
    authorizations,
    vault,
    decoders,
    allowPrivate: config.allowPrivate,
    folder,
    most: config.largestFile,
  });
  const copies = new Copies(store.copies, config.publicUrl, linkKey, config.dataDir);
  const rows = new RowFiles(config.rowsDir);
  const breakers = new Breakers(id => {
    live.publish({ type: 'changed', what: 'target', id });
    deliveries.wake();
  });
  // Whether a target is asked at all is seen when its turn has come.
  const send = layered(keepsPace(), breakers.layer, renewsToken(authorizations));
  const courier = new Courier({ outward, authorizations, contents, copies, postman, rows, send });
  const { concurrency, changesAfter } = config;
  const watch = new FormWatch({
    store,
    decoders,
    live,
    timers,
    log,
    changesAfter,
    over: async changes => {
      for (const each of changes) await sendHeldFor({ store, ledger, deliveries, live }, each);
    },
  });
  const ear = new AnswerWatch({
    store,
    decoders,
    live,
    timers,
    log,
    changesAfter,
    reread: target => rereadRefusing(services, target),
  });
  const deliveries = new DeliveryDriver({
    store,
    ledger,
    vault,
    courier,
    breakers,
    live,
    health,
    timers,
    log,
    concurrency,
    heard: targetId => ear.heard(targetId),
    settled: submissionId => answers.look(arrivalOf(submissionId)),
    heldForChange: (delivery, definition, data) => heldForChange({ store, watch }, delivery, definition, data),
  });
  const workshop = new Workshop(live);
  const answers = new TargetAnswers({ store, live, timers });
  const record = recorderOn(ledger, health);
  const reader = new ArrivalReader({
    store,
    ledger,
    watch,
    live,
    wake: () => deliveries.wake(),
    workshop,
    bodies,
    decoders,
    health,
    timers,
    log,
    isPressed: () => thread.isPressed,
  });
  const stored = () => reader.wake();
  const rereading = new Rereading({ store, ledger, decoders, bodies, workshop, live, timers });
  const feeds = new Feeds({
    store,
    ledger,
    bodies,
    live,
    outward,
    authorizations,
    decoders,
    timers,
    health,
    log,
    watch,
    settled: id => rereading.settled(id),
    wake: () => {
      reader.wake();
      deliveries.wake();
    },
  });
  const services: Services = {
    config,
    store,
    vault,
    outward,
    authorizations,
    consents,
    postman,
    courier,
    contents,
    copies,
    live,
    health,
    timers,
    entrance,
    setupToken,
    decoders,
    ledger,
    rereading,
    breakers,
    deliveries,
    reader,
    feeds,
    workshop,
    bodies,
    strays: new Strays(),
    log,
  };
  const mails = config.mail && mailbox({ intakes: store.intakes, record, bodies, live, health, log, stored });
  const server = httpServer(services, {
    intakes: store.intakes,
    strays: services.strays,
    record,
    bodies,
    live,
    health,
    log,
    stored,
    mask: vault.mask,
    answers,
    senderOf: entrance.senderOf,
    secretsOf: intake => (intake.secrets ? (JSON.parse(vault.open(intake.secrets)) as string[]) : []),
  });
  return {
    services,
    listen: async () => {
      // Before anything arrives: what is being read then was left by an end of the server.
      await timers.run('taking up what was left', () => reader.recover());
      await timers.run('sweeping files', () => {
        bodies.sweep(id => store.arrivals.has(id));
        copies.sweep();
      });
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
      await timers.run('going on reading again', () => rereading.resume());
      deliveries.start();
      feeds.schedule();
      const timer = retention(store, ledger, bodies, copies, timers);
      const targets = rereadingTargets(services);
      const traffic = timers.schedule('looking at how much comes', '41 * * * *', () => watch.traffic(now()));
      const held = timers.schedule('sending what is held no more', '*/5 * * * *', () => sendHeldStill(services));
      const { port } = server.address() as AddressInfo;
      const stop = async () => {
        timer.stop();
        targets.stop();
        traffic.stop();
        held.stop();
        watch.close();
        ear.close();
        server.closeAllConnections();
        await new Promise(done => server.close(done));
        if (mails) await new Promise<void>(done => mails.close(done));
        const reading = Promise.all([feeds.close(), reader.close()]);
        await decoders.close();
        await reading;
        await deliveries.stop();
        await outward.close();
        await ledger.close();
        database.close();
        lock.release();
      };
      return { services, port, mailPort, stop };
    },
  };
}

/** Has every stored secret known, so that it is masked wherever text from outside is kept or shown. */
function knowSecrets(store: Store, vault: Vault): void {
  const sealed = [
    ...store.intakes.all().flatMap(each => [each.secrets, each.feedSecret, each.fileSecret]),
    ...store.targets.all().flatMap(each => [each.secret, each.trySecret, each.consentTokens]),
  ];
  for (const each of sealed) if (each !== null) vault.open(each);
}

/** Makes the data folder where it is missing, and opens what is in it. Throws ConfigFault where it can't be used. */
function openData({ dataDir, migrationsDir }: Config, { turnstile }: Gate) {
  const key = path.join(dataDir, 'key');
  // Before anything is written: a key that is made anew opens nothing of what is there.
  if (existsSync(path.join(dataDir, 'grammata.db')) && !existsSync(key))
    throw new ConfigFault(
      `The key is missing: ${key}. Secrets in this data were sealed with it. Put the file “key” of the same backup there; nothing was changed.`,
    );
  try {
    mkdirSync(dataDir, { recursive: true, mode: 0o700 });
    // Submissions and what opens secrets are nobody else's to read.
    chmodSync(dataDir, 0o700);
    const lock = lockFolder(dataDir);
    const vault = vaultIn(dataDir);
    return {
      vault,
      lock,
      linkKey: keyIn(dataDir, 'links'),
      database: openDatabase(path.join(dataDir, 'grammata.db'), migrationsDir, turnstile),
    };
  } catch (error) {
    if (error instanceof FolderInUse)
      throw new ConfigFault(`${error.message} Stop it, or set GRAMMATA_DATA to another folder.`);
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
