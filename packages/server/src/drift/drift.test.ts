import type {
  ChangesView,
  DeliveryPage,
  IntakeView,
  RepairedView,
  RouteView,
  SupposedView,
  DeskView,
} from '@grammata/contract';
import { sendHeldStill } from './release';
import { draftOf } from '../testing/draftOf';
import { eventually } from '../testing/eventually';
import { post, withForm } from '../testing/forms';
import { withRoute } from '../testing/routes';
import { startServer, startTarget, type Client, type FakeTarget } from '../testing/running';

// Changes of forms and targets are heard of by themselves, say what they touch, and are mended.

let client: Client;
let target: FakeTarget;
let intake: IntakeView;
let route: RouteView;
let targetId: string;

const answers = (at: number) => ({
  submission_id: `sub-${10_000 + at}`,
  form: { id: 'f1', name: 'Sampling' },
  answers: [
    { id: 'site', label: 'Which site?', value: ['AB-07', 'AB-02'][at % 2]! },
    { id: 'ph', label: 'pH from the strip', value: 6 + (at % 4) / 2 },
    { id: 'who', label: 'Your name', value: `Ada Reed ${at}` },
  ],
});
type Answers = ReturnType<typeof answers>;
const send = async (from: number, count: number, edit: (one: Answers) => object) => {
  for (let at = from; at < from + count; at++) await post(client, intake, edit(answers(at)));
};
const changes = async () => (await client.call<ChangesView>('GET', '/changes')).json;
const heard = (count: number) => eventually(changes, view => view.changes.length >= count);

beforeEach(async () => {
  [client, target] = [await startServer(), await startTarget()];
  const drawn = await withRoute(
    client,
    target,
    Array.from({ length: 8 }, (_, at) => answers(at)),
  );
  ({ intake, route } = drawn);
  targetId = drawn.register.id;
  target.answer = { status: 201, body: { id: 1 } };
  expect((await client.call('POST', `/routes/${route.id}/live`)).status).toBe(200);
});
afterEach(async () => {
  await client.stop();
  await target.stop();
});

test('a question that is another one now: heard of at the first message, mended, and what was held goes', async () => {
  await send(8, 3, one => ({
    ...one,
    answers: one.answers.map(each => (each.id === 'site' ? { ...each, id: 'q_771' } : each)),
  }));
  const { changes: all, open } = await heard(1);
  expect(open).toBe(1);
  expect(all).toMatchObject([
    {
      subject: 'form',
      subjectName: 'Sampling',
      change: 'replaced',
      question: 'Which site?',
      was: 'site',
      now: 'q_771',
      state: 'open',
      touch: 'breaks',
      touches: [{ routeId: route.id, state: 'live', touch: 'breaks', uses: [{ what: 'line', to: 'site' }], held: 3 }],
    },
  ]);
  const held = async () => (await client.call<DeliveryPage>('GET', `/deliveries?route=${route.id}&state=held`)).json;
  await eventually(held, page => page.total === 3);
  // What it holds is counted as long as it is held, whatever is live by then.
  const waiting = async () => (await changes()).changes[0]!.touches.map(each => each.deliveries.length);
  expect(await waiting()).toEqual([3]);
  expect((await client.call<DeskView>('GET', '/desk')).json.troubles).toMatchObject([
    { state: 'held', count: 3, changeId: all[0]!.id },
  ]);

  const propose = async () =>
    (await client.call<RepairedView>('POST', `/changes/${all[0]!.id}/repair`, { routeId: route.id })).json;
  const { repair } = await propose();
  expect(repair).toMatchObject({
    words: ['Use “q_771” instead of “site”; where it is missing, “site”.'],
    samples: { held: 3, heldThen: 0, looked: 11 },
    mark: expect.any(String),
    lines: [{ to: 'site' }],
    labels: { site: 'Which site? (site)', q_771: 'Which site? (q_771)' },
  });
  // What the line gives for each, before and after: those that came since can be sent then.
  expect(repair!.tried).toHaveLength(11);
  expect(repair!.tried.filter(({ stands: [one] }) => one && 'problem' in one)).toHaveLength(3);
  for (const { then } of repair!.tried) expect(then).toEqual([{ value: expect.stringMatching(/^AB-\d+$/) }]);
  const take = (mark: string) => client.call('POST', `/changes/${all[0]!.id}/repair/take`, { routeId: route.id, mark });
  expect((await take('of another draft')).status).toBe(409);
  expect((await take(repair!.mark)).status).toBe(204);
  // In the draft only: what is live is as it was.
  expect((await changes()).changes[0]).toMatchObject({ state: 'open', touch: 'breaks' });
  expect(await propose()).toEqual({ ways: [], way: null, repair: null, isDrafted: true });
  expect((await take(repair!.mark)).status).toBe(409);
  await client.call('POST', `/routes/${route.id}/live`);
  // It takes either now.
  expect((await changes()).changes[0]).toMatchObject({
    state: 'settled',
    by: expect.any(String),
    touch: 'harmless',
  });
  expect(await waiting()).toEqual([3]);
  expect(await propose()).toEqual({ ways: [], way: null, repair: null, isDrafted: false });
  const { deliveries } = await held();
  await client.call('POST', '/deliveries/resend', { ids: deliveries.map(each => each.id), mapping: 'now' });
  // Nothing was lost: what was held is delivered with the repaired mapping.
  await eventually(held, page => page.total === 0);
  expect(await waiting()).toEqual([0]);
  await eventually(
    () => Promise.resolve(target.requests.filter(each => each.method === 'POST')),
    sent => sent.length >= 3,
  );
});

