import {
  DraftInput,
  FormInput,
  IntakeInput,
  LearnInput,
  PinsInput,
  RehomeInput,
  ResendInput,
  RouteInput,
  RunInput,
  SelectionInput,
  SendRecordedInput,
  SampleInput,
  SendInput,
  SignInInput,
  SetupInput,
  TargetInput,
  VariantInput,
} from '@grammata/contract';
import { percentEncoded } from '@grammata/core/submission';
import { randomFrom } from '@grammata/core/testing';
import { draftOf } from './draftOf';
import { eventually } from './eventually';

/** Every route of the API that takes something, with the class of its body; `:x` stands for identifiers that are there. */
export const fuzzedRoutes: [method: string, path: string, body: (new () => object) | null][] = [
  ['POST', '/setup', SetupInput],
  ['POST', '/session', SignInInput],
  ['GET', '/session', null],
  ['GET', '/desk', null],
  ['GET', '/practice', null],
  ['GET', '/intakes', null],
  ['POST', '/intakes', IntakeInput],
  ['GET', '/intakes/:intake', null],
  ['PATCH', '/intakes/:intake', IntakeInput],
  ['DELETE', '/intakes/:nothing', null],
  ['GET', '/intakes/:intake/arrivals?before=:any&limit=:any', null],
  ['POST', '/intakes/:intake/send', SendInput],
  ['POST', '/intakes/:intake/upload?name=:any', null],
  ['POST', '/intakes/:intake/pins/preview?arrival=:any', PinsInput],
  ['PUT', '/intakes/:intake/pins', PinsInput],
  ['POST', '/intakes/:intake/feed/read', null],
  ['GET', '/arrivals/:arrival', null],
  ['POST', '/arrivals/:arrival/read', null],
  ['POST', '/learn/landmarks', LearnInput],
  ['GET', '/strays', null],
  ['DELETE', '/strays', null],
  ['GET', '/forms', null],
  ['GET', '/forms/:form', null],
  ['PATCH', '/forms/:form', FormInput],
  ['GET', '/forms/:form/weeks', null],
  ['GET', '/forms/:form/export/:any', null],
  ['GET', '/forms/:form/samples?limit=:any', null],
  ['GET', '/forms/:form/samples?before=:any', null],
  ['GET', '/forms/:form/samples?search=:any', null],
  ['GET', '/forms/:form/columns?limit=:any', null],
  ['GET', '/forms/:form/columns?since=:any', null],
  ['GET', '/find?search=:any', null],
  ['GET', '/routes/:route/versions', null],
  ['POST', '/routes/:route/rehome', RehomeInput],
  ['POST', '/routes/:route/rehome/take', RehomeInput],
  ['POST', '/routes/:route/copy', null],
  ['POST', '/forms/:form/variants', VariantInput],
  ['PUT', '/variants/:any', VariantInput],
  ['DELETE', '/variants/:any', null],
  ['PATCH', '/samples/:sample', SampleInput],
  ['GET', '/work?intake=:any', null],
  ['POST', '/work/:any/stop', null],
  ['GET', '/targets', null],
  ['POST', '/targets', TargetInput],
  ['GET', '/targets/:target', null],
  ['PATCH', '/targets/:target', TargetInput],
  ['POST', '/targets/:target/probe', null],
  ['GET', '/targets/:target/choices?operation=:any', null],
  ['POST', '/targets/:target/read', null],
  ['GET', '/routes', null],
  ['POST', '/routes', RouteInput],
  ['GET', '/routes/:route', null],
  ['PUT', '/routes/:route/draft', DraftInput],
  ['POST', '/routes/:route/live', null],
  ['POST', '/routes/:route/pause', null],
  ['POST', '/routes/:route/run', RunInput],
  ['POST', '/routes/:route/recorded/preview', SelectionInput],
  ['POST', '/routes/:route/recorded', SendRecordedInput],
  ['GET', '/routes/:route/files', null],
  ['GET', '/routes/:route/refusals', null],
  ['GET', '/deliveries?state=:any&routeId=:any&search=:any&offset=:any&limit=:any', null],
  ['GET', '/deliveries/:any', null],
  ['POST', '/deliveries/resend', ResendInput],
];

const odd: unknown[] = [
  null,
  true,
  false,
  0,
  -1,
  1.5,
  1e308,
  -1e308,
  '',
  ' ',
  '..',
  '__proto__',
  'constructor',
  '%',
  '\u0000',
  '\ud800',
  '✓',
  'x'.repeat(5000),
  'https://[',
  'https://✓.example.org/ü',
  'smtp://[',
  'http://[fe80::1%25eth0]/',
  'file://..',
  'javascript:alert(1)',
  '0 0 31 2 *',
  '/a/b',
  [],
  [null],
  [[]],
  [{}],
  {},
  { constructor: 1 },
  { __proto__: 1 },
  { toString: null },
  ['a', 1, null],
  { kind: 'basic' },
  { kind: 'oauth', tokenUrl: 'x' },
  { all: [] },
  { from: 'field', field: 7 },
  2 ** 53,
  '9'.repeat(400),
  Array.from({ length: 2000 }, () => 'a'),
];

const written = (value: unknown): string => (typeof value === 'string' ? value : JSON.stringify(value));

type Random = () => number;
const one = <T>(all: readonly T[], random: Random): T => all[Math.floor(random() * all.length)]!;

const deep = (levels: number): unknown => {
  let value: unknown = 1;
  for (let at = 0; at < levels; at++) value = at % 2 ? [value] : { a: value };
  return value;
};

