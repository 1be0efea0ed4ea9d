import { createHash } from 'node:crypto';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { Attacked, until } from './server';

/** What a target that looks closely saw over all rounds. */
export interface Seen {
  /** Records by what identifies them, with how often each was made. */
  made: Map<string, number>;
  /** Files by the record they were added to. */
  files: Map<string, number>;
  /** Keys that came with two different requests. */
  keysUsedTwice: string[];
}

const document = {
  openapi: '3.1.0',
  info: { title: 'Counter', version: '1' },
  paths: {
    '/people': {
      get: {
        operationId: 'find',
        parameters: [{ in: 'query', name: 'n', schema: { type: 'string' } }],
        responses: {
          200: {
            description: 'ok',
            content: {
              'application/json': {
                schema: {
                  type: 'object',
                  properties: {
                    people: {
                      type: 'array',
                      items: { type: 'object', properties: { id: { type: 'string' }, n: { type: 'string' } } },
                    },
                  },
                },
              },
            },
          },
        },
      },
      post: {
        operationId: 'make',
        requestBody: {
          content: {
            'application/json': {
              schema: {
                type: 'object',
                required: ['n'],
                properties: { n: { type: 'string' }, note: { type: 'string' } },
              },
            },
          },
        },
        responses: {
          201: {
            description: 'ok',
            content: { 'application/json': { schema: { type: 'object', properties: { id: { type: 'string' } } } } },
          },
        },
      },
    },
    '/people/{id}': {
      patch: {
        operationId: 'change',
        parameters: [{ in: 'path', name: 'id', required: true, schema: { type: 'string' } }],
        requestBody: {
          content: {
            'application/json': {
              schema: { type: 'object', properties: { n: { type: 'string' }, note: { type: 'string' } } },
            },
          },
        },
        responses: { 200: { description: 'ok' } },
      },
    },
    '/people/{id}/files': {
      post: {
        operationId: 'attach',
        parameters: [{ in: 'path', name: 'id', required: true, schema: { type: 'string' } }],
        requestBody: {
          content: {
            'multipart/form-data': {
              schema: { type: 'object', properties: { file: { type: 'string', format: 'binary' } } },
            },
          },
        },
        responses: { 201: { description: 'ok' } },
      },
    },
  },
};

/**
 * A target that honours idempotency keys as draft-ietf-httpapi-idempotency-key-header asks: the same key with the same
 * request gets the same answer, with another one 422. It finds people, makes and changes them, and takes a file for each.
 */
async function closeTarget(): Promise<{ server: Server; base: string; seen: Seen }> {
  const seen: Seen = { made: new Map(), files: new Map(), keysUsedTwice: [] };
  const known = new Map<string, { print: string; answer: string }>();
  const people = new Map<string, string>();
  const server = createServer((request, response) => {
    const chunks: Buffer[] = [];
    request.on('error', () => undefined);
    request.on('data', (chunk: Buffer) => chunks.push(chunk));
    request.on('end', () => {
      const body = Buffer.concat(chunks);
      const { pathname, searchParams } = new URL(request.url!, 'http://x');
      const answer = (status: number, value: unknown) =>
        void response.writeHead(status, { 'content-type': 'application/json' }).end(JSON.stringify(value));
      if (request.method === 'GET') {
        const n = searchParams.get('n') ?? '';
        return answer(200, { people: people.has(n) ? [{ id: people.get(n), n }] : [] });
      }
      const key = String(request.headers['idempotency-key']);
      const print = createHash('sha256').update(`${request.method} ${request.url}\n`).update(body).digest('hex');
      const before = known.get(key);
      if (before && before.print !== print) {
        seen.keysUsedTwice.push(key);
        return answer(422, { title: 'This key was used with another request.' });
      }
      if (before) return answer(200, JSON.parse(before.answer));
      const said = (value: unknown) => {
        known.set(key, { print, answer: JSON.stringify(value) });
        answer(201, value);
      };
      if (pathname.endsWith('/files')) {
        const id = pathname.split('/')[2]!;
        seen.files.set(id, (seen.files.get(id) ?? 0) + 1);
        return said({});
      }
      if (request.method === 'PATCH') return said({ id: pathname.split('/')[2] });
      const { n } = JSON.parse(body.toString()) as { n: string };
      seen.made.set(n, (seen.made.get(n) ?? 0) + 1);
      people.set(n, `P${people.size + 1}`);
      return said({ id: people.get(n) });
    });
  });
  await new Promise<void>(done => server.listen(0, '127.0.0.1', done));
  return { server, base: `http://127.0.0.1:${(server.address() as AddressInfo).port}`, seen };
}

export interface KillFigures {
  rounds: number;
  acknowledged: number;
  lost: string[];
  twice: string[];
  filesLost: number;
  filesTwice: number;
  keysUsedTwice: number;
}

/**
 * Kills the server with SIGKILL at full load, again and again: submissions with files, a route of two calls that finds first
 * and then adds the file to what was found or made. Everything that was acknowledged has to be there once.
 */