test.each<[string, (one: Answers) => object, object[]]>([
  [
    'a question more touches nothing',
    one => ({ ...one, answers: [...one.answers, { id: 'depth', label: 'How deep?', value: 3 }] }),
    [{ change: 'added', question: 'How deep?', touch: 'harmless' }],
  ],
  [
    'another wording touches nothing',
    one => ({
      ...one,
      answers: one.answers.map(each => (each.id === 'ph' ? { ...each, label: 'How sour is it?' } : each)),
    }),
    [{ change: 'reworded', was: 'pH from the strip', now: 'How sour is it?', touch: 'harmless' }],
  ],
  ['nothing', one => one, []],
])('%s', async (_, edit, expected) => {
  await send(8, 5, edit);
  if (expected.length > 0) await heard(expected.length);
  else {
    // It was looked at: a change that comes after it is told.
    await send(20, 1, one => ({ ...one, answers: [...one.answers, { id: 'mark', label: 'A mark', value: 'x' }] }));
    const view = await heard(1);
    expect(view.changes.map(each => each.question)).toEqual(['A mark']);
    return;
  }
  expect((await changes()).changes).toMatchObject(expected);
});

test('what was declined is not told again', async () => {
  const edit = (one: Answers) => ({ ...one, answers: [...one.answers, { id: 'depth', label: 'How deep?', value: 3 }] });
  await send(8, 1, edit);
  const [change] = (await heard(1)).changes;
  expect((await client.call('POST', `/changes/${change!.id}`, { state: 'declined' })).json).toMatchObject({
    state: 'declined',
  });
  await send(9, 2, edit);
  await send(30, 1, one => ({ ...one, answers: [...one.answers, { id: 'mark', label: 'A mark', value: 'x' }] }));
  const all = await heard(2);
  expect([all.open, all.changes.map(each => each.state)]).toEqual([1, ['open', 'declined']]);
});

