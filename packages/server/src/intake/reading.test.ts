import { randomUUID } from 'node:crypto';
import type { ArrivalSummary, ArrivalView, IntakeView, PinsPreview, SamplesView, WorkView } from '@grammata/contract';
import type { Submission } from '@grammata/core/submission';
import { readdirSync } from 'node:fs';
import { connect } from 'node:net';
import path from 'node:path';
import { eventually, startServer, type Client } from '../testing/running';
import { deleteOld } from './retention';

let client: Client;
let intake: IntakeView;

beforeAll(async () => {
  client = await startServer();
});
afterAll(async () => {
  await client.stop();
});
beforeEach(async () => {
  intake = (await client.call<IntakeView>('POST', '/intakes', { name: `Odd builder ${randomUUID()}` })).json;
});

const send = (body: string, type = 'application/json') =>
  fetch(`${client.url}${new URL(intake.address).pathname}`, {
    method: 'POST',
    headers: { 'content-type': type },
    body,
  });
const seen = () => client.call<IntakeView>('GET', `/intakes/${intake.id}`).then(each => each.json);
const arrivals = () => client.call<ArrivalSummary[]>('GET', `/intakes/${intake.id}/arrivals`).then(each => each.json);
const allRead = () =>
  eventually(
    arrivals,
    list => list.length > 0 && list.every(each => each.state !== 'waiting' && each.state !== 'reading'),
  );
const viewOf = (id: string) => client.call<ArrivalView>('GET', `/arrivals/${id}`).then(each => each.json);
const works = () => client.call<WorkView[]>('GET', `/work?intake=${intake.id}`).then(each => each.json);
const worked = () => eventually(works, list => list.length > 0 && list.every(each => each.state !== 'running'));
const upload = (name: string, body: BodyInit) =>
  client.upload(`/intakes/${intake.id}/upload?name=${encodeURIComponent(name)}`, body);

/** Nothing in it is named for what it is; two forms come in one message. */
const odd = (site: string) =>
  JSON.stringify({
    out: [
      { sort: 'alert', body: { a1: site } },
      { sort: 'access', body: { who: 'Wen Xiu' } },
    ],
  });

test('a notice of identifiers alone is read where somebody pointed at its list', async () => {
  const notice = (id: number) =>
    JSON.stringify({ value: [{ responseId: id, formId: `water-${intake.id}`, data: {} }] });
  await send(notice(7));
  await allRead();
  await client.call('PUT', `/intakes/${intake.id}/pins`, { split: '/value' });
  await send(notice(8));
  await eventually(async () => (await arrivals()).length === 2 && (await allRead()), Boolean);
  await worked();
  expect((await arrivals()).map(each => [each.state, each.trouble])).toEqual([
    ['read', null],
    ['read', null],
  ]);
  const views = await Promise.all((await arrivals()).map(each => viewOf(each.id)));
  expect(views.map(each => each.decoded[0]?.id).sort()).toEqual(['7', '8']);
});

describe('pins', () => {
  const pins = { split: '/out', answers: '/body', form: '/sort' };

  test('are previewed on what is recorded, and change nothing until they are kept', async () => {
    await send(odd('Mill Race'));
    await send('{"plain":"flat","and":"small"}');
    await allRead();
    const { json } = await client.call<PinsPreview>('POST', `/intakes/${intake.id}/pins/preview`, pins);
    expect(json).toMatchObject({ looked: 2, recorded: 2, changed: 1, missing: 1 });
    expect(json.rows.find(each => each.missing === null)?.after).toMatchObject({
      submissions: 2,
      form: 'alert',
      answers: [{ label: 'A1', value: 'Mill Race' }],
    });
    expect((await seen()).pins).toEqual({});
  });

  test('once kept, apply to what was recorded and to what comes', async () => {
    await send(odd('Mill Race'));
    const [before] = await allRead();
    const kept = (await viewOf(before!.id)).decoded.map(each => each.sampleId);
    await client.call('PUT', `/intakes/${intake.id}/pins`, pins);
    expect((await worked())[0]).toMatchObject({ kind: 'reread', state: 'done', done: 1, total: 1 });
    await send(odd('Ford'));
    const list = await eventually(arrivals, all => all.length === 2 && all.every(each => each.state === 'read'));
    expect(list.map(each => each.submissions)).toEqual([2, 2]);
    expect((await seen()).forms.map(each => [each.key, each.submissions]).sort()).toEqual([
      ['access', 2],
      ['alert', 2],
    ]);
    // What was read before keeps its identity: deliveries hang on it.
    const again = (await viewOf(before!.id)).decoded.map(each => each.sampleId);
    expect(again).toEqual(expect.arrayContaining(kept.slice(0, 1)));
  });

  test('that are no pointers are refused', async () => {
    const { status, json } = await client.call('PUT', `/intakes/${intake.id}/pins`, { answers: 'data' });
    expect([status, JSON.stringify(json)]).toEqual([422, expect.stringContaining('starting with “/”')]);
  });
});

