import type { Ask } from '@grammata/core/perform';
import { ROUTE_FORMAT, usualTerms } from '@grammata/core/route';
import { asText, type Json, type Submission } from '@grammata/core/submission';
import { delivered, described, roster, rosterOperations, routes, stagesOf, submissions } from '@grammata/core/testing';
import fc from 'fast-check';
import { readSubmission } from '../decoding';
import { newId } from '../ids';
import { newArrival } from '../intake/arrival';
import { json, startAnswering, type Answering, type ReceivedRequest } from '../testing/answering';
import { eventually, startServer, type Client } from '../testing/running';

// What was rehearsed is what goes over HTTP, call by call: random routes (several calls, lookups, repeats, conditions, files)
// to a register that behaves as it is described.

let client: Client;
let register: Answering;
let behaves: ReturnType<typeof described>;

beforeAll(async () => {
  client = await startServer();
  register = await startAnswering((heard, response) => {
    if (heard.url.startsWith('/photos/')) return void response.end(`content of ${heard.url}`);
    const body = heard.headers['content-type']?.includes('json') ? (JSON.parse(heard.body.toString()) as Json) : {};
    const request = { method: heard.method, url: `${roster.baseUrl}${heard.url}`, body } as Ask['request'];
    const told = behaves({ purpose: heard.method === 'GET' ? 'find' : 'create', request } as Ask);
    json(response, 200, 'answer' in told ? told.answer : null);
  });
});
afterAll(async () => {
  await client.stop();
  await register.stop();
});

/** A request as its parts are compared: files by their content. */
async function partsOf(type: string | undefined, body: Buffer): Promise<unknown> {
  if (!type) return body.toString();
  if (type.includes('json')) return JSON.parse(body.toString());
  const form = await new Response(new Uint8Array(body), { headers: { 'content-type': type } }).formData();
  return Promise.all(
    [...form].map(async ([name, value]) => [
      name,
      typeof value === 'string' ? value : [value.name, await value.text()],
    ]),
  );
}

const heardAs = async ({ method, url, headers, body }: ReceivedRequest) => [
  method,
  url,
  await partsOf(headers['content-type'], body),
];

/** What a planned request must be when it arrives. */
function plannedAs({ request }: Ask): unknown[] {
  const place = request.url.slice(roster.baseUrl.length);
  if (request.encoding === 'none') return [request.method, place, ''];
  if (request.encoding !== 'multipart') return [request.method, place, request.body];
  const written = Object.entries(request.body as Record<string, Json>).flatMap(([name, value]) => {
    const found = request.files.filter(each => each.pointer === `/${name}`);
    if (found.length === 0) return [[name, asText(value)]];
    return found.map(each => [name, [each.name, `content of ${new URL(each.file.url!).pathname}`]]);
  });
  return [request.method, place, written];
}

test('the same requests in the same order, the same holds for the same reasons', async () => {
  const { store, ledger, deliveries } = client.running.services;
  const intake = store.intakes.create({ name: 'Reports' });
  const target = store.targets.create({ name: 'Roster', baseUrl: register.url, discoveryPath: '/', secret: null });
  store.targets.update(target.id, { operations: rosterOperations });
  const record = async (submission: Submission) => {
    const arrival = newArrival(intake, {
      id: newId(),
      method: 'POST',
      contentType: null,
      headers: [],
      body: Buffer.from('x'),
      state: 'reading',
    });
    await ledger.takeIn([arrival]);
    const end = { state: 'read' as const, trouble: null, isSure: true, way: null };
    const submissions = [readSubmission(submission, undefined)];
    await ledger.read([{ arrivalId: arrival.id, revision: 0, isAgain: false, from: 0, submissions, end }]);
    return store.arrivals.submissionsOf(arrival.id, 1)[0]!;
  };
  const seen = { requests: 0, held: 0, files: 0 };
  await fc.assert(
    fc.asyncProperty(routes, submissions, async (calls, drawn) => {
      const id = newId();
      const files = drawn.files.map(file => ({
        ...file,
        url: `${register.url}/photos/${encodeURIComponent(file.name)}`,
      }));
      const submission = { ...drawn, id, files };
      const foreseen = delivered(stagesOf(calls), submission, described());
      const row = await record(submission);
      const { id: routeId } = store.routes.create(row.formId, {
        format: ROUTE_FORMAT,
        name: 'R',
        condition: { all: [] },
        calls: calls.map(call => ({ ...call, targetId: target.id })),
        terms: { ...usualTerms, timeZone: 'UTC' },
      });
      store.routes.goLive(routeId);
      behaves = described();
      register.heard.length = 0;
      const version = store.routes.latestVersion(routeId)!;
      const one = { routeId, versionId: version.id, submissionId: row.id, about: '', createdAt: Date.now() };
      const [delivery] = await ledger.queue([one]);
      deliveries.wake();
      const ended = await eventually(
        () => store.deliveries.byId(delivery!.id)!,
        each => ['delivered', 'held', 'dead'].includes(each.state),
      );
      store.routes.remove(routeId);
      const asked = register.heard.filter(each => !each.url.startsWith('/photos/'));
      expect(await Promise.all(asked.map(heardAs))).toEqual(foreseen.asks.map(plannedAs));
      if ('held' in foreseen.ending) {
        expect(ended.state).toBe('held');
        for (const problem of foreseen.ending.held) expect(ended.reason).toContain(problem.message);
        seen.held += 1;
      } else {
        const passedOver = foreseen.ending.done.filter(each => each.what === 'failed').map(each => each.note);
        expect([ended.state, ended.reason === null]).toEqual(['delivered', passedOver.length === 0]);
        for (const note of passedOver) expect(ended.reason).toContain(note);
      }
      seen.requests += asked.length;
      seen.files += foreseen.asks.filter(each => each.request.files.length > 0).length;
    }),
    { numRuns: 120 },
  );
  // All of it was met: it is no test of one of them.
  expect(seen.requests).toBeGreaterThan(50);
  expect(seen.held).toBeGreaterThan(5);
  expect(seen.files).toBeGreaterThan(0);
});