test('a target that offers something else is heard of when it is read, and mended', async () => {
  const tables = structuredClone(target.tables);
  const [site] = tables.tables[0]!.columns;
  site!.options = ['AB-07', 'AB-02 (new)'];
  tables.tables[0]!.columns.push({ key: 'who', title: 'Who took the sample', type: 'text', required: true });
  target.tables = tables;
  await client.call('POST', `/targets/${targetId}/read`);
  const { changes: all } = await heard(2);
  const told = Object.fromEntries(all.map(each => [each.change, each]));
  expect(told['option-renamed']).toMatchObject({
    subject: 'target',
    subjectName: 'Register',
    was: 'AB-02',
    now: 'AB-02 (new)',
    touch: 'breaks',
    touches: [{ routeId: route.id, uses: [{ to: 'site' }] }],
  });
  expect(told['field-added']).toMatchObject({ touch: 'breaks', now: { required: true } });
  const repair = async (change: string) =>
    (await client.call<RepairedView>('POST', `/changes/${told[change]!.id}/repair`, { routeId: route.id })).json.repair;
  expect((await repair('option-renamed'))!.words).toEqual(['site: “AB-02” is sent as “AB-02 (new)”.']);
  expect((await repair('field-added'))!.words[0]).toMatch(/New line for “who”/);
});

test('what a target rejected because of a change, before it was heard of, is sent from there once it is mended', async () => {
  const failed = async () => (await client.call<DeliveryPage>('GET', `/deliveries?route=${route.id}&state=dead`)).json;
  const rejected = (field: string) => ({ status: 422, body: { errors: [{ field, message: 'is not taken' }] } });
  // Before anything is otherwise, and of another field.
  target.answer = rejected('ph');
  await send(9, 1, one => one);
  await eventually(failed, page => page.total === 1);
  target.tables = structuredClone(target.tables);
  target.tables.tables[0]!.columns[0]!.options = ['AB-07', 'AB-02 (new)'];
  target.answer = rejected('site');
  await send(11, 1, one => one);
  await send(13, 1, one => one);
  await eventually(failed, page => page.total === 3);
  await client.call('POST', `/targets/${targetId}/read`);
  const renamed = async () => (await changes()).changes.find(each => each.change === 'option-renamed')!;
  await eventually(renamed, each => each?.touches[0]?.failed.length === 2);
  expect(await renamed()).toMatchObject({ touch: 'breaks', touches: [{ deliveries: [] }] });
  const { failed: ids } = (await renamed()).touches[0]!;

  target.answer = { status: 201, body: { id: 1 } };
  const { id } = await renamed();
  const { repair } = (await client.call<RepairedView>('POST', `/changes/${id}/repair`, { routeId: route.id })).json;
  await client.call('POST', `/changes/${id}/repair/take`, { routeId: route.id, mark: repair!.mark });
  await client.call('POST', `/routes/${route.id}/live`);
  expect(await renamed()).toMatchObject({ state: 'settled', touches: [{ failed: ids }] });
  const states = Object.fromEntries(ids.map(each => [each, 'dead']));
  const before = target.requests.length;
  await client.call('POST', '/deliveries/resend', { ids, states, mapping: 'now' });
  await eventually(
    async () => target.requests.length,
    many => many === before + 2,
  );
  expect((await renamed()).touches[0]!.failed).toEqual([]);
  const sent = target.requests
    .slice(-2)
    .map(each => (JSON.parse(each.body) as { values: { site: string } }).values.site);
  expect(sent).toEqual(['AB-02 (new)', 'AB-02 (new)']);
});

test.each([
  ['a change that is not there', '/changes/none', { state: 'settled' }, 404],
  ['a state that is none', '/changes/none', { state: 'gone' }, 422],
  ['a repair of nothing', '/changes/none/repair', { routeId: 'x' }, 404],
])('%s is refused', async (_, path, body, status) =>
  expect((await client.call('POST', path, body)).status).toBe(status),
);

