import { fuzzApi } from '../testing/fuzz';
import { startServer, startTarget, type Client, type FakeTarget } from '../testing/running';

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
  const [times, seed] = [Number(process.env.TIMES ?? 700), Number(process.env.SEED ?? 20261126)];
  const { url, cookie } = client;
  const { failed, statuses } = await fuzzApi({ url, cookie, targetUrl: target.url }, times, seed);
  expect(failed).toEqual([]);
  // It was not refused at the door: some was taken, some refused for what it was.
  expect((statuses.get(200) ?? 0) + (statuses.get(201) ?? 0)).toBeGreaterThan(60);
  expect(statuses.get(422) ?? 0).toBeGreaterThan(60);
});
