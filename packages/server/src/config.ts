import path from 'node:path';
import { withoutEnd } from '@grammata/core/submission';
import ipaddr from 'ipaddr.js';

/** How this server runs. Read from the environment once, at the start. */
export interface Config {
  host: string;
  port: number;
  /** The address people and builders reach it under; without a slash at its end. */
  publicUrl: string;
  /** Folder of the database and the key. */
  dataDir: string;
  /** Folder of the built interface; null serves none. */
  webDir: string | null;
  migrationsDir: string;
  /** Signs in by itself, on loopback only. */
  demo: boolean;
  /** Where the practice yard is, in the demo. */
  practiceUrl: string | null;
  /** Private hosts or address ranges that outgoing requests may reach: `127.0.0.1:4700`, `10.0.0.0/8`. */
  allowPrivate: string[];
  /** Addresses and ranges of proxies that stand in front and are believed; none unless told. */
  trustProxies: string[];
  /** Where mails for intakes are taken; null takes none. */
  mail: { port: number; domain: string } | null;
  /** The program of the threads that decode. */
  decoderFile: string;
  /** The program of the ledger's thread; null has it in the main one. */
  ledgerFile: string | null;
  /** Folder below which rows are appended to files. */
  rowsDir: string;
  /** Most bytes of a file that is sent on. */
  largestFile: number;
  /** ms after something happened to a form or target before changes of it are looked for; null where none are. */
  changesAfter: number | null;
  /** What is logged, and what is more pressing. */
  logLevel: (typeof logLevels)[number];
  /** Deliveries under way at once. */
  concurrency: number;
}

const logLevels = ['trace', 'debug', 'info', 'warn', 'error', 'fatal', 'silent'] as const;

/** A setting can't be used as it is; the message says which and what to do. */
export class ConfigFault extends Error {}

function portFrom(value: string | undefined, fallback: number, name = 'GRAMMATA_PORT'): number {
  const port = Number(value ?? fallback);
  if (!Number.isInteger(port) || port < 0 || port > 65535)
    throw new ConfigFault(`${name} is “${value}”; give a number from 1 to 65535.`);
  return port;
}

function megabytesFrom(value: string | undefined, fallback: number): number {
  const size = Number(value ?? fallback);
  if (!(size > 0)) throw new ConfigFault(`GRAMMATA_LARGEST_FILE_MB is “${value}”; give a number of megabytes.`);
  return size;
}

const listFrom = (value: string | undefined): string[] =>
  (value ?? '')
    .split(',')
    .map(each => each.trim())
    .filter(Boolean);

function publicUrlFrom(value: string): string {
  if (!/^https?:\/\//i.test(value) || !URL.canParse(value))
    throw new ConfigFault(`GRAMMATA_PUBLIC_URL is “${value}”; give a whole address such as https://forms.example.org.`);
  return withoutEnd(value, '/');
}

function proxiesFrom(value: string | undefined): string[] {
  const proxies = listFrom(value);
  const bad = proxies.find(each => !ipaddr.isValid(each) && !ipaddr.isValidCIDR(each) && each !== 'loopback');
  if (bad !== undefined)
    throw new ConfigFault(
      `GRAMMATA_TRUST_PROXY names “${bad}”; give addresses or ranges of your proxies, such as 127.0.0.1 or 10.0.0.0/8.`,
    );
  return proxies;
}

/** A mailbox listens where GRAMMATA_MAIL_PORT names a port. Its domain is what senders reach this machine under. */
function mailFrom(env: NodeJS.ProcessEnv, host: string): Config['mail'] {
  if (!env.GRAMMATA_MAIL_PORT) return null;
  const { hostname } = new URL(
    publicUrlFrom(env.GRAMMATA_PUBLIC_URL ?? `http://${host.includes(':') ? `[${host}]` : host}`),
  );
  const fallback = /^[\d.]+$|:/.test(hostname) ? 'localhost' : hostname;
  const port = portFrom(env.GRAMMATA_MAIL_PORT, 0, 'GRAMMATA_MAIL_PORT');
  return { port, domain: env.GRAMMATA_MAIL_DOMAIN ?? fallback };
}

function logLevelFrom(value = 'warn'): Config['logLevel'] {
  const level = logLevels.find(each => each === value);
  if (level === undefined) throw new ConfigFault(`GRAMMATA_LOG is “${value}”; give one of ${logLevels.join(', ')}.`);
  return level;
}

/** ms before changes are looked for: what happens at once is looked at once. */
const LOOKED_AFTER = 1500;

/** On unless it is switched off. */
function switchFrom(value: string | undefined, name: string): boolean {
  if (value !== undefined && value !== 'on' && value !== 'off')
    throw new ConfigFault(`${name} is “${value}”; give on or off.`);
  return value !== 'off';
}

/** The configuration from environment variables, all starting with GRAMMATA_. Throws ConfigFault. */
export function configFrom(env: NodeJS.ProcessEnv, root: string): Config {
  const host = env.GRAMMATA_HOST ?? '127.0.0.1';
  const port = portFrom(env.GRAMMATA_PORT, 4600);
  return {
    host,
    port,
    publicUrl: publicUrlFrom(env.GRAMMATA_PUBLIC_URL ?? `http://${host.includes(':') ? `[${host}]` : host}:${port}`),
    dataDir: path.resolve(env.GRAMMATA_DATA ?? 'data'),
    webDir: path.join(root, 'dist/web'),
    migrationsDir: path.join(root, 'packages/server/migrations'),
    demo: false,
    practiceUrl: null,
    allowPrivate: listFrom(env.GRAMMATA_ALLOW_PRIVATE),
    trustProxies: proxiesFrom(env.GRAMMATA_TRUST_PROXY),
    mail: mailFrom(env, host),
    decoderFile: path.join(root, 'dist/decodeWorker.cjs'),
    ledgerFile: path.join(root, 'dist/ledgerWorker.cjs'),
    rowsDir: path.resolve(env.GRAMMATA_ROWS ?? path.join(env.GRAMMATA_DATA ?? 'data', 'rows')),
    largestFile: megabytesFrom(env.GRAMMATA_LARGEST_FILE_MB, 250) * 1e6,
    changesAfter: switchFrom(env.GRAMMATA_CHANGES, 'GRAMMATA_CHANGES') ? LOOKED_AFTER : null,
    logLevel: logLevelFrom(env.GRAMMATA_LOG),
    concurrency: 256,
  };
}
