import type {
  DeliveryPage,
  IntakeView,
  ProblemDetails,
  ProofView,
  RecordedPreview,
  WorkView,
} from '@grammata/contract';
import { withProofs, withRoute, type TestRoute } from '../testing/routes';
import { draftOf } from '../testing/draftOf';
import { post as arrives } from '../testing/forms';
import { eventually, startServer, startTarget, type Client, type FakeTarget } from '../testing/running';

// What is done is what was shown: what changed between the look and the press is left, or refused, and told.

let client: Client;
let target: FakeTarget;
let drawn: TestRoute;
beforeEach(async () => {
  [client, target] = [await startServer(), await startTarget()];
  drawn = await withRoute(client, target, [
    { submission_id: 's1', site: 'AB-07', ph: 7.4 },
    { submission_id: 's2', site: 'AB-02', ph: 7.1 },
  ]);
});
afterEach(async () => {
  await client.stop();
  await target.stop();
});

const path = (more: string) => `/routes/${drawn.route.id}/${more}`;
const page = async () => (await client.call<DeliveryPage>('GET', '/deliveries')).json;
const post = <T = ProblemDetails>(to: string, body: object = {}) => client.call<T>('POST', to, body);
const goLive = () => post(path('live'));
const preview = async () => (await post<RecordedPreview>(path('recorded/preview'))).json;
const send = (more: object = {}) => post(path('recorded'), { selection: {}, again: false, ...more });
const worked = (summary: string) =>
  eventually(
    async () => (await client.call<WorkView[]>('GET', `/work?route=${drawn.route.id}`)).json,
    all => all.some(each => each.summary === summary),
  );

describe('deliveries that are sent again', () => {
  test('one that was delivered meanwhile is left: it would be there twice', async () => {
    target.answer = { status: 422, body: { title: 'No.' } };
    await goLive();
    await send();
    const { deliveries } = await eventually(page, ({ counts }) => counts.dead === 2);
    target.answer = { status: 201, body: { no: 1 } };
    const [mine, theirs] = deliveries.map(each => each.id) as [string, string];
    // A colleague sends one of them.
    await post('/deliveries/resend', { ids: [theirs], mapping: 'now' });
    await eventually(page, ({ counts }) => counts.delivered === 1);
    const states = { [mine]: 'dead', [theirs]: 'dead' };
    const { json } = await post<{ ids: string[] }>('/deliveries/resend', {
      ids: [mine, theirs],
      states,
      mapping: 'now',
    });
    expect(json.ids).toEqual([mine]);
    expect((await eventually(page, ({ counts }) => counts.delivered === 2)).total).toBe(2);
  });

  test('of all that match, those that began after they were listed are not meant', async () => {
    await goLive();
    await send();
    const shown = await eventually(page, ({ counts }) => counts.delivered === 2);
    await arrives(client, drawn.intake, { submission_id: 's3', site: 'AB-02', ph: 6.95 });
    await eventually(page, ({ counts }) => counts.delivered === 3);
    await post('/deliveries/resend', { ids: [], filter: { state: 'delivered' }, mapping: 'now', upTo: shown.newest });
    await eventually(page, ({ counts }) => counts.delivered === 5);
    expect((await page()).deliveries.filter(each => each.about.includes('6.95'))).toHaveLength(1);
  });
});

describe('what is recorded', () => {
  test('is not sent by another version than it was looked at with', async () => {
    await goLive();
    const shown = await preview();
    const [call] = drawn.route.draft.calls;
    call!.lines.find(each => each.to === 'ph')!.source = null;
    await client.call('PUT', path('draft'), draftOf(drawn.route));
    await goLive();
    expect(await send(shown)).toMatchObject({ status: 409, json: { title: 'Version 2 is now live.' } });
    expect((await page()).total).toBe(0);
    expect((await send(await preview())).status).toBe(202);
    await worked('2 queued.');
  });

  test('what came after the look is not meant', async () => {
    await goLive();
    const { version } = await preview();
    await send({ version, asOf: new Date(Date.now() - 3_600_000).toISOString() }).then(({ status, json }) =>
      expect([status, json.title]).toEqual([409, 'No past submission matches.']),
    );
  });
});

describe('proofs', () => {
  const proofs = async () => (await client.call<ProofView[]>('GET', path('proofs'))).json;
  const accept = (all: ProofView[], revision = drawn.route.revision) =>
    post(path('proofs/accept'), {
      ids: all.map(each => each.id),
      marks: Object.fromEntries(all.map(each => [each.id, each.mark])),
      revision,
    });
  beforeEach(() => withProofs(client, drawn.route));

  test('are accepted as they were shown', async () => expect((await accept(await proofs())).status).toBe(200));

  test('are not accepted for another draft', async () => {
    expect((await accept(await proofs(), drawn.route.revision - 1)).status).toBe(409);
    const sampleIds = [(await proofs())[0]!.sampleId];
    const approve = await post(path('proofs'), { sampleIds, revision: drawn.route.revision - 1 });
    expect([approve.status, approve.json.title]).toEqual([409, 'This route was edited elsewhere.']);
  });

  test('are not accepted after a colleague loosened one', async () => {
    const shown = await proofs();
    const loose = [{ callId: drawn.route.draft.calls[0]!.id, pointer: '/values/ph', pattern: 'number' }];
    expect((await client.call('PATCH', path(`proofs/${shown[0]!.id}`), { loose })).status).toBe(200);
    const refused = await accept(shown);
    expect([refused.status, refused.json.title]).toEqual([409, 'Somebody else changed a proof.']);
    expect((await accept(await proofs())).status).toBe(200);
  });
});

test('pins are not put in the place of a colleague’s that were not shown', async () => {
  const at = `/intakes/${drawn.intake.id}`;
  const shown = (await client.call<IntakeView>('GET', at)).json.pins;
  const pin = (pins: object, shownPins: object) =>
    client.call<ProblemDetails>('PUT', `${at}/pins`, { ...pins, shown: shownPins });
  expect((await pin({ id: '/submission_id' }, shown)).status).toBe(200);
  expect(await pin({ form: '/site' }, shown)).toMatchObject({ status: 409, json: { errors: [{ field: 'pins' }] } });
  const now = (await client.call<IntakeView>('GET', at)).json.pins;
  expect(now).toEqual({ id: '/submission_id' });
  expect((await pin({ form: '/site' }, now)).status).toBe(200);
});
