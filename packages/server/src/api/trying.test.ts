import type {
  ArrivalSummary,
  AsBuilderView,
  BatchView,
  IntakeView,
  NamedSample,
  ProofView,
  RouteView,
  WalkView,
} from '@grammata/contract';
import { draftOf } from '../testing/draftOf';
import { eventually } from '../testing/eventually';
import { post } from '../testing/forms';
import { withRoute } from '../testing/routes';
import { startServer, startTarget, type Client, type FakeTarget } from '../testing/running';

// A route is tried out: a request at a time, in batches, and from the intake on.

let client: Client;
let target: FakeTarget;
let intake: IntakeView;
let route: RouteView;
let sampleId: string;
let formId: string;

beforeEach(async () => {
  [client, target] = [await startServer(), await startTarget()];
  ({ intake, formId, route } = await withRoute(client, target, [
    { submission_id: 'sub-20411', site: 'AB-07', ph: 7.4, signs: ['Foam', 'Litter'], mail: 'zoe@example.org' },
    { submission_id: 'sub-20412', site: 'AB-02', ph: 7.4, signs: ['Oil sheen', 'Foam'], mail: 'nina@example.org' },
  ]));
  const { samples } = (await client.call<{ samples: NamedSample[] }>('GET', `/forms/${formId}/samples`)).json;
  sampleId = samples.find(each => each.submission.id === 'sub-20411')!.id;
  target.requests.length = 0;
});
afterEach(async () => {
  await client.stop();
  await target.stop();
});

const posts = () => target.requests.filter(each => each.method === 'POST');

describe('a request at a time', () => {
  const begin = () => client.call<WalkView>('POST', `/routes/${route.id}/steps`, { sampleId });
  const step = (id: string) => client.call<WalkView & { title: string }>('POST', `/routes/${route.id}/steps/${id}`);

  test('each is shown before it is made, and its answer after', async () => {
    const { json: begun } = await begin();
    expect(begun).toMatchObject({ asks: [], done: [], problems: [] });
    expect(begun.next!.request).toContain('AB-07');
    expect(posts()).toEqual([]);
    target.answer = { status: 201, body: { id: 7 } };
    const { json: stepped } = await step(begun.id);
    expect(posts()).toHaveLength(1);
    expect(stepped).toMatchObject({
      asks: [{ status: 201, purpose: 'create' }],
      next: null,
      done: [{ what: 'created' }],
      problems: [],
    });
    // There is nothing left to be made.
    await step(begun.id);
    expect(posts()).toHaveLength(1);
  });

  test('two clicks at once make one request', async () => {
    const { json: begun } = await begin();
    const both = await Promise.all([step(begun.id), step(begun.id)]);
    expect(both.map(each => each.status).sort()).toEqual([200, 409]);
    expect(posts()).toHaveLength(1);
  });

  test('one that is refused ends it, with the answer', async () => {
    target.answer = { status: 422, body: { message: 'no such site' } };
    const { json } = await step((await begin()).json.id);
    expect(json).toMatchObject({ next: null, problems: [{ code: 'target.refused' }] });
    expect(json.asks[0]!.response).toContain('no such site');
  });

  test('what is not under way, or of another route, is told', async () => {
    expect((await step('nothing')).json.title).toMatch(/no longer running/);
    const copy = (await client.call<RouteView>('POST', `/routes/${route.id}/copy`)).json;
    const { json } = await begin();
    expect((await client.call('POST', `/routes/${copy.id}/steps/${json.id}`)).status).toBe(404);
    expect((await client.call('POST', `/routes/${route.id}/steps`, { sampleId: 'none' })).status).toBe(404);
  });
});