test.each<['holdTouched' | 'holdAll' | 'deliver', string, string, RegExp]>([
  ['holdAll', 'a question more', 'held', /The form changed/],
  ['holdTouched', 'a question more', 'delivered', /^$/],
  ['holdTouched', 'a list', 'held', /The form changed/],
  // Without such a rule it is held for what it is: the target takes no list there.
  ['deliver', 'a list', 'held', /site takes/],
])('%s, and the form has %s: what comes is %s', async (whenChanged, what, state, reason) => {
  route = (await client.call<RouteView>('GET', `/routes/${route.id}`)).json;
  route.draft.terms.whenChanged = whenChanged;
  route = (await client.call<RouteView>('PUT', `/routes/${route.id}/draft`, draftOf(route))).json;
  await client.call('POST', `/routes/${route.id}/live`);
  await send(40, 1, one => ({
    ...one,
    answers:
      what === 'a question more'
        ? [...one.answers, { id: 'depth', label: 'How deep?', value: 3 }]
        : one.answers.map(each => (each.id === 'site' ? { ...each, value: [each.value, 'AB-02'] } : each)),
  }));
  const deliveries = async () =>
    (await client.call<DeliveryPage>('GET', `/deliveries?route=${route.id}`)).json.deliveries;
  const [one] = await eventually(deliveries, all => all.length === 1 && all[0]!.state === state);
  expect(one!.reason ?? '').toMatch(reason);
});

/** Another key for a question that an optional line takes: what is sent would lack it, and go. */
const rekeyed = (one: Answers) => ({
  ...one,
  answers: one.answers.map(each => (each.id === 'ph' ? { ...each, id: 'q_9' } : each)),
});
const without = (one: Answers) => ({ ...one, answers: one.answers.filter(each => each.id !== 'ph') });
const deliveriesIn = async (state: string) =>
  (await client.call<DeliveryPage>('GET', `/deliveries?route=${route.id}&state=${state}`)).json;
const setTerms = (terms: Partial<RouteView['draft']['terms']>) => edited(draft => Object.assign(draft.terms, terms));
const edited = async (edit: (draft: RouteView['draft']) => void) => {
  route = (await client.call<RouteView>('GET', `/routes/${route.id}`)).json;
  edit(route.draft);
  route = (await client.call<RouteView>('PUT', `/routes/${route.id}/draft`, draftOf(route))).json;
  await client.call('POST', `/routes/${route.id}/live`);
};

test('what would go without an answer is held until somebody decides for the route; what went is listed', async () => {
  await send(40, 2, rekeyed);
  await eventually(
    () => deliveriesIn('held'),
    page => page.total === 2,
  );
  const [change] = (await heard(1)).changes;
  expect(change).toMatchObject({
    change: 'replaced',
    touch: 'risks',
    touches: [{ holds: true, holdHours: null, lacking: [] }],
  });
  expect(change!.touches[0]!.deliveries).toHaveLength(2);
  const decide = (decision: string, id = change!.id) =>
    client.call<ChangesView['changes'][number]>('POST', `/changes/${id}/holding`, { routeId: route.id, decision });
  expect((await decide('perhaps')).status).toBe(422);
  expect((await decide('deliver', 'none')).status).toBe(404);
  expect((await decide('deliver')).json.touches).toMatchObject([{ holds: false }]);
  await eventually(
    () => deliveriesIn('delivered'),
    page => page.total === 2,
  );
  // What comes after it goes as well; what went without the answer is told, by who it is about.
  await send(42, 1, rekeyed);
  await eventually(
    () => deliveriesIn('delivered'),
    page => page.total === 3,
  );
  const [touch] = (await changes()).changes[0]!.touches;
  expect(touch).toMatchObject({ holds: false, deliveries: [], completes: false });
  expect(touch!.lacking.map(each => each.about)).toEqual(expect.arrayContaining([expect.stringContaining('Ada Reed')]));
  expect(touch!.lacking).toHaveLength(3);
  // And held again once somebody says so.
  expect((await decide('hold')).json.touches).toMatchObject([{ holds: true }]);
  await send(43, 1, rekeyed);
  await eventually(
    () => deliveriesIn('held'),
    page => page.total === 1,
  );
  await client.call('POST', `/changes/${change!.id}`, { state: 'declined' });
  expect((await decide('deliver')).status).toBe(409);
  // Nothing that waits is forgotten with it.
  expect((await changes()).changes[0]!.touches[0]!.deliveries).toHaveLength(1);
});

