import { mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { decode } from '@grammata/core/decode';
import { Webhook } from 'standardwebhooks';
import { freshSecret, signedHeaders } from './builders/sign';
import { catalogue, complaintsAbout, sites, startYard, tables, type Yard } from '.';

const samples = tables[0]!;
const record = { site: sites[0], sampled_at: '2026-11-04T07:55:00Z', observer_email: 'wen.xiu@example.org' };

test.each<[string, Record<string, unknown>, string[]]>([
  ['a good record', record, []],
  ['an unknown column', { ...record, colour: 'red' }, ['colour']],
  ['a missing column', { ...record, site: '' }, ['site']],
  ['an unknown option', { ...record, site: 'Reed Corner (AB-21)' }, ['site']],
  ['a wrong type', { ...record, ph: '7' }, ['ph']],
  ['too long a text', { ...record, signs: 'x'.repeat(121) }, ['signs']],
  ['a read-only column', { ...record, record_no: 5 }, ['record_no']],
])('the register on %s', (_, values, fields) =>
  expect(complaintsAbout(samples, values).map(each => each.field)).toEqual(fields),
);

test('the builder’s payload is read as what was filled in', () => {
  const filled = {
    entry: 'e-1',
    sent: '2026-11-04T08:12:06Z',
    client: { addr: '192.0.2.14', agent: 'x' },
    answers: {
      s1: sites[0]!,
      s6: ['Foam', 'Other: eels'],
      s11: 2,
      s13: true,
      s12: [{ name: 'a.jpg', href: 'https://files.example.org/a.jpg', bytes: 5, mime: 'image/jpeg' }],
    },
  };
  const { form, kind } = catalogue[0]!;
  const { body, contentType } = kind.message!(form, filled, { generation: 'now', method: 'POST' });
  const { submissions } = decode(body, contentType);
  expect(submissions).toMatchObject([
    { form: { key: 'smp', name: 'Sampling report' }, id: 'e-1', files: [{ field: 's12', name: 'a.jpg', size: 5 }] },
  ]);
  expect(Object.fromEntries(submissions[0]!.fields.map(field => [field.key, field.value]))).toEqual({
    s1: sites[0],
    s6: ['Foam', 'Other: eels'],
    s11: 2,
    s13: true,
  });
});

test('what the builder signs, the standard’s own library takes', () => {
  const secret = freshSecret();
  const body = '{"site":"Otter Weir é"}';
  const headers = signedHeaders(secret, body, Date.now());
  expect(new Webhook(secret).verify(body, headers)).toEqual({ site: 'Otter Weir é' });
  expect(() => new Webhook(freshSecret()).verify(body, headers)).toThrow();
});

describe('the yard over HTTP', () => {
  const dataDir = mkdtempSync(path.join(tmpdir(), 'yard-'));
  let yard: Yard;
  beforeAll(async () => {
    yard = await startYard({ host: '127.0.0.1', port: 0, dataDir });
  });
  afterAll(async () => {
    await yard.stop();
    rmSync(dataDir, { recursive: true });
  });
  const create = (values: object, headers: Record<string, string> = {}) =>
    fetch(`${yard.register.baseUrl}/tables/samples/records`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', authorization: `Bearer ${yard.register.token}`, ...headers },
      body: JSON.stringify({ values }),
    });

  test('the register wants its token', async () =>
    expect((await create(record, { authorization: 'Bearer guess' })).status).toBe(401));
  test('a record is made once under its idempotency key', async () => {
    const first = await create(record, { 'idempotency-key': 'k1' });
    const second = await create(record, { 'idempotency-key': 'k1' });
    expect([first.status, second.status]).toEqual([201, 200]);
    expect(await second.json()).toEqual(await first.json());
  });
  test('what is refused says which column and why', async () => {
    const answer = await create({ ...record, site: 'nowhere' });
    expect([answer.status, await answer.json()]).toMatchObject([
      422,
      { errors: [{ field: 'site', message: expect.stringContaining('nowhere') }] },
    ]);
  });
  test.each([
    ['error', 500],
    ['busy', 429],
    ['token', 401],
  ])('with the fault “%s” it answers %d', async (fault, status) => {
    await fetch(`${new URL(yard.url).origin}/register/fault`, { method: 'POST', body: new URLSearchParams({ fault }) });
    expect((await create(record)).status).toBe(status);
    await fetch(`${new URL(yard.url).origin}/register/fault`, {
      method: 'POST',
      body: new URLSearchParams({ fault: 'none' }),
    });
  });

  test('a form that is filled in is posted to the address it was given, with its photos served by the yard', async () => {
    const bodies: string[] = [];
    const intake = createServer((request, response) => {
      let body = '';
      request.on('data', chunk => (body += chunk)).on('end', () => (bodies.push(body), response.writeHead(202).end()));
    });
    await new Promise<void>(done => intake.listen(0, '127.0.0.1', done));
    yard.pointAt('sampling-report', `http://127.0.0.1:${(intake.address() as AddressInfo).port}/in/x`);
    const form = new FormData();
    for (const [name, value] of [
      ['s1', sites[0]!],
      ['s2', '4/11/2026 7:55'],
      ['s6', 'Foam'],
      ['s6', 'dead eels'],
      ['s8', 'Wen'],
      ['s9', 'wen.xiu@example.org'],
    ])
      form.append(name!, value!);
    form.append('s12', new File(['hello'], 'weir é.jpg', { type: 'image/jpeg' }));
    const page = await (
      await fetch(`${yard.url}/builders/sampling-report/answers`, { method: 'POST', body: form })
    ).text();
    expect(page).toContain('Thank you');
    const { replies } = JSON.parse(bodies[0]!) as {
      replies: { q: string; picks?: string[]; docs?: { name: string; href: string }[] }[];
    };
    expect(replies.find(each => each.q === 's6')!.picks).toEqual(['Foam', 'Other: dead eels']);
    const [doc] = replies.find(each => each.q === 's12')!.docs!;
    expect(doc!.name).toBe('weir é.jpg');
    expect(await (await fetch(doc!.href)).text()).toBe('hello');
    intake.close();
  });

  describe('every builder', () => {
    const got: { method: string; url: string; type: string; body: Buffer }[] = [];
    let status = 202;
    let address = '';
    const intake = createServer((request, response) => {
      const chunks: Buffer[] = [];
      request
        .on('data', chunk => chunks.push(chunk as Buffer))
        .on('end', () => {
          const type = request.headers['content-type'] ?? '';
          got.push({ method: request.method!, url: request.url!, type, body: Buffer.concat(chunks) });
          response.writeHead(status).end();
        });
    });
    beforeAll(async () => {
      await new Promise<void>(done => intake.listen(0, '127.0.0.1', done));
      address = `http://127.0.0.1:${(intake.address() as AddressInfo).port}/in/x`;
    });
    afterAll(() => {
      intake.closeAllConnections();
      intake.close();
    });
    beforeEach(() => {
      got.length = 0;
      status = 202;
    });
    const set = (id: string, values: object) =>
      fetch(`${yard.url}/builders/${id}/settings`, {
        method: 'POST',
        body: new URLSearchParams({ address, ...values }),
        redirect: 'manual',
      });
    const sendTest = (id: string) =>
      fetch(`${yard.url}/builders/${id}/test`, { method: 'POST' }).then(answer => answer.text());

    test.each(
      catalogue.filter(each => each.kind.way === 'push').map(each => [each.id, each.form.questions.length] as const),
    )('%s sends a test that has every question answered', async (id, questions) => {
      await set(id, {});
      expect(await sendTest(id)).toContain('Thank you');
      const { url, type, body } = got[0]!;
      const [read] = decode(body, type, url.split('?')[1] ?? '').submissions;
      expect(read!.fields.length + read!.files.length).toBe(questions);
    });

    test('one that lets its owner choose sends by GET', async () => {
      await set('kit-request', { method: 'GET', generation: 'earlier' });
      await sendTest('kit-request');
      expect(got[0]).toMatchObject({ method: 'GET', url: expect.stringContaining('kits_kit%5B%5D=') as string });
    });

    test('what is not taken is said, and sent again', async () => {
      status = 503;
      await set('volunteer-sign-up', {});
      expect(await sendTest('volunteer-sign-up')).toContain('not taken');
      status = 202;
      for (const end = performance.now() + 8000; got.length < 2 && performance.now() < end;)
        await new Promise(resolve => setTimeout(resolve, 20));
      expect(got).toHaveLength(2);
      expect(got[1]!.body).toEqual(got[0]!.body);
    });

    test('the feed wants its token and gives rows by pages', async () => {
      yard.fill(
        'site-access-log',
        Array.from({ length: 60 }, (_, index) => ({ row_id: `r${index}` })),
      );
      const rows = (query: string, token = 'yard-feed-51ad') =>
        fetch(`${yard.url}/builders/site-access-log/rows${query}`, { headers: { authorization: `Bearer ${token}` } });
      expect((await rows('', 'guess')).status).toBe(401);
      expect(await (await rows('')).json()).toMatchObject({ more: { after: '50' } });
      expect(await (await rows('?after=50')).json()).toMatchObject({ rows: { length: 10 }, more: { after: null } });
    });
  });
});