describe('several forms at one address', () => {
  const form = (key: string) => JSON.stringify({ form_id: key, answers: { site: 'Ford', ph: '7' } });

  test('the first is what the intake is for; the next is new until somebody adopts or ignores it', async () => {
    await send(form('sampling'));
    await send(form('kit'));
    await allRead();
    const { forms } = await seen();
    expect(forms.map(each => [each.key, each.state]).sort()).toEqual([
      ['kit', 'new'],
      ['sampling', 'adopted'],
    ]);
    const kit = forms.find(each => each.key === 'kit')!;
    await client.call('PATCH', `/forms/${kit.id}`, { state: 'ignored', name: 'Kit request' });
    expect((await seen()).forms.find(each => each.key === 'kit')).toMatchObject({
      state: 'ignored',
      name: 'Kit request',
    });
  });
});

describe('samples', () => {
  test('can be named, kept and edited into variants', async () => {
    await send('{"site":"Ford","ph":"7"}');
    await allRead();
    const formId = (await seen()).forms[0]!.id;
    const samples = () => client.call<SamplesView>('GET', `/forms/${formId}/samples`).then(each => each.json.samples);
    const [first] = await samples();
    await client.call('PATCH', `/samples/${first!.id}`, { name: 'The plain one', kept: true });
    const submission: Submission = { ...first!.submission, fields: [] };
    const made = await client.call<{ id: string }>('POST', `/forms/${formId}/variants`, {
      name: 'Nothing answered',
      submission,
    });
    expect(made.status).toBe(201);
    expect((await samples()).map(each => [each.name, each.kept, each.isVariant])).toEqual([
      ['Nothing answered', true, true],
      ['The plain one', true, false],
    ]);
    const bad = await client.call('PUT', `/variants/${made.json.id}`, { name: 'x', submission: { fields: 'none' } });
    expect(bad.status).toBe(422);
    await client.call('DELETE', `/variants/${made.json.id}`);
    expect(await samples()).toHaveLength(1);
  });

  test('what is kept outlives the keeping time', async () => {
    await send('{"site":"Ford"}');
    await send('{"site":"Weir"}');
    const list = await allRead();
    const [kept] = (await viewOf(list[0]!.id)).decoded;
    await client.call('PATCH', `/samples/${kept!.sampleId}`, { kept: true });
    await client.call('PATCH', `/intakes/${intake.id}`, { keepDays: 30 });
    const { store, ledger, bodies } = client.running.services;
    const days = (n: number) => Date.now() + n * 86_400_000;
    const gone = (at: number) => deleteOld(store, ledger, bodies, at);
    expect(await gone(days(29))).toBe(0);
    expect(await gone(days(31))).toBe(1);
    expect((await arrivals()).map(each => each.id)).toEqual([list[0]!.id]);
  });

  test('so does what has a name, and what is not delivered yet; ended sessions go', async () => {
    await send('{"site":"Ford"}');
    const [named] = await allRead();
    const [sample] = (await viewOf(named!.id)).decoded;
    await client.call('PATCH', `/samples/${sample!.sampleId}`, { name: 'the ford' });
    await client.call('PATCH', `/intakes/${intake.id}`, { keepDays: 1 });
    const { store, ledger, bodies } = client.running.services;
    await deleteOld(store, ledger, bodies, Date.now() + 10 * 86_400_000);
    expect((await arrivals()).map(each => each.id)).toEqual([named!.id]);
    const owner = store.accounts.owner()!;
    const [ended, open] = [store.accounts.openSession(owner.id, -1), store.accounts.openSession(owner.id, 60_000)];
    store.accounts.purgeSessions();
    expect([store.accounts.bySession(ended), store.accounts.bySession(open)?.id]).toEqual([null, owner.id]);
  });
});