describe('a batch', () => {
  const run = async (body: object) => {
    const { status } = await client.call('POST', `/routes/${route.id}/batch`, { sampleId, ...body });
    if (status !== 202) return status;
    return eventually(
      async () => (await client.call<BatchView | null>('GET', `/routes/${route.id}/batch`)).json,
      view => view !== null,
    );
  };

  test('of variants has one report, in their order', async () => {
    expect((await client.call('GET', `/routes/${route.id}/batch`)).json).toBeNull();
    const report = (await run({
      ideas: ['recorded', 'choices.one', 'choices.all', 'person.new', 'blank'],
    })) as BatchView;
    expect(report.items.map(each => [each.name, each.fate])).toEqual([
      ['Unchanged', 'fine'],
      ['One option', 'fine'],
      ['All options', 'fine'],
      ['A person who is not known yet', 'fine'],
    ]);
    expect(report).toMatchObject({ revision: route.revision, wanted: 4 });
    expect(report.items[0]!.words).toBe('1 created.');
    expect(posts()).toHaveLength(4);
    // None is taken for the one before.
    expect(new Set(posts().map(each => each.headers['idempotency-key'])).size).toBe(4);
  });

  test('tells what is refused, what is held and what the condition leaves out', async () => {
    target.answer = { status: 422, body: { message: 'no' } };
    expect(((await run({ ideas: ['recorded'] })) as BatchView).items[0]).toMatchObject({ fate: 'refused' });
    route.draft.calls[0]!.lines.find(each => each.to === 'ph')!.source = { from: 'field', field: 'nowhere' };
    route.draft.calls[0]!.lines.find(each => each.to === 'ph')!.whenBlank = 'stop';
    route = (await client.call<RouteView>('PUT', `/routes/${route.id}/draft`, draftOf(route))).json;
    await client.call('POST', `/routes/${route.id}/batch`, { sampleId, ideas: ['recorded'] });
    const held = await eventually(
      async () => (await client.call<BatchView>('GET', `/routes/${route.id}/batch`)).json,
      view => view.revision === route.revision,
    );
    expect(held.items[0]).toMatchObject({ fate: 'held', asks: [] });
    route.draft.condition = { all: [{ field: 'site', is: 'equals', values: ['AB-02'], not: false }] };
    route = (await client.call<RouteView>('PUT', `/routes/${route.id}/draft`, draftOf(route))).json;
    await client.call('POST', `/routes/${route.id}/batch`, { sampleId, ideas: ['recorded'] });
    const left = await eventually(
      async () => (await client.call<BatchView>('GET', `/routes/${route.id}/batch`)).json,
      view => view.revision === route.revision,
    );
    expect(left.items[0]).toMatchObject({ fate: 'leftOut', asks: [] });
  });

  test('of proofs tries what is proved', async () => {
    await client.call('POST', `/routes/${route.id}/proofs`, { sampleIds: [sampleId] });
    const report = (await run({ ideas: [], proofs: true })) as BatchView;
    expect(report.items.map(each => each.fate)).toEqual(['fine']);
    expect(posts()[0]!.body).toContain('AB-07');
  });

  test('what a target answers otherwise than a proof holds is noticed; identifiers are others each time', async () => {
    const first = route.draft.calls[0]!;
    const lines = structuredClone(first.lines).map(line => ({ ...line, id: `b-${line.id}` }));
    lines.find(each => each.to === 'site')!.source = { from: 'field', field: `@answer/${first.id}/zone` };
    lines.find(each => each.to === 'ph')!.source = { from: 'field', field: `@answer/${first.id}/id` };
    route.draft.calls.push({ ...structuredClone(first), id: 'second', lines });
    route = (await client.call<RouteView>('PUT', `/routes/${route.id}/draft`, draftOf(route))).json;
    await client.call('POST', `/routes/${route.id}/proofs`, { sampleIds: [sampleId] });
    const proofs = async () => (await client.call<ProofView[]>('GET', `/routes/${route.id}/proofs`)).json;
    const [proof] = await proofs();
    const batch = async (zone: string, id: number) => {
      target.answer = { status: 201, body: { id, zone } };
      const before = (await client.call<BatchView | null>('GET', `/routes/${route.id}/batch`)).json;
      await client.call('POST', `/routes/${route.id}/batch`, { sampleId, ideas: [], proofs: true });
      const report = await eventually(
        async () => (await client.call<BatchView>('GET', `/routes/${route.id}/batch`)).json,
        view => view !== null && view.at !== before?.at,
      );
      return report.items[0]!;
    };
    const take = (at?: string) => client.call('POST', `/routes/${route.id}/proofs/${proof!.id}/answers`, { at });
    expect((await take()).status).toBe(404);
    await batch('AB-07', 7);
    expect((await take('2026-11-30T08:00:00.000Z')).status).toBe(409);
    expect((await take()).status).toBe(204);
    expect((await proofs())[0]!.answers).toEqual(
      expect.objectContaining({ [`${first.id} 0 create`]: { id: 7, zone: 'AB-07' } }),
    );
    await client.call('POST', `/routes/${route.id}/proofs/accept`, { ids: [proof!.id] });
    // Another record is made: its identifier is another one, and that is no difference.
    expect(await batch('AB-07', 8)).toMatchObject({ fate: 'fine', proof: { differences: [] } });
    expect(await batch('AB-02', 9)).toMatchObject({
      fate: 'otherwise',
      words: expect.stringContaining('one thing differs from what was approved'),
      proof: {
        differences: [
          { place: '/values/site', was: 'AB-07', now: 'AB-02', lineId: lines.find(each => each.to === 'site')!.id },
        ],
      },
    });
  });

  test('of nothing is refused', async () => {
    expect(await run({ ideas: [] })).toBe(422);
    expect(await run({ ideas: ['no such idea'] })).toBe(422);
    expect(await run({ ideas: ['recorded'], sampleId: 'none' })).toBe(404);
  });
});