/** A body that is nearly right: the class's own defaults, or what is there already, with some of it replaced. */
export function oddBody(type: new () => object, like: unknown, random: Random): unknown {
  if (random() < 0.06) return structuredClone(one([...odd, deep(1000)], random));
  const whole = structuredClone(
    typeof like === 'object' && like !== null && random() < 0.6 ? like : { ...new type() },
  ) as Record<string, unknown>;
  const spoil = (place: Record<string, unknown> | unknown[], depth: number): void => {
    const keys = Object.keys(place);
    const key = keys.length > 0 ? one(keys, random) : 'name';
    const inner = (place as Record<string, unknown>)[key];
    if (depth > 0 && typeof inner === 'object' && inner !== null && random() < 0.6)
      return spoil(inner as Record<string, unknown>, depth - 1);
    if (random() < 0.15) delete (place as Record<string, unknown>)[key];
    else (place as Record<string, unknown>)[key] = random() < 0.03 ? deep(200) : structuredClone(one(odd, random));
  };
  for (let times = 1 + Math.floor(random() * 3); times > 0; times--) spoil(whole, 6);
  return whole;
}

export interface FuzzTarget {
  /** The address of the server. */
  url: string;
  /** The cookie of its owner's session. */
  cookie(): string;
  /** An address that a target may have. */
  targetUrl: string;
}

const intakeLike = {
  name: 'Fuzzed',
  reply: 'accepted',
  sizeLimit: 5000,
  verification: { kind: 'hmac', name: 'X-Sig', secrets: ['abcdefgh'] },
  feed: { url: 'http://127.0.0.1:9/', every: '0 * * * *', on: true },
};

/** What is fuzzed has to be there: an intake with something that arrived, a target and a route between them. */
async function furnished(call: <T>(method: string, path: string, body?: unknown) => Promise<T>, targetUrl: string) {
  const intake = await call<{ id: string; address: string }>('POST', '/intakes', { name: 'Fuzzed' });
  await call('POST', `/intakes/${intake.id}/send`, { body: '{"site":"AB-07","ph":7.4}' });
  const arrivals = () => call<{ id: string; formId: string | null }[]>('GET', `/intakes/${intake.id}/arrivals`);
  const [arrival] = await eventually(arrivals, ([newest]) => Boolean(newest?.formId), 20_000);
  const form = arrival!.formId!;
  const target = await call<{ id: string; operations: { id: string }[] }>('POST', '/targets', {
    name: 'T',
    baseUrl: targetUrl,
    reads: 'example',
    discoveryPath: '/tables',
    document: '{"site":"AB-07","ph":7}',
  });
  const operationId = target.operations[0]!.id;
  const draft = { name: 'R', formId: form, targetId: target.id, operationId };
  const route = await call<{ id: string; draft: object; revision: number }>('POST', '/routes', draft);
  const { samples } = await call<{ samples: { id: string }[] }>('GET', `/forms/${form}/samples`);
  const patience = { connect: 5, firstByte: 5, whole: 5 };
  const targetLike = {
    name: 'T',
    baseUrl: targetUrl,
    reads: 'tables',
    discoveryPath: '/tables',
    auth: { kind: 'bearer' },
  };
  return {
    /** Identifiers of what is there, by their names in the paths. */
    known: {
      intake: intake.id,
      arrival: arrival!.id,
      form,
      target: target.id,
      route: route.id,
      sample: samples[0]!.id,
    } as Record<string, string>,
    /** Bodies that are right, by their class. */
    like: new Map<new () => object, unknown>([
      [IntakeInput, intakeLike],
      [TargetInput, { ...targetLike, patience }],
      [DraftInput, draftOf(route)],
      [SampleInput, { name: 'x', kept: true }],
    ]),
  };
}

/** Sends so many odd requests; gives back those that were answered with 500 or not at all, and how many there were of each status. */
export async function fuzzApi({ url, cookie, targetUrl }: FuzzTarget, times: number, seed: number) {
  const send = async (method: string, path: string, body: string | undefined) => {
    const headers = { 'content-type': 'application/json', cookie: cookie() };
    const answer = await fetch(`${url}/api${path}`, { method, headers, body });
    return { status: answer.status, text: await answer.text() };
  };
  const { known, like } = await furnished(async (method, path, body) => {
    const { text } = await send(method, path, body === undefined ? undefined : JSON.stringify(body));
    return JSON.parse(text) as never;
  }, targetUrl);
  const random = randomFrom(seed);
  const failed: string[] = [];
  const statuses = new Map<number, number>();
  for (let at = 0; at < times; at++) {
    const [method, template, type] = fuzzedRoutes[at % fuzzedRoutes.length]!;
    const path = template.replace(/:(\w+)/g, (_, name: string) =>
      random() < 0.9 && known[name] ? known[name] : percentEncoded(written(one(odd, random)).slice(0, 300)),
    );
    const body = type ? JSON.stringify(oddBody(type, like.get(type), random)) : method === 'POST' ? '{}' : undefined;
    try {
      const { status, text } = await send(method, path, body);
      statuses.set(status, (statuses.get(status) ?? 0) + 1);
      if (status >= 500 && status !== 502 && status !== 503)
        failed.push(`${method} ${path} ${body?.slice(0, 400)} → ${status} ${text.slice(0, 200)}`);
    } catch (error) {
      failed.push(`${method} ${path} ${body?.slice(0, 400)} → ${(error as Error).message}`);
    }
  }
  return { failed, statuses };
}
