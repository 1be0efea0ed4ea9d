import { fork } from 'node:child_process';
import path from 'node:path';
import { usualPace, type Pace } from '@grammata/core/perform';
import { sites } from '@grammata/practice';
import { Agent, request } from 'undici';
import { root, startBuilt, type Built } from './built';

/** Rounds on either side in turn, and requests under way at once. */
const ROUNDS = 3;
const LANES = 8;
/** Bytes of the document that a target may have behind it. */
const LARGE = 3_000_000;

interface Target {
  /** Deliveries a round. */
  count: number;
  baseUrl: string;
  token: string;
  stop(): void;
}

/** A target in a process of its own, which says where it is. */
export function startTarget(program: string, count: number): Promise<Target> {
  const child = fork(path.join(root, 'bench', program), { execArgv: ['--import', 'tsx'], stdio: 'inherit' });
  return new Promise(resolve =>
    child.once('message', (message: Pick<Target, 'baseUrl' | 'token'>) =>
      resolve({ ...message, count, stop: () => child.disconnect() }),
    ),
  );
}

const answers = {
  site: sites[0]!,
  sampled_at: '2026-11-04T07:55:00Z',
  observer: 'Rowan Example',
  observer_email: 'rowan@example.org',
  note: 'Foam at the outfall, more than last week. '.repeat(20),
};

/** An OpenAPI document of the register, as large as those of large systems: one operation that is used, and many others. */
function documentOf(baseUrl: string): string {
  const text = (name: string) => [name, { type: 'string', maxLength: 2000 }];
  const operation = (id: string, description = '') => ({
    post: {
      operationId: id,
      description,
      requestBody: {
        content: {
          'application/json': {
            schema: {
              type: 'object',
              properties: {
                values: { type: 'object', properties: Object.fromEntries(Object.keys(answers).map(text)) },
              },
            },
          },
        },
      },
      responses: { 201: { description: 'made' } },
    },
  });
  const paths: Record<string, object> = { '/tables/samples/records': operation('addSample') };
  const others = 1900;
  const filler = 'd'.repeat(Math.round(LARGE / others) - JSON.stringify(operation('other')).length);
  for (let n = 0; n < others; n++) paths[`/others/${n}`] = operation(`other${n}`, filler);
  return JSON.stringify({
    openapi: '3.1.0',
    info: { title: 'Bench', version: '1' },
    servers: [{ url: baseUrl }],
    paths,
  });
}

/** The same requests in a bare loop, with the same client and as many at once; a second. */
async function bareRate({ baseUrl, token, count }: Target): Promise<number> {
  const agent = new Agent({ connections: 32, keepAliveTimeout: 10_000 });
  const body = JSON.stringify({ values: answers });
  let sent = 0;
  const lane = async () => {
    while (sent < count) {
      const answer = await request(`${baseUrl}/tables/samples/records`, {
        method: 'POST',
        headers: {
          'content-type': 'application/json',
          accept: 'application/json',
          authorization: `Bearer ${token}`,
          'idempotency-key': `bench-${started}-${sent++}`,
        },
        body,
        dispatcher: agent,
      });
      if (answer.statusCode !== 201) throw new Error(`It answered ${answer.statusCode}.`);
      await answer.body.text();
    }
  };
  const started = performance.now();
  await Promise.all(Array.from({ length: LANES }, lane));
  const rate = (1000 * count) / (performance.now() - started);
  await agent.close();
  return rate;
}

const until = async (every: number, holds: () => Promise<boolean>): Promise<void> => {
  while (!(await holds())) await new Promise(resolve => setTimeout(resolve, every));
};

