import { createHash, randomBytes } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync, rmSync, statSync, truncateSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Readable } from 'node:stream';
import type { RequestPlan } from '@grammata/core/request';
import { copyLink } from '@grammata/core/request';
import type { FileValue, Submission } from '@grammata/core/submission';
import busboy from 'busboy';
import PostalMime from 'postal-mime';
import { SMTPServer } from 'smtp-server';
import { vaultWith } from '../access';
import { stage, RowFiles, type Contents, type Copies, type FileFault, type Staged } from '../files';
import { Authorizations, isFault, Outward } from '../outward';
import { json, startAnswering, type Answering } from '../testing/answering';
import { Courier, type Errand } from './courier';
import { layered, renewsToken } from './layers';
import { Postman } from './postman';

const vault = vaultWith(randomBytes(32));
const outward = new Outward(['127.0.0.1']);
const folder = mkdtempSync(path.join(tmpdir(), 'grammata-courier-'));
let target: Answering;
const photo = Buffer.concat([Buffer.from('GIF89a'), randomBytes(200_000)]);
const files = [
  { field: 'photos', name: '../../evil "name".gif', type: 'image/jpeg', size: photo.length, url: null },
  { field: 'photos', name: 'b.txt', type: 'text/plain', size: 5, url: 'https://b.example.org/b.txt' },
];
const data: Submission = { form: null, id: 's', submittedAt: null, meta: {}, questions: [], fields: [], files };
const contents = {
  get: (_id: string, _data: Submission, index: number): Promise<Staged | FileFault> =>
    index === 0
      ? stage(folder, [photo.subarray(0, 1000), photo.subarray(1000)], 'image/jpeg', 1e6)
      : index === 1
        ? stage(folder, [Buffer.from('hello')], 'text/plain', 1e6)
        : Promise.resolve({ isPassing: false, message: 'It is gone.' }),
  elsewhere: (_id: string, file: FileValue): Promise<Staged | FileFault> =>
    file.url?.startsWith('via:')
      ? stage(folder, [Buffer.from('fetched')], 'text/plain', 1e6).then(each => ({
          ...each,
          name: '../their "name".txt',
        }))
      : Promise.resolve({ isPassing: file.url !== null, message: `“${file.name}” is gone.` }),
} as unknown as Contents;
const copies = {
  keep: (staged: Staged, name: string) => {
    staged.remove();
    return `https://g.example.org/copies/x/${encodeURIComponent(name)}?until=1&sig=secret`;
  },
} as unknown as Copies;
const authorizations = new Authorizations(outward, vault);
const courier = new Courier({
  outward,
  authorizations,
  contents,
  copies,
  postman: new Postman(vault, ['127.0.0.1']),
  rows: new RowFiles(path.join(folder, 'rows')),
  send: layered(renewsToken(authorizations)),
});

beforeAll(async () => {
  target = await startAnswering((_, response) => json(response, 201, { id: '7' }));
});
beforeEach(() => void (target.heard.length = 0));
afterAll(async () => {
  await target.stop();
  await outward.close();
  rmSync(folder, { recursive: true });
});

const plan = (more: Partial<RequestPlan>): RequestPlan => ({
  method: 'POST',
  url: `${target.url}/files`,
  headers: [['accept', 'application/json']],
  body: {},
  encoding: 'json',
  origins: {},
  files: [],
  ...more,
});
const planned = (index: number, pointer: string, as: 'content' | 'base64' = 'content') => ({
  pointer,
  lineId: 'l',
  name: index === 0 ? 'evil name.gif' : 'b.txt',
  file: { name: files[index]!.name, url: files[index]!.url, size: files[index]!.size, type: files[index]!.type },
  as,
  whenLost: 'stop' as const,
});
const errand = (more: Partial<Errand> = {}): Errand => ({
  submissionId: 's',
  data,
  idempotencyKey: 'key-1',
  target: { id: 't', name: 'T', pace: null },
  side: { baseUrl: target.url, auth: { kind: 'bearer' }, secret: vault.seal('token-1') },
  columns: [],
  ...more,
});
const left = () => readdirSync(folder).filter(name => name !== 'rows');