test('letting go what one change holds leaves what waits for another', async () => {
  await setTerms({ whenChanged: 'deliver' });
  const decide = (id: string, decision: string) =>
    client.call('POST', `/changes/${id}/holding`, { routeId: route.id, decision });
  await send(40, 1, rekeyed);
  const [first] = (await heard(1)).changes;
  await decide(first!.id, 'hold');
  await send(41, 1, rekeyed);
  await eventually(
    () => deliveriesIn('held'),
    page => page.total === 1,
  );
  const otherSite = (one: Answers) => ({
    ...one,
    answers: one.answers.map(each => (each.id === 'site' ? { ...each, id: 'q_771' } : each)),
  });
  await send(42, 1, otherSite);
  const second = (await heard(2)).changes.find(each => each.was === 'site')!;
  await decide(second.id, 'hold');
  await send(43, 1, otherSite);
  await eventually(
    () => deliveriesIn('held'),
    page => page.total === 3,
  );
  await client.call('POST', `/changes/${first!.id}`, { state: 'settled' });
  expect((await decide(second.id, 'deliver')).status).toBe(200);
  // The second is held again for what it lacks; the first waits until somebody sends it.
  const waiting = async () =>
    (await deliveriesIn('held')).deliveries.filter(each => /form changed/.test(each.reason ?? ''));
  const [left] = await eventually(waiting, all => all.length === 1);
  const { changes: told } = await changes();
  expect(told.find(each => each.id === first!.id)!.touches[0]!.deliveries).toEqual([left!.id]);
});

test('what is held by a decision counts with its change, whatever that is', async () => {
  await setTerms({ whenChanged: 'deliver' });
  const many = (one: Answers) => ({
    ...one,
    answers: one.answers.map(each => (each.id === 'ph' ? { ...each, value: [each.value, 7] } : each)),
  });
  await send(40, 1, many);
  const [change] = (await heard(1)).changes;
  expect(change).toMatchObject({ change: 'single-to-list', touches: [{ holds: false }] });
  await client.call('POST', `/changes/${change!.id}/holding`, { routeId: route.id, decision: 'hold' });
  await send(41, 1, many);
  const reasons = async () => (await deliveriesIn('held')).deliveries.map(each => each.reason ?? '');
  await eventually(reasons, all => all.some(each => /form changed/.test(each)));
  const held = (await deliveriesIn('held')).deliveries.find(each => /form changed/.test(each.reason ?? ''))!;
  expect((await changes()).changes[0]!.touches[0]!.deliveries).toContain(held.id);
});

test('what was held in the instant in which it was let go is sent a little later', async () => {
  await send(40, 1, rekeyed);
  await eventually(
    () => deliveriesIn('held'),
    page => page.total === 1,
  );
  const [change] = (await heard(1)).changes;
  // Decided, and the server stopped before anything was sent.
  client.running.services.store.changes.decide(change!.id, route.id, 'deliver');
  expect((await deliveriesIn('held')).total).toBe(1);
  await sendHeldStill(client.running.services);
  await eventually(
    () => deliveriesIn('delivered'),
    page => page.total === 1,
  );
});

test('a route that delivers anyway lists what went without an answer, until a repair has sent it again', async () => {
  await setTerms({ whenChanged: 'deliver' });
  await send(40, 2, rekeyed);
  await eventually(
    () => deliveriesIn('delivered'),
    page => page.total === 2,
  );
  const [change] = (await heard(1)).changes;
  const lacking = async () => (await changes()).changes[0]!.touches[0]!.lacking.map(each => each.id);
  const ids = await lacking();
  expect(ids).toHaveLength(2);
  const repair = await client.call<RepairedView>('POST', `/changes/${change!.id}/repair`, { routeId: route.id });
  await client.call('POST', `/changes/${change!.id}/repair/take`, {
    routeId: route.id,
    mark: repair.json.repair!.mark,
  });
  await client.call('POST', `/routes/${route.id}/live`);
  expect(await lacking()).toEqual(ids);
  await client.call('POST', '/deliveries/resend', { ids, mapping: 'now' });
  await eventually(lacking, left => left.length === 0);
});