describe('large bodies', () => {
  const stored = () => readdirSync(path.join(client.dataDir, 'bodies'));
  const multipart = (size: number) => {
    const form = new FormData();
    form.append('what', 'Diesel smell');
    form.append('evidence', new File([new Uint8Array(size).fill(7)], 'spill é.mp4', { type: 'video/mp4' }));
    return fetch(`${client.url}${new URL(intake.address).pathname}`, { method: 'POST', body: form });
  };

  test('are laid aside and read from there, files by name and size', async () => {
    expect((await multipart(3_000_000)).status).toBe(202);
    const [arrival] = await allRead();
    const view = await viewOf(arrival!.id);
    expect(view).toMatchObject({ state: 'read', cut: false, media: 'multipart' });
    expect(view.decoded[0]).toMatchObject({
      fields: [{ key: 'what', value: 'Diesel smell' }],
      files: [{ field: 'evidence', name: 'spill é.mp4', type: 'video/mp4', size: 3_000_000 }],
    });
    expect(stored()).toEqual([arrival!.id]);
    await client.call('DELETE', `/intakes/${intake.id}`);
    expect(stored()).toEqual([]);
  });

  test('over the limit leave their beginning and no file', async () => {
    await client.call('PATCH', `/intakes/${intake.id}`, { sizeLimit: 2_000_000 });
    expect((await multipart(3_000_000)).status).toBe(413);
    const [arrival] = await allRead();
    expect(arrival).toMatchObject({ state: 'refused', size: expect.any(Number) as number });
    expect(arrival!.size).toBeGreaterThan(3_000_000);
    expect(stored()).toEqual([]);
  });

  test('that break off leave nothing', async () => {
    const { hostname, port } = new URL(client.url);
    const socket = connect(Number(port), hostname);
    const head = `POST ${new URL(intake.address).pathname} HTTP/1.1\r\nHost: x\r\nContent-Length: 5000000\r\n\r\n`;
    await new Promise<void>(done => socket.write(head + 'x'.repeat(1_500_000), () => done()));
    await eventually(stored, names => names.length === 1);
    socket.destroy();
    await eventually(stored, names => names.length === 0);
    expect(await arrivals()).toEqual([]);
  });

  test('of JSON are decoded in a thread of their own', async () => {
    const rows = Array.from({ length: 400 }, (_, index) => ({ id: `e${index}`, site: 'Ford', note: 'x'.repeat(3000) }));
    expect((await send(JSON.stringify({ rows }))).status).toBe(202);
    const [arrival] = await allRead();
    expect(arrival).toMatchObject({ state: 'read', submissions: 400 });
  });
});

test('a small message with many submissions is read whole, in portions, and each is delivered once', async () => {
  const rows = Array.from({ length: 2500 }, (_, n) => ({ id: `e${n}`, site: 'AB-07', ph: n % 14 }));
  expect((await send(JSON.stringify(rows))).status).toBe(202);
  const [arrival] = await eventually(arrivals, list => list[0]?.state === 'read');
  expect(arrival).toMatchObject({ state: 'read', submissions: 2500 });
  expect((await seen()).forms[0]!.submissions).toBe(2500);
});

describe('large files', () => {
  const rows = 500;
  const csv = [
    'id,site,ph',
    ...Array.from({ length: rows }, (_, index) => `e${index},Withy Bridge (AB-07) ${'.'.repeat(600)},7.${index % 10}`),
  ];

  test('are read apart, with progress, and report the rows that could not be read', async () => {
    csv[4] = 'e3,Ford,7.1,one too many';
    const large = `${csv.join('\n')}\n${'e-last,"a very long remark'.padEnd(40_000, '.')}",7`;
    expect((await upload('past.csv', large)).status).toBe(202);
    const [work] = await worked();
    expect(work).toMatchObject({ kind: 'upload', state: 'done', done: rows + 1, total: rows + 1, reported: 1 });
    expect(work!.report[0]).toContain('Row 5 has 4 values for 3 columns');
    expect((await seen()).forms[0]!.submissions).toBe(rows + 1);
  });
});