/** Reads a form in parts with a reader that is not ours. */
async function partsOf(headers: Record<string, unknown>, body: Buffer) {
  const parser = busboy({ headers: headers as never, defParamCharset: 'utf8' });
  const found: Record<string, string | { filename: string; mimeType: string; digest: string }> = {};
  parser.on('field', (name, value) => (found[name] = value));
  parser.on('file', (name, stream, { filename, mimeType }) => {
    const hash = createHash('sha256');
    stream.on('data', (chunk: Buffer) => hash.update(chunk));
    stream.on('end', () => (found[name] = { filename: filename ?? '', mimeType, digest: hash.digest('hex') }));
  });
  await new Promise(done => Readable.from(body).pipe(parser).on('close', done));
  return found;
}
const digest = createHash('sha256').update(photo).digest('hex');

// RFC 7578, read back by busboy.
test('a form in parts: the file whole, its type by its bytes, its name without a way out', async () => {
  const { result, recorded } = await courier.carry(
    plan({
      encoding: 'multipart',
      body: { caption: 'Low "water"\nat dusk', file: '‹evil name.gif›' },
      files: [planned(0, '/file')],
    }),
    errand(),
  );
  expect(result).toMatchObject({ status: 201 });
  const { headers, body } = target.heard[0]!;
  expect(Number(headers['content-length'])).toBe(body.length);
  expect(headers).toMatchObject({
    'idempotency-key': expect.stringMatching(/^key-1-[0-9a-f]{16}$/) as string,
    authorization: 'Bearer token-1',
  });
  expect(await partsOf(headers, body)).toEqual({
    caption: 'Low "water"\nat dusk',
    file: { filename: 'evil name.gif', mimeType: 'image/gif', digest },
  });
  expect(recorded).toContain(
    `‹evil name.gif, ${photo.length} bytes, image/gif (said to be image/jpeg), SHA-256 ${digest}›`,
  );
  expect(recorded).not.toContain('token-1');
  expect(left()).toEqual([]);
});

test('the file as the whole body, with its length and type', async () => {
  await courier.carry(
    plan({ method: 'PUT', encoding: 'raw', body: '‹evil name.gif›', files: [planned(0, '')] }),
    errand(),
  );
  expect(target.heard[0]!.body.equals(photo)).toBe(true);
  expect(target.heard[0]!.headers).toMatchObject({
    'content-type': 'image/gif',
    'content-length': String(photo.length),
  });
});

test('the file inside a text, in base64', async () => {
  await courier.carry(
    plan({ body: { file: { content: '‹b.txt›' } }, files: [planned(1, '/file/content', 'base64')] }),
    errand(),
  );
  expect(JSON.parse(target.heard[0]!.body.toString())).toEqual({ file: { content: 'aGVsbG8=' } });
});

test('links to copies are put in wherever they stand, and recorded without their signature', async () => {
  const body = { note: `See ${copyLink(1, 'b.txt')}.`, files: [{ url: copyLink(1, 'b.txt') }] };
  const { recorded } = await courier.carry(plan({ body }), errand());
  const link = 'https://g.example.org/copies/x/b.txt?until=1&sig=secret';
  expect(JSON.parse(target.heard[0]!.body.toString())).toEqual({ note: `See ${link}.`, files: [{ url: link }] });
  expect(recorded).toContain('sig=••••••');
  expect(recorded).not.toContain('sig=secret');
});

test('a file that can’t be had keeps the request from going', async () => {
  const gone = { ...planned(1, '/file'), file: { name: 'c', url: null, size: 1, type: null } };
  const { result } = await courier.carry(
    plan({ encoding: 'multipart', body: { file: '‹c›' }, files: [gone] }),
    errand(),
  );
  expect(result).toEqual({ code: 'file', message: '“c” is gone.', milliseconds: 0 });
  expect(target.heard).toEqual([]);
});