/** A route from an intake to the target; what is posted while it is paused gathers until it is resumed. */
export async function routeTo(
  built: Built,
  { baseUrl, token }: Target,
  isDocumented: boolean,
  pace: Partial<Pace> = {},
) {
  const intake = await built.call<{ id: string; address: string }>('POST', '/intakes', { name: 'Delivered' });
  const post = async (count: number) => {
    const agent = new Agent({ connections: 16 });
    let sent = 0;
    const lane = async () => {
      while (sent < count) {
        const body = JSON.stringify({ ...answers, submission_id: `${performance.now()}-${sent++}` });
        const headers = { 'content-type': 'application/json' };
        await (await request(intake.address, { method: 'POST', headers, body, dispatcher: agent })).body.dump();
      }
    };
    await Promise.all(Array.from({ length: 16 }, lane));
    await agent.close();
  };
  await post(1);
  let formId: string | null = null;
  await until(100, async () => {
    const [newest] = await built.call<{ formId: string | null }[]>('GET', `/intakes/${intake.id}/arrivals?limit=1`);
    formId = newest?.formId ?? null;
    return formId !== null;
  });
  const target = await built.call<{ id: string }>('POST', '/targets', {
    name: 'Bench',
    baseUrl,
    token,
    ...(pace.perSecond && { pace: { ...usualPace, ...pace } }),
    ...(isDocumented && { reads: 'openapi', document: documentOf(baseUrl) }),
  });
  const route = await built.call<{
    id: string;
    revision: number;
    draft: { calls: { lines: { to: string; source: unknown }[] }[] };
  }>('POST', '/routes', {
    name: 'Bench',
    formId,
    targetId: target.id,
    operationId: isDocumented ? 'addSample' : 'create:samples',
  });
  for (const line of route.draft.calls[0]!.lines) {
    const key = line.to.split('.').at(-1)!;
    if (key in answers) line.source = { from: 'field', field: key };
  }
  await built.call('PUT', `/routes/${route.id}/draft`, { definition: route.draft, revision: route.revision });
  const counted = async (state: 'waiting' | 'delivered') => {
    const place = `/deliveries?routeId=${route.id}&limit=1`;
    const { counts } = await built.call<{ counts: Record<string, number> }>('GET', place);
    if (counts.held! + counts.dead! > 0) throw new Error('A delivery failed.');
    return counts[state]!;
  };
  const waiting = (count: number) => until(100, async () => (await counted('waiting')) === count);
  return { id: route.id, post, counted, waiting };
}

/** Requests a second of the best of several rounds in turn: deliveries, and the bare loop. */
async function rates(target: Target, isDocumented: boolean): Promise<number> {
  const built = await startBuilt({ GRAMMATA_ALLOW_PRIVATE: '127.0.0.1' });
  let [ours, bare] = [0, 0];
  try {
    const route = await routeTo(built, target, isDocumented);
    for (let round = 1; round <= ROUNDS; round++) {
      await built.call('POST', `/routes/${route.id}/live`);
      await built.call('POST', `/routes/${route.id}/pause`);
      await route.post(target.count);
      await route.waiting(target.count);
      await built.call('POST', `/routes/${route.id}/live`);
      const started = performance.now();
      await until(100, async () => (await route.counted('delivered')) === round * target.count);
      ours = Math.max(ours, (1000 * target.count) / (performance.now() - started));
      bare = Math.max(bare, await bareRate(target));
    }
    if (process.env.BENCH_SAYS) console.log({ ours, bare });
    return ours / bare;
  } finally {
    built.stop();
  }
}

/**
 * Deliveries a second to one target against the requests a second of a bare loop with the same bodies, client and number at
 * once: to the practice register, also with an OpenAPI document of 3 MB, and to a server that does nothing but answer.
 */
export async function deliveryFigures(): Promise<{ plain: number; documented: number; toNothing: number }> {
  const register = await startTarget('practiceTarget.ts', 200);
  const plain = await rates(register, false);
  register.stop();
  const again = await startTarget('practiceTarget.ts', 200);
  const documented = await rates(again, true);
  again.stop();
  const nothing = await startTarget('deliveryTarget.mjs', 3000);
  const toNothing = await rates(nothing, true);
  nothing.stop();
  return { plain, documented, toNothing };
}
