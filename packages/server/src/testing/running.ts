import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { createServer, type IncomingMessage, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Config } from '../config';
import { Decoders } from '../decoding';
import { assemble, type Running } from '../start';

export { eventually } from './eventually';

export interface Client {
  running: Running;
  url: string;
  dataDir: string;
  /** Calls the API as the owner; gives back status and JSON. */
  call<T = unknown>(method: string, path: string, body?: unknown): Promise<{ status: number; json: T }>;
  /** Uploads bytes as the owner. */
  upload(path: string, body: BodyInit): Promise<{ status: number }>;
  /** The cookie of the owner's session. */
  cookie(): string;
  stop(): Promise<void>;
}

/** Threads take a moment to start: all servers of a test file use the same, which end with it. */
class SharedDecoders extends Decoders {
  override close(): Promise<void> {
    return Promise.resolve();
  }

  end(): Promise<void> {
    return super.close();
  }
}
let shared: SharedDecoders | null = null;
globalThis.afterAll?.(() => shared?.end());

const migrationsDir = path.resolve(__dirname, '../../migrations');

/** A server of its own on a free port, in a folder of its own, with the owner signed in. For tests. */
export async function startServer(more: Partial<Config> = {}): Promise<Client> {
  const dataDir = more.dataDir ?? mkdtempSync(path.join(tmpdir(), 'grammata-'));
  const config: Config = {
    host: '127.0.0.1',
    port: 0,
    publicUrl: 'http://127.0.0.1',
    dataDir,
    webDir: null,
    migrationsDir,
    demo: false,
    practiceUrl: null,
    allowPrivate: ['127.0.0.1'],
    changesAfter: 200,
    logLevel: 'silent',
    concurrency: 4,
    largestFile: 50_000_000,
    rowsDir: path.join(dataDir, 'rows'),
    mail: null,
    trustProxies: [],
    decoderFile: process.env.GRAMMATA_DECODER ?? 'made by the tests’ setup',
    // A thread takes a second to start, and most tests start a server each.
    ledgerFile: null,
    ...more,
  };
  const decoders = more.decoderFile === undefined ? (shared ??= new SharedDecoders(config.decoderFile)) : undefined;
  const running = await assemble(config, undefined, decoders).listen();
  const url = `http://127.0.0.1:${running.port}`;
  let cookie = '';
  const call: Client['call'] = async (method, place, body) => {
    const answer = await fetch(`${url}/api${place}`, {
      method,
      headers: { 'content-type': 'application/json', cookie },
      body: body === undefined ? undefined : JSON.stringify(body),
    });
    const text = await answer.text();
    cookie = answer.headers.get('set-cookie')?.split(';')[0] ?? cookie;
    return { status: answer.status, json: (text ? JSON.parse(text) : null) as never };
  };
  const upload: Client['upload'] = (place, body) =>
    fetch(`${url}/api${place}`, {
      method: 'POST',
      headers: { 'content-type': 'application/octet-stream', cookie },
      body,
    });
  const { store, setupToken } = running.services;
  const owner = { name: 'Rowan', password: 'withy bridge at dawn' };
  if (store.accounts.isEmpty()) await call('POST', '/setup', { ...owner, token: setupToken.value() });
  else await call('POST', '/session', owner);
  const stop = async () => {
    await running.stop();
    if (!more.dataDir) rmSync(dataDir, { recursive: true, force: true });
  };
  return { running, url, dataDir, call, upload, stop, cookie: () => cookie };
}

/** A server on what another has on disk at this moment, as after a crash of that one. */
export function startAfterCrash({ dataDir }: Client): Promise<Client> {
  const left = mkdtempSync(path.join(tmpdir(), 'grammata-'));
  cpSync(dataDir, left, { recursive: true });
  return startServer({ dataDir: left });
}

interface FakeColumn {
  key: string;
  title: string;
  type: string;
  required?: boolean;
  options?: string[];
}

export interface FakeTarget {
  url: string;
  requests: { method: string; url: string; headers: IncomingMessage['headers']; body: string }[];
  /** What it lists; stays until changed. */
  tables: { tables: { key: string; title: string; columns: FakeColumn[] }[] };
  /** True for one that does not take the credentials with which it is read. */
  refusesReading?: boolean;
  /** The credentials without which its tables can't be read; any will do where none are named. */
  wants?: string;
  /** What it answers next; stays until changed. */
  answer: { status: number; headers?: Record<string, string>; body?: unknown } | 'drop';
  stop(): Promise<void>;
}

const tables: FakeTarget['tables'] = {
  tables: [
    {
      key: 'samples',
      title: 'Samples',
      columns: [
        { key: 'site', title: 'Site', type: 'option', required: true, options: ['AB-07', 'AB-02'] },
        { key: 'ph', title: 'pH', type: 'number' },
      ],
    },
  ],
};

/** A target that lists its tables and records what it is sent. */
export async function startTarget(): Promise<FakeTarget> {
  const target: FakeTarget = {
    url: '',
    requests: [],
    tables,
    answer: { status: 201, body: { no: 1 } },
    stop: async () => undefined,
  };
  const server: Server = createServer((request, response) => {
    let body = '';
    request.on('data', chunk => (body += chunk));
    request.on('end', () => {
      if (request.url === '/tables')
        return void response
          .writeHead(
            target.refusesReading || (target.wants ?? request.headers.authorization) !== request.headers.authorization
              ? 401
              : 200,
            { 'content-type': 'application/json' },
          )
          .end(JSON.stringify(target.tables));
      target.requests.push({ method: request.method!, url: request.url!, headers: request.headers, body });
      if (target.answer === 'drop') return void request.socket.destroy();
      response
        .writeHead(target.answer.status, { 'content-type': 'application/json', ...target.answer.headers })
        .end(JSON.stringify(target.answer.body ?? {}));
    });
  });
  await new Promise<void>(done => server.listen(0, '127.0.0.1', done));
  target.url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  target.stop = () => new Promise(done => (server.closeAllConnections(), server.close(() => done())));
  return target;
}