describe('files by another request, and files that are lost', () => {
  const strange = (url: string | null, name: string, whenLost: 'stop' | 'leaveOut', pointer = '/file') => ({
    ...planned(1, pointer),
    name: name || 'file',
    file: { name, url, size: null, type: null },
    whenLost,
  });
  const via = strange('via:t/files/7', '', 'stop');
  const gone = strange(null, 'c', 'leaveOut');
  test('one that is fetched goes along under the name that whoever gives it calls it by', async () => {
    await courier.carry(plan({ encoding: 'multipart', body: { file: '‹file›', note: 'x' }, files: [via] }), errand());
    const body = target.heard[0]!.body.toString();
    expect(body).toContain('name="file"; filename="their name.txt"');
    expect(body).toContain('fetched');
  });
  test('of several, those that can be had go; what was lost is told', async () => {
    const files = [planned(1, '/files'), strange(null, 'c', 'leaveOut', '/files')];
    const { lost, recorded } = await courier.carry(
      plan({ encoding: 'multipart', body: { files: ['‹b.txt›', '‹c›'] }, files }),
      errand(),
    );
    expect(lost).toEqual(['“c” is gone.']);
    expect(target.heard[0]!.body.toString()).not.toContain('filename="c"');
    expect(target.heard[0]!.body.toString()).toContain('filename="b.txt"');
    expect(recorded).not.toContain('‹c›');
  });
  test('the place of one that is lost is left out of a body', async () => {
    const inside = { ...gone, pointer: '/a/file', as: 'base64' as const };
    await courier.carry(plan({ body: { a: { file: '‹c›', kept: 1 }, b: 2 }, files: [inside] }), errand());
    expect(JSON.parse(target.heard[0]!.body.toString())).toEqual({ a: { kept: 1 }, b: 2 });
  });
  test('a request that is nothing but the file is not made without it', async () => {
    const { result, lost } = await courier.carry(
      plan({ encoding: 'raw', body: '‹c›', files: [{ ...gone, pointer: '' }] }),
      errand(),
    );
    expect([result, lost]).toMatchObject([{ code: 'file' }, ['“c” is gone.']]);
    expect(target.heard).toEqual([]);
  });
  test('one that can’t be had for now is waited for, whatever the line says', async () => {
    const late = strange('https://slow.example.org/c', 'c', 'leaveOut');
    const { result } = await courier.carry(
      plan({ encoding: 'multipart', body: { file: '‹c›' }, files: [late] }),
      errand(),
    );
    expect(result).toMatchObject({ code: 'other' });
  });
  test('before anything is sent it is known what will be lacking', async () => {
    const lacking = (files: (typeof via)[]) => courier.filesFault(plan({ files }), errand());
    expect(await lacking([via, gone])).toBeNull();
    expect(await lacking([strange(null, 'd', 'stop')])).toMatchObject({ code: 'file', message: '“d” is gone.' });
    // What an earlier call will say can't be asked for yet.
    expect(await lacking([strange('via:t/files/%E2%80%B9id%20of%201%E2%80%BA', 'd', 'stop')])).toBeNull();
  });
});

test('a token that was refused is fetched anew, once', async () => {
  let tokens = 0;
  const server = await startAnswering(({ url, headers }, response) => {
    if (url === '/token') return json(response, 200, { access_token: `tok-${++tokens}`, expires_in: 600 });
    json(response, headers.authorization === 'Bearer tok-2' ? 201 : 401, {});
  });
  const auth = {
    kind: 'oauth' as const,
    tokenUrl: `${server.url}/token`,
    clientId: 'c',
    scope: '',
    clientIn: 'body' as const,
  };
  const side = { baseUrl: server.url, auth, secret: vault.seal('s') };
  const { result } = await courier.carry(
    plan({ url: `${server.url}/a`, encoding: 'multipart', body: { file: 'x' }, files: [planned(0, '/file')] }),
    errand({ side }),
  );
  expect(result).toMatchObject({ status: 201 });
  expect(server.heard.map(each => each.url)).toEqual(['/token', '/a', '/token', '/a']);
  expect(server.heard[3]!.body.length).toBe(server.heard[1]!.body.length);
  await server.stop();
});

