import {
  DraftInput,
  IntakeInput,
  SampleInput,
  TargetInput,
  type IntakeView,
  type RouteView,
  type TargetView,
} from '@grammata/contract';
import { fuzzApi } from '../testing/fuzz';
import { eventually, startServer, startTarget, type Client, type FakeTarget } from '../testing/running';

let client: Client;
let target: FakeTarget;
beforeAll(async () => {
  [client, target] = [await startServer(), await startTarget()];
});
afterAll(async () => {
  await client.stop();
  await target.stop();
});

test('whatever is sent to any route of the API, none fails inside', async () => {
  const { json: intake } = await client.call<IntakeView>('POST', '/intakes', { name: 'Fuzzed' });
  await fetch(`${client.url}${new URL(intake.address).pathname}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: '{"site":"AB-07","ph":7.4}',
  });
  const arrival = await eventually(
    async () =>
      (await client.call<{ id: string; formId: string | null }[]>('GET', `/intakes/${intake.id}/arrivals`)).json[0],
    each => Boolean(each?.formId),
  );
  const { json: made } = await client.call<TargetView>('POST', '/targets', {
    name: 'T',
    baseUrl: target.url,
    discoveryPath: '/tables',
  });
  const { json: route } = await client.call<RouteView>('POST', '/routes', {
    name: 'R',
    formId: arrival!.formId,
    targetId: made.id,
    operationId: 'create:samples',
  });
  const [sample] = (await client.call<{ samples: { id: string }[] }>('GET', `/forms/${arrival!.formId}/samples`)).json
    .samples;
  const { cookie } = client;
  const { failed, statuses } = await fuzzApi(
    {
      async send(method, path, body) {
        const answer = await fetch(`${client.url}/api${path}`, {
          method,
          headers: { 'content-type': 'application/json', cookie: cookie() },
          body,
        });
        return { status: answer.status, text: await answer.text() };
      },
      known: {
        intake: intake.id,
        arrival: arrival!.id,
        form: arrival!.formId!,
        target: made.id,
        route: route.id,
        sample: sample!.id,
      },
      like: new Map<new () => object, unknown>([
        [
          IntakeInput,
          {
            name: 'Fuzzed',
            reply: 'accepted',
            sizeLimit: 5000,
            verification: { kind: 'hmac', name: 'X-Sig', secrets: ['abcdefgh'] },
            feed: { url: 'http://127.0.0.1:9/', every: '0 * * * *', on: true },
          },
        ],
        [
          TargetInput,
          {
            name: 'T',
            baseUrl: target.url,
            reads: 'tables',
            discoveryPath: '/tables',
            auth: { kind: 'bearer' },
            patience: { connect: 5, firstByte: 5, whole: 5 },
          },
        ],
        [DraftInput, route.draft],
        [SampleInput, { name: 'x', kept: true }],
      ]),
    },
    Number(process.env.TIMES ?? 1200),
    Number(process.env.SEED ?? 20261126),
  );
  expect(failed).toEqual([]);
  // It was not refused at the door: some was taken, some refused for what it was.
  expect((statuses.get(200) ?? 0) + (statuses.get(201) ?? 0)).toBeGreaterThan(100);
  expect(statuses.get(422) ?? 0).toBeGreaterThan(100);
}, 120_000);
