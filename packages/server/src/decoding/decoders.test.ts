import type { Submission } from '@grammata/core/submission';
import type { ReadSubmission } from './tasks';
import { hostile } from '@grammata/core/testing';
import { DecodeFault, DecodeLate, Decoders } from '.';

const file = process.env.GRAMMATA_DECODER!;
const message = (body: Uint8Array | string, contentType: string | null = 'application/json') => ({
  body: typeof body === 'string' ? new TextEncoder().encode(body) : body,
  file: null,
  contentType,
  url: '/in/x',
});
const small = { small: 256, large: 512 };
/** A list of so many small submissions. */
const listOf = (length: number) =>
  message(JSON.stringify(Array.from({ length }, (_, id) => ({ id, form: 'f', site: 'AB-07' }))));
/** It takes a while to read. */
const long = listOf(60_000);
const LARGE = 12_000;
const large = listOf(LARGE);
const answersOf = (read: ReadSubmission | undefined) =>
  read && (JSON.parse(read.data) as Submission).fields.map(each => each.value);
const nobody = { found: () => undefined, portion: () => true };

let decoders: Decoders;
afterEach(() => decoders.close());

test('small messages are read together, each by its own pins', async () => {
  decoders = new Decoders(file);
  const readings = await decoders.read(
    [message('{"site":"AB-07","ph":7.4}'), message('{"x":{"site":"AB-02"}}'), message('[')],
    [{}, { answers: '/x' }, {}],
  );
  expect(readings.map(each => [each?.state, answersOf(each?.submissions[0])])).toEqual([
    ['read', ['AB-07', 7.4]],
    ['read', ['AB-02']],
    ['unread', undefined],
  ]);
});

const png = Buffer.concat([Buffer.from('89504e470d0a1a0a', 'hex'), Buffer.alloc(300, 7)]);
test.each(['content', 'data', 'base64', 'payload', 'binary', 'inhalt', 'file_contents', 'b64'])(
  'a file in Base64 in an object, under “%s”, is had whole: in JSON, in JSON in a text, in a form',
  async member => {
    decoders = new Decoders(file);
    const photo = (at: number) => ({ name: `${at}.png`, type: 'image/png', size: png.length + at, [member]: Buffer.concat([png, Buffer.alloc(at, 1)]).toString('base64') }); // prettier-ignore
    const photos = [photo(0), photo(1)];
    const ways = [
      message(JSON.stringify({ submission_id: 's', site: 'AB-07', photos })),
      message(JSON.stringify({ submission_id: 's', site: 'AB-07', photos: JSON.stringify(photos) })),
      message(new URLSearchParams({ site: 'AB-07', photos: JSON.stringify(photos) }).toString(), 'application/x-www-form-urlencoded'), // prettier-ignore
    ];
    for (const each of ways) {
      const [reading] = await decoders.read([each], [{}]);
      const { files } = JSON.parse(reading!.submissions[0]!.data) as Submission;
      expect(files.map(({ name, size, url }) => [name, size, url])).toEqual([['0.png', 308, null], ['1.png', 309, null]]); // prettier-ignore
      for (const at of [0, 1]) {
        const content = await decoders.content(each, each.body.length, files, at);
        expect(Buffer.from(content!.bytes).equals(Buffer.from(photos[at]![member] as string, 'base64'))).toBe(true);
      }
    }
  },
);

test('what takes too long is ended and says so; others are read meanwhile and afterwards', async () => {
  decoders = new Decoders(file, { seconds: 0.02, memory: small });
  const ended = decoders.portions(long, 0, {}, nobody);
  await expect(ended).rejects.toThrow(DecodeFault);
  await expect(decoders.portions(long, 0, {}, nobody)).rejects.toThrow(
    /more than .* seconds of processor time and was stopped/,
  );
  decoders = new Decoders(file);
  expect((await decoders.read([message('{"a":"b","c":"d"}')], [{}]))[0]!.state).toBe('read');
});

test('what is under way or waits for a thread when it ends is told', async () => {
  decoders = new Decoders(file);
  const all = Array.from({ length: 12 }, () => decoders.read([message('{"a":"b","c":"d"}')], [{}]));
  const large = Array.from({ length: 4 }, () => decoders.portions(long, long.body.length, {}, nobody));
  const ends = Promise.allSettled([...all, ...large]);
  await decoders.close();
  expect((await ends).at(-1)!.status).toBe('rejected');
  await expect(decoders.read([message('{}')], [{}])).rejects.toThrow('have ended');
});