describe('mails', () => {
  let port = 0;
  let mails: { raw: Buffer; to: string[] }[] = [];
  const server = new SMTPServer({
    disabledCommands: ['STARTTLS'],
    authOptional: true,
    allowInsecureAuth: true,
    onAuth: ({ password }, _session, done) =>
      done(password === 'right' ? null : new Error('no'), password === 'right' ? { user: 'u' } : undefined),
    onRcptTo: ({ address }, _session, done) =>
      done(
        address.endsWith('@refused.example.org') ? Object.assign(new Error('not here'), { responseCode: 550 }) : null,
      ),
    onData(stream, session, done) {
      const chunks: Buffer[] = [];
      stream.on('data', (chunk: Buffer) => chunks.push(chunk));
      stream.on('end', () => {
        mails.push({ raw: Buffer.concat(chunks), to: session.envelope.rcptTo.map(each => each.address) });
        done();
      });
    },
  });
  server.on('error', () => undefined);
  beforeAll(async () => {
    await new Promise<void>(done => server.listen(0, '127.0.0.1', done));
    port = (server.server.address() as { port: number }).port;
  });
  beforeEach(() => void (mails = []));
  afterAll(() => new Promise<void>(done => server.close(() => done())));
  const side = (password = 'right') => ({
    baseUrl: `smtp://127.0.0.1:${port}`,
    auth: { kind: 'basic' as const, user: 'u' },
    secret: vault.seal(password),
  });
  const mail = (more = {}, attached: RequestPlan['files'] = []) =>
    plan({
      url: 'smtp://127.0.0.1',
      encoding: 'mail',
      files: attached,
      body: {
        from: 'River Watch <alerts@example.org>',
        to: 'a@example.org, Bö <b@example.org>',
        subject: 'Severe: Föhre',
        text: 'Foam\nand oil',
        ...more,
      },
    });

  // RFC 5322, read back by postal-mime.
  test('go to every recipient, with text, HTML and files as they were', async () => {
    const { result } = await courier.carry(
      mail({ html: '<b>Foam</b>', bcc: 'c@example.org', attachments: '‹evil name.gif›' }, [planned(0, '/attachments')]),
      errand({ side: side() }),
    );
    expect(result).toMatchObject({ status: 200 });
    expect(mails[0]!.to).toEqual(['a@example.org', 'b@example.org', 'c@example.org']);
    const read = await PostalMime.parse(mails[0]!.raw);
    expect(read).toMatchObject({
      from: { name: 'River Watch', address: 'alerts@example.org' },
      to: [{ address: 'a@example.org' }, { name: 'Bö', address: 'b@example.org' }],
      subject: 'Severe: Föhre',
      messageId: expect.stringMatching(/^<key-1-[0-9a-f]{16}@example\.org>$/) as string,
    });
    expect(read.bcc).toBeUndefined();
    expect(read.text!.trim()).toBe('Foam\nand oil');
    expect(read.html).toContain('<b>Foam</b>');
    const [attachment] = read.attachments;
    expect(attachment).toMatchObject({ filename: 'evil name.gif', mimeType: 'image/gif' });
    expect(Buffer.from(attachment!.content as ArrayBuffer).equals(photo)).toBe(true);
  });

  test('nothing that is put into a subject or an address becomes a header of its own', async () => {
    await courier.carry(
      mail({ subject: 'Hello\r\nBcc: eve@example.org\r\n\r\nBody', reply_to: 'a@example.org\r\nX-Evil: 1' }),
      errand({ side: side() }),
    );
    const head = mails[0]!.raw.toString().split('\r\n\r\n')[0]!;
    expect(head).not.toMatch(/^(Bcc|X-Evil):/im);
    expect(mails[0]!.to).toEqual(['a@example.org', 'b@example.org']);
  });

  test.each<[string, () => Promise<unknown>, object]>([
    [
      'a recipient that is refused',
      async () => (await courier.carry(mail({ to: 'x@refused.example.org' }), errand({ side: side() }))).result,
      { code: 'address', message: expect.stringContaining('refused the mail') },
    ],
    [
      'a wrong password',
      async () => (await courier.carry(mail(), errand({ side: side('wrong') }))).result,
      { code: 'token' },
    ],
    [
      'nobody there',
      async () => (await courier.carry(mail(), errand({ side: { ...side(), baseUrl: 'smtp://127.0.0.1:1' } }))).result,
      { code: 'refused' },
    ],
    ['a private address', () => new Postman(vault, []).check(side()), { code: 'private' }],
  ])('%s is told', async (_, ask, fault) => expect(await ask()).toMatchObject(fault));
});