describe('a sample sent to its intake as its builder does', () => {
  const again = (body: object) => client.call<AsBuilderView>('POST', `/samples/${sampleId}/resend`, body);
  const arrivals = async () => (await client.call<ArrivalSummary[]>('GET', `/intakes/${intake.id}/arrivals`)).json;

  test('has an identifier of its own, and goes the whole way', async () => {
    target.answer = { status: 201, body: { id: 1 } };
    await client.call('POST', `/routes/${route.id}/live`);
    const { json } = await again({ fresh: true });
    expect(json).toMatchObject({ method: 'POST', status: 202 });
    expect(json.identifier).toMatch(/^sub-\d{5}$|^s[a-f]{2}-\d{5}$/);
    expect(json.identifier).not.toBe('sub-20411');
    await eventually(arrivals, all => all.length === 3 && all.every(each => each.formId !== null));
    await eventually(
      () => Promise.resolve(posts()),
      all => all.length === 1,
    );
  });

  test('as it came is known to be the same', async () => {
    const { json } = await again({ fresh: false });
    expect(json).toMatchObject({ status: 202, identifier: null });
    const all = await eventually(arrivals, found => found.length === 3 && found.every(each => each.state === 'read'));
    expect(all[0]).toMatchObject({ repeats: true });
  });

  test('is signed anew where the intake asks for it', async () => {
    const verification = { kind: 'hmac', name: 'x-signature', signed: 'timestamp.body', timestampHeader: 'x-time' };
    const { status } = await client.call('PATCH', `/intakes/${intake.id}`, {
      verification: { ...verification, algorithm: 'sha256', encoding: 'hex', secrets: ['a secret of the builder'] },
    });
    expect(status).toBe(200);
    expect((await post(client, intake, { site: 'x' })).status).toBe(401);
    const { json } = await again({ fresh: true });
    expect(json.status).toBe(202);
    expect(json.head).toMatch(/x-signature: [0-9a-f]{64}/);
    expect(json.head).not.toContain('a secret of the builder');
  });

  test('what is no recorded sample is told', async () =>
    expect((await client.call('POST', '/samples/none/resend', { fresh: true })).status).toBe(404));
});
