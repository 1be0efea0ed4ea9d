import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { createServer } from 'node:net';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';

export const root = path.resolve(import.meta.dirname, '../..');

/** A port that nobody uses at the moment. */
export const freePort = (): Promise<number> =>
  new Promise(resolve => {
    const server = createServer();
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address() as AddressInfo;
      server.close(() => resolve(port));
    });
  });

/** The built server in a process of its own, on loopback. */
export class Attacked {
  process: ChildProcess | null = null;
  #cookie = '';

  constructor(
    readonly port: number,
    readonly dataDir: string,
    private readonly env: Record<string, string> = {},
  ) {}

  static async fresh(
    env: Record<string, string> = {},
    dataDir = mkdtempSync(path.join(tmpdir(), 'grammata-attack-')),
  ): Promise<Attacked> {
    const server = new Attacked(await freePort(), dataDir, env);
    await server.start();
    await server.call('POST', '/setup', {
      name: 'Rowan',
      password: 'withy bridge at dawn',
      token: readFileSync(path.join(dataDir, 'setup-token'), 'utf8'),
    });
    return server;
  }

  get url(): string {
    return `http://127.0.0.1:${this.port}`;
  }

  get cookie(): string {
    return this.#cookie;
  }

  /** Starts it; resolves when it listens. */
  start(): Promise<void> {
    const env = {
      ...process.env,
      GRAMMATA_ROOT: root,
      GRAMMATA_DATA: this.dataDir,
      GRAMMATA_PORT: String(this.port),
      GRAMMATA_ALLOW_PRIVATE: '127.0.0.1',
      GRAMMATA_LOG: 'fatal',
      ...this.env,
    };
    const child = spawn(process.execPath, [path.join(root, 'dist/server.mjs')], {
      env,
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    this.process = child;
    return new Promise((resolve, reject) => {
      child.stdout.on('data', text => String(text).includes('listens at') && resolve());
      child.once('exit', code => reject(new Error(`It ended with ${code} before it listened.`)));
    });
  }

  /** True while its process runs. */
  get lives(): boolean {
    return this.process?.exitCode === null && this.process.signalCode === null;
  }

  async kill(): Promise<void> {
    const child = this.process;
    if (!child || !this.lives) return;
    const gone = new Promise(resolve => child.once('exit', resolve));
    child.kill('SIGKILL');
    await gone;
  }

  /** Kilobytes of memory, now or at most so far. */
  memory(what: 'VmRSS' | 'VmHWM'): number {
    const status = readFileSync(`/proc/${this.process!.pid}/status`, 'utf8');
    return Number(new RegExp(`${what}:\\s+(\\d+)`).exec(status)?.[1]);
  }

  async call<T>(method: string, place: string, body?: unknown): Promise<T> {
    const answer = await fetch(`${this.url}/api${place}`, {
      method,
      headers: { 'content-type': 'application/json', cookie: this.#cookie },
      body: body === undefined ? undefined : JSON.stringify(body),
    });
    this.#cookie = answer.headers.get('set-cookie')?.split(';')[0] ?? this.#cookie;
    const text = await answer.text();
    return (text ? JSON.parse(text) : null) as T;
  }
}

/** Asks again until it holds; throws after so many ms. */
export async function until(holds: () => boolean | Promise<boolean>, within: number, what: string): Promise<void> {
  const end = performance.now() + within;
  while (!(await holds())) {
    if (performance.now() > end) throw new Error(`It did not come to hold: ${what}.`);
    await new Promise(resolve => setTimeout(resolve, 50));
  }
}
