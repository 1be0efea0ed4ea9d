import type { WorkspaceFiles } from '@grammata/core/workspace';
import { Misuse } from './command';

/** Where the demo and a server of the usual settings are. */
export const USUAL_SERVER = 'http://127.0.0.1:4600';

/** A server that is asked over its API, signed in with GRAMMATA_PASSWORD. */
export class Server {
  private constructor(
    private readonly origin: string,
    private readonly cookie: string,
  ) {}

  /** Signs in; a server that signs in by itself takes no password. Throws Misuse where it is not let in. */
  static async at(address: string): Promise<Server> {
    if (!URL.canParse(address)) throw new Misuse(`“${address}” is not a valid URL.`);
    const origin = address.replace(/\/$/, '');
    const password = process.env.GRAMMATA_PASSWORD;
    const answer = await asked(`${origin}/api/session`, {
      method: password === undefined ? 'GET' : 'POST',
      headers: { 'content-type': 'application/json' },
      ...(password !== undefined && { body: JSON.stringify({ password }) }),
    });
    if (answer.status === 401 || answer.status === 422) throw new Misuse('wrong password in GRAMMATA_PASSWORD.');
    return new Server(origin, (answer.headers.get('set-cookie') ?? '').split(';')[0]!);
  }

  /** What it keeps, as files. */
  async files(): Promise<WorkspaceFiles> {
    return (await this.#call('GET', '/workspace')).body as WorkspaceFiles;
  }

  /** Asks it something with a JSON body; what it refuses is given back with its status. */
  async post(path: string, body: object): Promise<{ status: number; body: unknown }> {
    return this.#call('POST', path, body);
  }

  async #call(method: string, path: string, body?: object): Promise<{ status: number; body: unknown }> {
    const answer = await asked(`${this.origin}/api${path}`, {
      method,
      headers: { cookie: this.cookie, ...(body && { 'content-type': 'application/json' }) },
      ...(body && { body: JSON.stringify(body) }),
    });
    if (answer.status === 401) throw new Misuse('sign-in required: set GRAMMATA_PASSWORD.');
    if (!answer.ok && ![409, 422].includes(answer.status))
      throw new Misuse(`${this.origin} answered ${answer.status}.`);
    return { status: answer.status, body: await answer.json() };
  }
}

const asked = (url: string, init: RequestInit): Promise<Response> =>
  fetch(url, init).catch(() => {
    throw new Misuse(`nothing answers at ${new URL(url).origin}.`);
  });