describe('an identifier proves itself', () => {
  const entry = (sheet: string, answers: object) => JSON.stringify({ spreadsheet: { id: sheet }, ...answers });
  const shownArrivals = async () => {
    const list = await allRead();
    return Promise.all(list.map(each => viewOf(each.id)));
  };

  test('what has the same one and says something else is another submission, and that is told', async () => {
    await send(JSON.stringify({ submission_id: 'sheet-1', name: 'Ada', town: 'Elden' }));
    await send(JSON.stringify({ submission_id: 'sheet-1', name: 'Wen', town: 'Alder' }));
    await eventually(arrivals, list => list.length === 2 && list.every(each => each.state === 'read'));
    const views = await shownArrivals();
    expect(views.map(each => each.repeats)).toEqual([false, false]);
    expect(views.map(each => each.shared)).toEqual([
      { id: 'sheet-1', submissions: 1 },
      { id: 'sheet-1', submissions: 1 },
    ]);
  });
  test('what has the same one and says the same came before', async () => {
    const body = JSON.stringify({ submission_id: 's-1', name: 'Ada', town: 'Elden' });
    await send(body);
    await send(JSON.stringify({ town: 'Elden', ...(JSON.parse(body) as object) }));
    await eventually(arrivals, list => list.length === 2 && list.every(each => each.state === 'read'));
    const views = await shownArrivals();
    expect(views.map(each => each.shared)).toEqual([null, null]);
    expect(views.map(each => each.repeats)).toEqual([true, false]);
  });
  test('several in one message, too', async () => {
    await send(
      `[${entry('sheet', { name: 'Ada' })},${entry('sheet', { name: 'Wen' })},${entry('sheet', { name: 'Ivo' })}]`,
    );
    const [view] = await shownArrivals();
    expect(view).toMatchObject({ submissions: 3, repeats: false });
  });
  test('another that is pointed at judges what is recorded anew', async () => {
    const one = (name: string, entryNo: string) => JSON.stringify({ submission_id: 'same', name, entry_no: entryNo });
    await send(one('Ada', 'e1'));
    await send(one('Ada', 'e1'));
    await send(one('Wen', 'e2'));
    await eventually(arrivals, list => list.length === 3 && list.every(each => each.state === 'read'));
    expect((await shownArrivals()).map(each => each.repeats)).toEqual([false, true, false]);
    await client.call('PUT', `/intakes/${intake.id}/pins`, { id: '/entry_no' });
    await eventually(shownArrivals, list => list.every(each => each.shared === null && each.decoded[0]!.id !== 'same'));
    expect((await shownArrivals()).map(each => [each.decoded[0]!.id, each.repeats])).toEqual([
      ['e2', false],
      ['e1', true],
      ['e1', false],
    ]);
  });
});

test('a reading that is not sure says so', async () => {
  await send('{"zub":"x","wef":"y z","mlo":[{"ka":1,"pi":2},{"ka":3,"pi":4}],"brel":{"q":{"r":"s t"}}}');
  const [head] = await allRead();
  const view = await viewOf(head!.id);
  expect([head!.isSure, view.envelope!.isSure]).toEqual([false, false]);
  await send(JSON.stringify({ id: 's1', submitted_at: '2026-03-04T08:12:00Z', answers: [{ id: 'a', label: 'Which site?', value: 'Ford' }, { id: 'b', label: 'How deep?', value: 2 }] })); // prettier-ignore
  const list = await eventually(arrivals, all => all.length === 2 && all.every(each => each.state === 'read'));
  expect(list[0]!.isSure).toBe(true);
});

test('what is known of an intake weighs: a message that could be read in several ways is read as those before it', async () => {
  const answers = (said: Record<string, string>) =>
    JSON.stringify({ id: `s-${Object.keys(said).length}`, submitted_at: '2026-03-04T08:12:00Z', answers: Object.fromEntries(Object.entries(said).map(([key, value]) => [key, { kind: 'line', told: value }])) }); // prettier-ignore
  await send(answers({ 'Which site?': 'Ford', 'How deep is it?': 'Two metres', 'Who was there?': 'Ada and Wen' }));
  const first = await allRead();
  const sure = await viewOf(first[0]!.id);
  expect(sure.decoded[0]!.fields.map(({ label }) => label)).toEqual([
    'Which site?',
    'How deep is it?',
    'Who was there?',
  ]);
  await send(answers({ 'Which site?': 'Weir' }));
  const list = await eventually(arrivals, all => all.length === 2 && all.every(each => each.state === 'read'));
  const alone = await viewOf(list[0]!.id);
  expect(alone.envelope).toMatchObject({ reader: sure.envelope!.reader, answersAt: '/answers' });
  expect(alone.decoded[0]!.fields.map(({ label, value }) => [label, value])).toEqual([['Which site?', 'Weir']]);
});

