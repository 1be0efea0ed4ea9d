import type { IntakeView, ProblemDetails, RouteView, SamplesView, TargetView } from '@grammata/contract';
import { draftOf } from '../testing/draftOf';
import { withRoute } from '../testing/routes';
import { startServer, startTarget, type Client, type FakeTarget } from '../testing/running';

// Two people at the settings of one thing: what one of them did not see is not overwritten unseen.

let client: Client;
let target: FakeTarget;
beforeAll(async () => {
  [client, target] = [await startServer(), await startTarget()];
});
afterAll(async () => {
  await client.stop();
  await target.stop();
});

const intake = async () =>
  (await client.call<IntakeView>('POST', '/intakes', { name: `Sampling ${Math.random()}`, keepDays: 30 })).json;
const feed = { url: 'http://127.0.0.1:9/rows', on: true, every: '0 * * * *', auth: 'none' };

test.each<[string, object, object, number, string[]]>([
  ['the same part', { keepDays: 60 }, { keepDays: 90 }, 409, ['keepDays']],
  ['another part', { keepDays: 60 }, { sameWithin: 9 }, 200, []],
  ['one of two parts', { keepDays: 60 }, { sameWithin: 9, keepDays: 9 }, 409, ['keepDays']],
  [
    'a list',
    { allowedOrigins: ['https://a.example'] },
    { allowedOrigins: ['https://b.example'] },
    409,
    ['allowedOrigins'],
  ],
  [
    'a rule',
    { verification: { kind: 'header', name: 'x-token', secrets: ['fern-hollow-7'] } },
    { verification: null },
    409,
    ['verification'],
  ],
])('an intake: somebody else changed %s', async (_, theirs, mine, status, fields) => {
  const shown = await intake();
  expect((await client.call('PATCH', `/intakes/${shown.id}`, theirs)).status).toBe(200);
  const parts = Object.fromEntries(Object.keys(mine).map(name => [name, shown[name as keyof IntakeView]]));
  const answer = await client.call<ProblemDetails>('PATCH', `/intakes/${shown.id}`, { ...mine, shown: parts });
  expect(answer.status).toBe(status);
  expect((answer.json.errors ?? []).map(each => each.field)).toEqual(fields);
  const now = (await client.call<IntakeView>('GET', `/intakes/${shown.id}`)).json;
  expect(now).toMatchObject(status === 409 ? { sameWithin: shown.sameWithin } : mine);
});

test.each(['toString', 'constructor', '__proto__', 'nothing'])(
  'what is no setting, %s, is refused and breaks nothing',
  async name => {
    const { id } = await intake();
    const shown = JSON.parse(`{${JSON.stringify(name)}:{"a":1}}`) as object;
    expect((await client.call('PATCH', `/intakes/${id}`, { keepDays: 9, shown })).status).toBe(409);
  },
);

test('what a feed did by itself is nothing that somebody changed', async () => {
  const { id } = await intake();
  const shown = (await client.call<IntakeView>('PATCH', `/intakes/${id}`, { feed })).json;
  await client.call('POST', `/intakes/${id}/feed/read`);
  expect((await client.call<IntakeView>('GET', `/intakes/${id}`)).json.feed!.reading).not.toEqual(shown.feed!.reading);
  const answer = await client.call('PATCH', `/intakes/${id}`, { feed: null, shown: { feed: shown.feed } });
  expect(answer.status).toBe(200);
});

test('a target: its address was moved by somebody else', async () => {
  const made = { name: 'Register', baseUrl: target.url, discoveryPath: '/tables' };
  const shown = (await client.call<TargetView>('POST', '/targets', made)).json;
  await client.call('PATCH', `/targets/${shown.id}`, { name: 'The register' });
  const rename = (name: string) =>
    client.call<ProblemDetails>('PATCH', `/targets/${shown.id}`, { name: 'Samples', shown: { name } });
  const refused = await rename('Register');
  expect(refused).toMatchObject({
    status: 409,
    json: { errors: [{ field: 'name', message: expect.stringContaining('“The register”') }] },
  });
  // Shown what it is now, it is changed.
  expect((await rename('The register')).status).toBe(200);
});

describe('a draft that a colleague edited after it was shown', () => {
  test.each<[string, (sampleId: string) => object]>([
    ['live', () => ({})],
    ['run', sampleId => ({ sampleId, send: true })],
    ['steps', sampleId => ({ sampleId })],
    ['overview', () => ({})],
    ['batch', sampleId => ({ sampleId, ideas: ['recorded'], proofs: false })],
  ])('%s is refused, and done with what is shown now', async (deed, input) => {
    const own = await startServer();
    const { route, formId } = await withRoute(own, target, [{ submission_id: `s-${deed}`, site: 'AB-07', ph: 7.4 }]);
    const { samples } = (await own.call<SamplesView>('GET', `/forms/${formId}/samples`)).json;
    const definition = { ...route.draft, name: `${route.draft.name}, by a colleague` };
    const { json: edited } = await own.call<RouteView>('PUT', `/routes/${route.id}/draft`, {
      ...draftOf(route),
      definition,
    });
    const act = (revision: number) =>
      own.call<ProblemDetails>('POST', `/routes/${route.id}/${deed}`, { ...input(samples[0]!.id), revision });
    const [sent, before] = [target.requests.length, (await own.call<RouteView>('GET', `/routes/${route.id}`)).json];
    expect(await act(route.revision)).toMatchObject({
      status: 409,
      json: { title: expect.stringContaining('edited elsewhere') },
    });
    // Nothing came of it.
    expect(target.requests.length).toBe(sent);
    expect((await own.call<RouteView>('GET', `/routes/${route.id}`)).json).toEqual(before);
    expect((await act(edited.revision)).status).toBeLessThan(300);
    await own.stop();
  });
});