describe('what is looked after by others changes', () => {
  let yard: Yard;
  let dataDir: string;
  beforeAll(async () => {
    dataDir = mkdtempSync(path.join(tmpdir(), 'yard-'));
    yard = await startYard({ host: '127.0.0.1', port: 0, dataDir });
  });
  afterAll(async () => {
    await yard.stop();
    rmSync(dataDir, { recursive: true });
  });
  const submit = (place: string, body: Record<string, string>) =>
    fetch(`${yard.url}${place}`, { method: 'POST', body: new URLSearchParams(body), redirect: 'manual' });

  test('a form, and back', async () => {
    const text = async () => (await fetch(`${yard.url}/builders/sampling-report`)).text();
    expect(
      (await submit('/builders/sampling-report/form', { question: 's8', what: 'reworded', to: 'Who are you?' })).status,
    ).toBe(303);
    expect(await text()).toContain('Who are you?');
    expect((await submit('/builders/sampling-report/form', { question: 's8', what: 'reworded', to: '' })).status).toBe(
      422,
    );
    await submit('/builders/sampling-report/form', { what: 'back' });
    expect(await text()).not.toContain('Who are you?');
  });

  test('a target, and back', async () => {
    const columns = async () => {
      const answer = await fetch(`${yard.register.baseUrl}/tables`, {
        headers: { authorization: `Bearer ${yard.register.token}` },
      });
      const { tables } = (await answer.json()) as {
        tables: { key: string; columns: { key: string; required?: boolean }[] }[];
      };
      return tables[0]!.columns.find(each => each.key === 'ph')!;
    };
    await submit('/register/columns', { table: 'samples', column: 'ph', what: 'required' });
    expect(await columns()).toMatchObject({ required: true });
    await submit('/register/columns', { table: 'samples', what: 'back' });
    expect((await columns()).required).toBeUndefined();
  });

  test('a bad week comes all at once', async () => {
    expect((await submit('/week', {})).headers.get('location')).toBe('/builders/sampling-report');
    expect(await (await fetch(`${yard.url}/builders/sampling-report`)).text()).toContain('Dissolved oxygen');
    await submit('/builders/sampling-report/form', { what: 'back' });
    await submit('/register/columns', { table: 'samples', what: 'back' });
  });
});