describe('rows of files', () => {
  const row = (url: string, body: RequestPlan['body'], columns = ['site', 'note']) =>
    courier.carry(
      plan({ url, body }),
      errand({ columns, side: { baseUrl: 'file://x', auth: { kind: 'none' }, secret: null } }),
    );

  // RFC 4180; cells that begin a formula get an apostrophe before them, as OWASP’s “CSV Injection” advises.
  test('are appended to CSV under its heading, and no cell is a formula', async () => {
    await row('file://visits/log.csv', { site: 'AB-07', note: 'a "quoted", one\nline' });
    await row('file://visits/log.csv', { note: '=HYPERLINK("x")', site: '@SUM(1)' });
    await row('file://visits/log.csv', { site: '+49 171 (0)5550100', note: '+1+HYPERLINK' });
    const text = readFileSync(path.join(folder, 'rows/visits/log.csv'), 'utf8');
    expect(text).toBe(
      `site,note\r\nAB-07,"a ""quoted"", one\nline"\r\n"'@SUM(1)","'=HYPERLINK(""x"")"\r\n+49 171 (0)5550100,"'+1+HYPERLINK"\r\n`,
    );
  });
  test('are appended to NDJSON as they are', async () => {
    await row('file://visits/log.ndjson', { site: 'AB-07', n: 3 });
    await row('file://visits/log.ndjson', { site: 'AB-02' });
    expect(readFileSync(path.join(folder, 'rows/visits/log.ndjson'), 'utf8')).toBe(
      '{"site":"AB-07","n":3}\n{"site":"AB-02"}\n',
    );
  });
  test('a column that the file does not have is refused, and nothing is written', async () => {
    const { result } = await row('file://visits/log.csv', { site: 'x', other: 'y' });
    expect(isFault(result) && result.message).toMatch(/no column other/);
    expect(readFileSync(path.join(folder, 'rows/visits/log.csv'), 'utf8')).not.toContain('y');
  });
  test('where it may grow, a file gets the columns that it lacks, and keeps its rows', async () => {
    await row('file://visits/wide.csv', { site: 'AB-07', note: 'a,b' });
    const side = { baseUrl: 'file://x', auth: { kind: 'none' as const }, secret: null };
    await courier.carry(
      plan({ url: 'file://visits/wide.csv', body: { site: '=1', day: 'Mon' } }),
      errand({ side, grows: true }),
    );
    expect(readFileSync(path.join(folder, 'rows/visits/wide.csv'), 'utf8')).toBe(
      `site,note,day\r\nAB-07,"a,b",\r\n"'=1",,Mon\r\n`,
    );
  });
  test('a large file is not read for a row: only its heading, however it is written', async () => {
    const file = path.join(folder, 'rows/visits/large.csv');
    const heading = `"site, by\nits code",note\r\n`;
    writeFileSync(file, heading);
    // A hole of three gigabytes: reading it whole fails.
    truncateSync(file, 3e9);
    const { result } = await row('file://visits/large.csv', { 'site, by\nits code': 'AB-07', note: 'x' });
    expect(result).toMatchObject({ status: 200 });
    expect(statSync(file).size).toBe(3e9 + '\nAB-07,x\r\n'.length);
    rmSync(file);
  });
  test('a row that broke off stays a row of its own', async () => {
    const file = path.join(folder, 'rows/visits/broken.csv');
    writeFileSync(file, 'site,note\r\nAB-0');
    await row('file://visits/broken.csv', { site: 'AB-07', note: 'x' });
    expect(readFileSync(file, 'utf8')).toBe('site,note\r\nAB-0\nAB-07,x\r\n');
  });
  test.each(['file://visits/..%2F..%2Fkey', 'file://visits/%2Fetc%2Fpasswd', 'file://visits/.hidden'])(
    '%s is no place for rows',
    async url => {
      const { result } = await row(url, { site: 'x' });
      expect(result).toMatchObject({ code: 'file' });
    },
  );
});