export async function killRounds(rounds: number, least = 40): Promise<KillFigures> {
  const target = await closeTarget();
  const attacked = await Attacked.fresh();
  try {
    const intake = await attacked.call<{ id: string; address: string }>('POST', '/intakes', { name: 'Load' });
    const send = (n: string) => {
      const form = new FormData();
      form.append('n', n);
      form.append('note', 'x'.repeat(200));
      form.append('photo', new File([n.repeat(2000)], 'a.bin', { type: 'application/octet-stream' }));
      return fetch(intake.address, { method: 'POST', body: form });
    };
    await send('first');
    const forms = () => attacked.call<{ id: string; submissions: number }[]>('GET', '/forms');
    await until(async () => (await forms())[0]?.submissions === 1, 20_000, 'the first one is read');
    const made = await attacked.call<{ id: string; operations: { id: string; path: string; method: string }[] }>(
      'POST',
      '/targets',
      {
        name: 'Counter',
        baseUrl: target.base,
        reads: 'openapi',
        discoveryPath: '/',
        document: JSON.stringify(document),
        auth: { kind: 'none' },
      },
    );
    const idOf = (method: string, path: string) =>
      made.operations.find(each => each.method === method && each.path === path)!.id;
    const route = await attacked.call<{
      id: string;
      revision: number;
      draft: { calls: { id: string; lines: object[]; find?: object }[] };
    }>('POST', '/routes', {
      name: 'Load',
      formId: (await forms())[0]!.id,
      targetId: made.id,
      operationId: idOf('POST', '/people'),
    });
    const line = (to: string, field: string) => ({
      id: `l-${to}`,
      to,
      source: { from: 'field', field },
      cleaning: [],
      whenBlank: 'leaveOut',
      whenProblem: 'stop',
      fallback: '',
    });
    const [first] = route.draft.calls;
    Object.assign(first!, {
      lines: [line('n', 'n'), line('note', 'note')],
      find: {
        operationId: idOf('GET', '/people'),
        line: line('n', 'n'),
        list: '/people',
        equals: '/n',
        whenNone: 'create',
        whenSeveral: 'hold',
        update: { operationId: idOf('PATCH', '/people/{id}'), to: 'id', from: '/id' },
      },
    });
    route.draft.calls.push({
      id: 'files',
      targetId: made.id,
      operationId: idOf('POST', '/people/{id}/files'),
      lines: [line('id', `@answer/${first!.id}/id`), line('file', 'photo')],
    } as never);
    await attacked.call('PUT', `/routes/${route.id}/draft`, {
      definition: route.draft,
      revision: route.revision,
    });
    await attacked.call('POST', `/routes/${route.id}/live`);

    const acknowledged: string[] = [];
    for (let round = 0; round < rounds; round++) {
      let running = true;
      const sender = async (lane: number) => {
        for (let each = 0; running; each++) {
          const n = `${round}-${lane}-${each}`;
          const answer = await send(n).catch(() => null);
          if (answer?.status === 202) acknowledged.push(n);
        }
      };
      const before = acknowledged.length;
      const lanes = Promise.all(Array.from({ length: 8 }, (_, lane) => sender(lane)));
      await until(() => acknowledged.length - before > least, 30_000, 'enough were acknowledged');
      await attacked.kill();
      running = false;
      await lanes;
      await attacked.start();
    }
    const isDelivered = async () => {
      const { counts } = await attacked.call<{ counts: Record<string, number> }>('GET', '/deliveries?limit=1');
      return counts.waiting! + counts.sending! === 0;
    };
    /** Every arrival, not only the newest: what was set aside may be old by now. */
    const isRead = async () => {
      for (let before = ''; ;) {
        const page = await attacked.call<{ id: string; state: string }[]>(
          'GET',
          `/intakes/${intake.id}/arrivals?limit=200${before && `&before=${before}`}`,
        );
        if (page.some(each => each.state !== 'read' && each.state !== 'unread')) return false;
        if (page.length < 200) return true;
        before = page.at(-1)!.id;
      }
    };
    // What is read queues what is delivered: it is looked at first.
    const settled = async () => (await isRead()) && (await isDelivered());
    await until(settled, 240_000, 'everything was delivered');
    // What was being read at three ends is set aside, and told; somebody who sees it has it read again.
    for (let tries = 0; tries < rounds; tries++) {
      const { lastUnread } = await attacked.call<{ lastUnread: { id: string } | null }>('GET', '/desk');
      if (!lastUnread) break;
      await attacked.call('POST', `/arrivals/${lastUnread.id}/read`);
      await until(settled, 60_000, 'what was set aside is delivered');
    }
    const { made: people, files, keysUsedTwice } = target.seen;
    return {
      rounds,
      acknowledged: acknowledged.length,
      lost: acknowledged.filter(n => !people.has(n)),
      twice: [...people].filter(([, times]) => times > 1).map(([n]) => n),
      filesLost: people.size - files.size,
      filesTwice: [...files.values()].filter(times => times > 1).length,
      keysUsedTwice: keysUsedTwice.length,
    };
  } finally {
    await attacked.kill();
    target.server.closeAllConnections();
    target.server.close();
  }
}