test('the first message that is built otherwise than those before it says so', async () => {
  const listed = (name: string) =>
    JSON.stringify({
      entry: `e-${name.length}-7`,
      sent: '2026-11-04T08:12:06Z',
      answers: [
        { ref: 'who', label: 'Who is asking?', value: name },
        { ref: 'why', label: 'What do you need the key for?', value: 'Two nights at the weir' },
      ],
    });
  const moved = JSON.stringify({ payload: JSON.parse(listed('Tom Fell of Withy')) as object, version: 2 });
  for (const body of [listed('Ada Reed'), listed('Una Marsh'), moved, moved]) {
    await send(body);
    await allRead();
  }
  const views = await Promise.all((await arrivals()).reverse().map(each => viewOf(each.id)));
  expect(views.map(each => [each.envelope?.answersAt, each.before?.answersAt ?? null])).toEqual([
    ['/answers', null],
    ['/answers', null],
    ['/payload/answers', '/answers'],
    ['/payload/answers', null],
  ]);
});

describe('forms that are the same, sent another way', () => {
  const older = (n: number) =>
    JSON.stringify({ form: { key: 'slip-v1', title: 'Slip request' }, id: `a-${n}`, submitted_at: '2026-11-04T08:12:06Z', answers: [{ ref: 'who', label: 'Who is asking?', value: 'Ada Reed' }, { ref: 'why', label: 'What for?', value: 'Two nights' }] }); // prettier-ignore
  const newer = (n: number) =>
    JSON.stringify({ survey: { key: 'slip-v2', title: 'Slip request' }, entry: { id: `b-${n}`, sent: '2026-11-05T08:12:06Z' }, items: [{ ref: 'who', ask: 'Who is asking?', said: 'Tom Fell' }, { ref: 'why', ask: 'What for?', said: 'A week' }] }); // prettier-ignore
  const forms = async () =>
    (await seen()).forms.map(({ key, submissions, same }) => [key, submissions, same.length]).sort();
  const patch = (key: string, body: object) =>
    seen().then(({ forms }) => client.call('PATCH', `/forms/${forms.find(each => each.key === key)!.id}`, body));

  test('stand side by side as one, and apart again', async () => {
    for (const body of [older(1), newer(1), newer(2)]) {
      await send(body);
      await allRead();
    }
    expect(await forms()).toEqual([
      ['slip-v1', 1, 0],
      ['slip-v2', 2, 0],
    ]);
    const [first, second] = (await seen()).forms.sort((a, b) => (a.key < b.key ? -1 : 1));
    expect((await patch('slip-v2', { sameAs: first!.id })).status).toBe(200);
    await send(newer(3));
    expect(await eventually(forms, all => all[0]?.[1] === 4)).toEqual([['slip-v1', 4, 1]]);
    const list = await arrivals();
    expect(new Set(list.map(each => each.formId))).toEqual(new Set([first!.id]));

    await worked();
    expect((await client.call('PATCH', `/forms/${second!.id}`, { sameAs: '' })).status).toBe(200);
    expect(await eventually(forms, all => all.length === 2)).toEqual([
      ['slip-v1', 1, 0],
      ['slip-v2', 3, 0],
    ]);
    expect((await arrivals()).filter(each => each.formId === second!.id)).toHaveLength(3);
  });

  test('what it can’t be the same as is refused', async () => {
    await send(older(1));
    await allRead();
    const [form] = (await seen()).forms;
    for (const sameAs of [form!.id, 'nowhere'])
      expect((await patch('slip-v1', { sameAs })).json).toMatchObject({
        status: 422,
        errors: [{ field: 'sameAs', message: 'Choose another form of the same intake.' }],
      });
  });
});

test('a question that is answered with files is one for files: a bare link to it is one', async () => {
  const asked = (n: number, proof: unknown) =>
    JSON.stringify({ entry: { id: `e-${n}`, submitted_at: '2026-11-04T08:12:06Z' }, answers: [{ ref: 'who', label: 'Who is asking?', value: 'Ada Reed' }, { ref: 'proof', label: 'Anything that shows it?', value: proof }] }); // prettier-ignore
  const link = 'https://store.example.org/7/letter.pdf';
  await send(asked(1, link));
  const alone = await allRead();
  expect((await viewOf(alone[0]!.id)).decoded[0]!.files).toEqual([]);
  for (let n = 2; n < 44; n++) await send(asked(n, [{ name: `p${n}.pdf`, size: n, url: `${link}?${n}` }]));
  await eventually(arrivals, list => list.every(each => each.state === 'read'));
  await send(asked(90, link));
  await allRead();
  const [last] = await arrivals();
  expect((await viewOf(last!.id)).decoded[0]!.files).toMatchObject([{ field: 'proof', name: 'letter.pdf', url: link }]);
});