test('what a filter leaves out since it asks for a question that has another key is listed, and sent once the filter is repaired', async () => {
  await edited(draft => {
    draft.condition = { all: [{ field: 'ph', is: 'above', values: ['0'], not: false }] };
  });
  await send(40, 3, rekeyed);
  const [change] = (await heard(1)).changes;
  const leftOut = async () => (await changes()).changes[0]!.touches[0]!.leftOut;
  expect(change!.touches[0]!.touch).toBe('breaks');
  expect((await leftOut()).map(each => each.goes)).toEqual([false, false, false]);
  const { repair } = (await client.call<RepairedView>('POST', `/changes/${change!.id}/repair`, { routeId: route.id }))
    .json;
  await client.call('POST', `/changes/${change!.id}/repair/take`, { routeId: route.id, mark: repair!.mark });
  const live = await client.call<RouteView>('POST', `/routes/${route.id}/live`);
  expect(live.status).toBe(200);
  // What the repaired filter leaves out is left out for its own sake.
  const low = (one: Answers) => ({
    ...one,
    answers: rekeyed(one).answers.map(each => (each.id === 'q_9' ? { ...each, value: -1 } : each)),
  });
  await send(50, 1, low);
  await eventually(
    async () => (await client.call<{ submissions: number }>('GET', `/forms/${route.formId}`)).json,
    form => form.submissions === 12,
  );
  const going = await leftOut();
  expect(going.map(each => each.goes)).toEqual([true, true, true]);
  const { version } = (await changes()).changes[0]!.touches[0]!;
  const sent = await client.call('POST', `/routes/${route.id}/recorded`, {
    selection: { sampleIds: going.map(each => each.sampleId) },
    version,
  });
  expect(sent.status).toBe(202);
  await eventually(
    () => deliveriesIn('delivered'),
    page => page.total === 3,
  );
  expect(await leftOut()).toEqual([]);
});

test('what is held goes after the time that the terms say', async () => {
  await setTerms({ holdHours: 2 });
  await send(40, 1, rekeyed);
  await eventually(
    () => deliveriesIn('held'),
    page => page.total === 1,
  );
  expect((await changes()).changes[0]!.touches).toMatchObject([{ holds: true, holdHours: 2 }]);
  await sendHeldStill(client.running.services);
  expect((await deliveriesIn('held')).total).toBe(1);
  jest.spyOn(Date, 'now').mockReturnValue(Date.now() + 2 * 3_600_000);
  await sendHeldStill(client.running.services);
  await eventually(
    () => deliveriesIn('delivered'),
    page => page.total === 1,
  );
  jest.restoreAllMocks();
});

test('a question that is asked again after all: the change is withdrawn, what was held goes, and it may be told anew', async () => {
  // Each was answered: eight times, and then not once.
  await send(40, 6, without);
  const [change] = (await eventually(changes, view => view.open === 1)).changes;
  expect(change).toMatchObject({ change: 'gone', touches: [{ holds: true }] });
  await send(46, 1, without);
  await eventually(
    () => deliveriesIn('held'),
    page => page.total >= 1,
  );
  await send(50, 2, one => one);
  const [over] = (await eventually(changes, view => view.open === 0)).changes;
  expect(over).toMatchObject({ id: change!.id, state: 'settled', by: 'itself' });
  await eventually(
    () => deliveriesIn('held'),
    page => page.total === 0,
  );
  await eventually(
    () => deliveriesIn('delivered'),
    page => page.total === 9,
  );
  await send(60, 30, without);
  expect((await eventually(changes, view => view.open === 1)).changes).toMatchObject([
    { id: change!.id, state: 'open', by: null },
  ]);
});

test('another form at the same address, until somebody says what it is', async () => {
  const kit = (at: number) => ({ submission_id: `kit-${at}`, form: { id: 'f2', name: 'Kit request' }, answers: [] });
  const answer = { id: 'kit', label: 'Which kit?', value: 'pH strips' };
  await post(client, intake, { ...kit(1), answers: [answer] });
  const { changes: all } = await heard(1);
  expect(all).toMatchObject([
    { change: 'another-form', subjectName: 'Kit request', was: 'Sampling', touches: [], state: 'open' },
  ]);
  await client.call('PATCH', `/forms/${all[0]!.subjectId}`, { state: 'ignored' });
  expect((await changes()).changes).toMatchObject([{ state: 'settled' }]);
});

