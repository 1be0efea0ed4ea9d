import path from 'node:path';

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
  /** Deliveries under way at once. */
  concurrency: number;
}

/** A setting can't be used as it is; the message says which and what to do. */
export class ConfigFault extends Error {}

function portFrom(value: string | undefined, fallback: number): number {
  const port = Number(value ?? fallback);
  if (!Number.isInteger(port) || port < 0 || port > 65535)
    throw new ConfigFault(`GRAMMATA_PORT is “${value}”; give a number from 1 to 65535.`);
  return port;
}

/** The configuration from environment variables, all starting with GRAMMATA_. Throws ConfigFault. */
export function configFrom(env: NodeJS.ProcessEnv, root: string): Config {
  const host = env.GRAMMATA_HOST ?? '127.0.0.1';
  const port = portFrom(env.GRAMMATA_PORT, 4600);
  return {
    host,
    port,
    publicUrl: (env.GRAMMATA_PUBLIC_URL ?? `http://${host}:${port}`).replace(/\/+$/, ''),
    dataDir: path.resolve(env.GRAMMATA_DATA ?? 'data'),
    webDir: path.join(root, 'dist/web'),
    migrationsDir: path.join(root, 'packages/server/migrations'),
    demo: false,
    practiceUrl: null,
    allowPrivate: (env.GRAMMATA_ALLOW_PRIVATE ?? '')
      .split(',')
      .map(each => each.trim())
      .filter(Boolean),
    concurrency: 8,
  };
}
