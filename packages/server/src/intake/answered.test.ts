import type { IntakeView, RouteView, TargetView } from '@grammata/contract';
import type { Json } from '@grammata/core/submission';
import { json, startAnswering, type Answering } from '../testing/answering';
import { draftOf } from '../testing/draftOf';
import { withForm } from '../testing/forms';
import { startServer, type Client } from '../testing/running';
import { pino } from 'pino';
import { LiveHub } from '../live';
import type { Store } from '../store';
import { Timers } from '../timing';
import { TargetAnswers } from './answered';
import { filled } from './filled';

describe('what a sender gets of an answer', () => {
  const answer = { ticket: { number: 7, note: 'He said "no" \\ yes' }, list: [{ name: 'A' }] };
  test.each<[string, Json | string]>([
    ['', answer],
    ['  ', answer],
    ['Your number is {ticket.number}.', 'Your number is 7.'],
    ['{list.0.name}{ticket.none}!', 'A!'],
    [
      '{"message": "No. {ticket.number}", "number": "{ticket.number}", "all": ["{list}"]}',
      { message: 'No. 7', number: 7, all: [[{ name: 'A' }]] },
    ],
    // What stands in a part can't break out of its place.
    [
      '{"note": "{ticket.note}", "x": "it says {ticket.note}"}',
      { note: 'He said "no" \\ yes', x: 'it says He said "no" \\ yes' },
    ],
    ['{ "not": json {ticket.number}', '{ "not": json 7'],
    ['{not a place} {1}', '{not a place} {1}'],
  ])('%s', (template, wanted) => {
    const said = filled(template, answer);
    expect('json' in said ? said.json : said.text).toEqual(wanted);
  });
});

test('an event looks for the one sender that it is for, however many wait', async () => {
  const asked: string[] = [];
  const live = new LiveHub();
  const headOf = (id: string) => void asked.push(id);
  const store = { arrivals: { headOf }, deliveries: {} } as unknown as Pick<Store, 'arrivals' | 'deliveries'>;
  const answers = new TargetAnswers({ store, live, timers: new Timers(pino({ level: 'silent' })) });
  const waiting = Array.from({ length: 200 }, (_, at) => answers.wait(`a${at}`, 60_000));
  // Whoever comes beside them is not kept waiting.
  expect(await answers.wait('one more', 60_000)).toBeNull();
  live.publish({ type: 'arrival', intakeId: 'i', arrivalId: 'a7' });
  answers.look('a8');
  answers.look('of nobody');
  // What is gone has no answer.
  expect(await Promise.all([waiting[7], waiting[8]])).toEqual([null, null]);
  expect(asked).toEqual(['a7', 'a8']);
});

describe('a form that waits', () => {
  let client: Client;
  let side: Answering;
  let intake: IntakeView;
  /** What the target answers. */
  let answers: () => [status: number, body: unknown] | null;

  const send = async (data: object, headers: Record<string, string> = {}) => {
    const answer = await fetch(`${client.url}${new URL(intake.address).pathname}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', ...headers },
      body: JSON.stringify(data),
    });
    return { status: answer.status, type: answer.headers.get('content-type'), body: await answer.text() };
  };
  const set = (more: object) => client.call('PATCH', `/intakes/${intake.id}`, more);

  beforeEach(async () => {
    answers = () => [201, { ticket: { number: 7 } }];
    side = await startAnswering((_heard, response) => {
      const said = answers();
      if (said) json(response, ...said);
    });
    client = await startServer();
    const form = await withForm(client, [{ site: 'AB-01' }]);
    ({ intake } = form);
    const target = (
      await client.call<TargetView>('POST', '/targets', {
        name: 'T',
        baseUrl: side.url,
        reads: 'example',
        document: '{"site":"x"}',
      })
    ).json;
    const route = (
      await client.call<RouteView>('POST', '/routes', {
        name: 'R',
        formId: form.formId,
        targetId: target.id,
        operationId: 'create',
      })
    ).json;
    route.draft.calls[0]!.lines[0]!.source = { from: 'field', field: 'site' };
    await client.call('PUT', `/routes/${route.id}/draft`, draftOf(route));
    await client.call('POST', `/routes/${route.id}/live`);
  });
  afterEach(async () => {
    // A request that is never answered breaks off.
    await side.stop();
    await client.stop();
  });

  test('is told what the target answered: all of it, parts in JSON, a text, a page', async () => {
    await set({ reply: 'answer' });
    expect(await send({ site: 'AB-02' })).toEqual({
      status: 200,
      type: 'application/json',
      body: '{"ticket":{"number":7}}',
    });
    await set({ reply: 'answer', replyText: '{"message": "No. {ticket.number}"}' });
    expect((await send({ site: 'AB-03' })).body).toBe('{"message":"No. 7"}');
    await set({ reply: 'answer', replyText: 'Your number is {ticket.number}.' });
    expect(await send({ site: 'AB-04' })).toEqual({
      status: 200,
      type: 'text/plain; charset=utf-8',
      body: 'Your number is 7.',
    });
    const page = await send({ site: 'AB-05' }, { accept: 'text/html' });
    expect([page.type, page.body]).toEqual(['text/html; charset=utf-8', expect.stringContaining('Your number is 7.')]);
  });

  test.each<[string, object, string]>([
    [
      '{"error": "{message}", "field": "{response.field}"}',
      {},
      '{"error":"Request rejected by the target (422). Response: No such site.","field":"site"}',
    ],
    ['Sorry: {response.error}', {}, 'Sorry: No such site.'],
    ['Sorry: {response.error}', { accept: 'text/html' }, 'Sorry: No such site.'],
  ])('is told %s where the target refuses, with 422', async (refusalText, headers, says) => {
    await set({ reply: 'answer', refusalText });
    answers = () => [422, { error: 'No such site.', field: 'site' }];
    const { status, body } = await send(
      { site: `AB-1${refusalText.length}${Object.keys(headers).length}` },
      { ...headers },
    );
    expect([status, body]).toEqual([422, expect.stringContaining(says)]);
  });

  test.each<[string, () => void, object]>([
    ['the target refuses and nobody worded that', () => (answers = () => [422, { error: 'no' }]), { site: 'AB-06' }],
    ['the target takes too long', () => (answers = () => null), { site: 'AB-07' }],
    ['nothing is delivered of it', () => undefined, []],
    ['it came before', () => undefined, { site: 'AB-01' }],
  ])('is told that it arrived where %s', async (_, prepare, data) => {
    await set({ reply: 'answer', replyWait: 1 });
    prepare();
    const { status, body } = await send(data);
    expect([status, JSON.parse(body)]).toEqual([202, { id: expect.any(String) }]);
  });

  test('how long it waits is bounded', async () => {
    expect((await set({ replyWait: 120 })).status).toBe(422);
  });
});