test('what takes too much memory ends its thread and nothing else', async () => {
  decoders = new Decoders(file, { seconds: 60, memory: { small: 256, large: 24 } });
  await expect(decoders.portions(long, long.body.length, {}, nobody)).rejects.toThrow(/more than 24 MB of memory/);
  expect((await decoders.read([message('{"a":"b","c":"d"}')], [{}]))[0]!.state).toBe('read');
});

test('a large message comes in portions, in order, and stops where it is told to', async () => {
  decoders = new Decoders(file);
  const seen: number[] = [];
  const end = await decoders.portions(
    large,
    large.body.length,
    {},
    {
      found: total => seen.push(-total),
      portion: (submissions, from) => (seen.push(from + submissions.length), true),
    },
  );
  expect([seen[0], seen.at(-1), end?.state]).toEqual([-LARGE, LARGE, 'read']);
  expect(seen.slice(1).every((each, at, all) => at === 0 || each > all[at - 1]!)).toBe(true);
  let taken = 0;
  expect(
    await decoders.portions(
      large,
      large.body.length,
      {},
      { found: () => undefined, portion: each => ((taken += each.length), false) },
    ),
  ).toBeNull();
  expect(taken).toBeLessThan(1000);
});

test('what is very large is read one at a time, others beside it', async () => {
  decoders = new Decoders(file);
  const seen: string[] = [];
  const few = message('[{"id":1,"site":"AB-07"},{"id":2,"site":"AB-02"}]');
  const read = async (name: string, bytes: number, until: Promise<unknown> = Promise.resolve()) => {
    const portion = async () => (seen.push(`${name} begins`), await until, true);
    await decoders.portions(few, bytes, {}, { found: () => undefined, portion });
    seen.push(`${name} ends`);
  };
  let go: () => void = () => undefined;
  const first = read('first', 50_000_000, new Promise<void>(done => (go = done)));
  const second = read('second', 50_000_000);
  await read('small', 300);
  // The second one waits for the first, the small one for neither.
  expect(seen).not.toContain('second begins');
  go();
  await Promise.all([first, second]);
  expect(seen.slice(-2)).toEqual(['second begins', 'second ends']);
});

test('what a listener fails at is told to who asked', async () => {
  decoders = new Decoders(file);
  const portion = () => {
    throw new Error('The disk is full.');
  };
  await expect(decoders.portions(large, large.body.length, {}, { found: () => undefined, portion })).rejects.toThrow(
    'The disk is full.',
  );
});

test('hostile messages of every medium are read or told, in a thread', async () => {
  decoders = new Decoders(file, { seconds: 60, together: 60, memory: { small: 320, large: 1600 } });
  const messages = hostile.map(each => message(each.body(20), each.contentType));
  const readings = await decoders.read(
    messages,
    messages.map(() => ({})),
  );
  expect(readings).toHaveLength(hostile.length);
  expect(readings.every(each => each?.state === 'read' || Boolean(each?.trouble))).toBe(true);
});

test('what counts is the work of a thread, not the clock: neither storing what was read nor a busy machine ends it', async () => {
  decoders = new Decoders(file, { seconds: 2, memory: { small: 256, large: 1600 } });
  const some = message(JSON.stringify(Array.from({ length: 600 }, (_, id) => ({ id, site: 'AB-07' }))));
  let waited = 0;
  const started = performance.now();
  const end = await decoders.portions(
    some,
    some.body.length,
    {},
    {
      found: () => undefined,
      async portion() {
        waited += 1;
        await new Promise(done => AbortSignal.timeout(1200).addEventListener('abort', done));
        return true;
      },
    },
  );
  expect(end?.state).toBe('read');
  expect(waited).toBeGreaterThanOrEqual(3);
  expect(performance.now() - started).toBeGreaterThan(2500);
});

test('a reading that does nothing is ended by the clock, and is to be tried again', async () => {
  decoders = new Decoders(file, { seconds: 20, patience: 1, memory: { small: 256, large: 1600 } });
  // It is never told that its portion was taken.
  const portion = () => new Promise<boolean>(() => undefined);
  const some = message('[{"site":"AB-07"},{"site":"AB-02"}]');
  const reading = decoders.portions(some, 0, {}, { found: () => undefined, portion });
  await expect(reading).rejects.toThrow(DecodeLate);
});