test('with the intake goes what was told of its forms', async () => {
  const other = await withForm(
    client,
    [1, 2, 3, 4].map(at => answers(at)),
    'Others',
  );
  await post(client, other.intake, {
    ...answers(5),
    answers: [...answers(5).answers, { id: 'depth', label: 'How deep?', value: 3 }],
  });
  await heard(1);
  expect((await client.call('DELETE', `/intakes/${other.intake.id}`)).status).toBe(204);
  expect(await changes()).toEqual({ changes: [], open: 0 });
});

test('where changes are not looked for, none is told', async () => {
  const quiet = await startServer({ changesAfter: null });
  const { intake: own } = await withForm(
    quiet,
    [1, 2, 3, 4].map(at => answers(at)),
  );
  await post(quiet, own, {
    ...answers(5),
    answers: [...answers(5).answers, { id: 'depth', label: 'How deep?', value: 3 }],
  });
  const add = { name: 'Register', baseUrl: target.url, discoveryPath: '/tables' };
  const { id } = (await quiet.call<{ id: string }>('POST', '/targets', add)).json;
  const before = target.tables;
  target.tables = { tables: [{ ...before.tables[0]!, columns: before.tables[0]!.columns.slice(1) }] };
  expect((await quiet.call('POST', `/targets/${id}/read`)).status).toBe(200);
  target.tables = before;
  // The other one, which looks, has told it by then.
  await send(40, 1, one => ({ ...one, answers: [...one.answers, { id: 'depth', label: 'How deep?', value: 3 }] }));
  await heard(1);
  expect((await quiet.call<ChangesView>('GET', '/changes')).json).toEqual({ changes: [], open: 0 });
  await quiet.stop();
});

describe('what if', () => {
  const suppose = (more: object) =>
    client.call<SupposedView[]>('POST', '/suppose', {
      subject: 'form',
      subjectId: route.form.id,
      key: 'site',
      what: 'gone',
      ...more,
    });
  test('a question were not asked any more', async () => {
    const { json } = await suppose({});
    expect(json).toMatchObject([{ routeId: route.id, uses: 1, looked: 8, held: 0, heldThen: 8 }]);
    expect(json[0]!.reasons[0]).toContain('site');
    // Nothing was changed by asking.
    expect((await suppose({ what: 'gone', key: 'who' })).json).toMatchObject([{ uses: 0, heldThen: 0 }]);
  });
  test('a form sent what its next generation would', async () => {
    const next = answers(1);
    const said = (edit: (one: Answers) => object) =>
      suppose({ what: 'message', key: '', message: JSON.stringify(edit(next)) });
    expect((await said(one => one)).json).toMatchObject([{ uses: 0, looked: 1, heldThen: 0 }]);
    const renamed = await said(one => ({
      ...one,
      answers: one.answers.map(each => ({ ...each, id: `q_${each.id}` })),
    }));
    expect(renamed.json).toMatchObject([{ uses: 2, looked: 1, held: 0, heldThen: 1, proofs: 0 }]);
    expect(renamed.json[0]!.reasons[0]).toContain('site');
    expect((await suppose({ what: 'message', message: '' })).status).toBe(422);
  });
  test('a target took something else', async () => {
    const of = { subject: 'target', subjectId: targetId, operationId: 'create:samples' };
    expect((await suppose({ ...of, what: 'option-renamed', option: 'AB-07' })).json).toMatchObject([{ heldThen: 4 }]);
    expect((await suppose({ ...of, key: 'ph', what: 'required' })).json).toMatchObject([{ heldThen: 0 }]);
  });
  test.each<[object, number]>([
    [{ subjectId: 'none' }, 404],
    [{ what: 'shorter' }, 422],
    [{ what: 'nothing' }, 422],
    [{ subject: 'target', operationId: 'x', what: 'gone' }, 404],
  ])('%j is refused with %i', async (more, status) => expect((await suppose(more)).status).toBe(status));
});
