import fc from 'fast-check';
import { decode } from '.';
import { hostile, mutated } from '../testing';

const ends = (body: Uint8Array, contentType: string | null, query = '') => {
  const read = decode(body, contentType, query);
  // What it gives back can be stored and sent on as JSON, and says nothing at length.
  expect(() => JSON.stringify(read)).not.toThrow();
  expect(read.notes.every(note => note.message.length <= 501)).toBe(true);
  return read;
};

test.each(hostile.map(each => [each.name, each] as const))('%s: it is read or told, never thrown', (_, each) => {
  for (const n of [0, 1, 2, 60]) ends(each.body(n), each.contentType, each.query?.(n));
});

test('there are at least a hundred of them, over all media', () => {
  expect(hostile.length).toBeGreaterThanOrEqual(100);
  const read = new Set(hostile.map(each => decode(each.body(20), each.contentType, each.query?.(20) ?? '').media));
  expect([...read]).toEqual(
    expect.arrayContaining([
      'json',
      'json-lines',
      'har',
      'spreadsheet',
      'multipart',
      'urlencoded',
      'xml',
      'mail',
      'separated',
      'plain',
      'query',
    ]),
  );
});

/** How often each is changed here; `npm run fuzz` does it a million times. */
const SEEDS = 12;

test('mutated messages of all media are read or told, never thrown', () => {
  let read = 0;
  for (const each of hostile) {
    const whole = each.body(12);
    for (let seed = 0; seed < SEEDS; seed++) {
      ends(mutated(whole, seed), each.contentType, each.query?.(12));
      read += 1;
    }
  }
  expect(read).toBe(SEEDS * hostile.length);
});

test('any JSON and any text is read or told, never thrown', () => {
  fc.assert(
    fc.property(fc.json({ maxDepth: 6 }), text => void ends(new TextEncoder().encode(text), 'application/json')),
    { numRuns: 150 },
  );
  fc.assert(
    fc.property(
      fc.uint8Array({ maxLength: 400 }),
      fc.constantFrom(
        null,
        'text/csv',
        'application/xml',
        'message/rfc822',
        'multipart/form-data; boundary=-',
        'text/plain; charset=x',
      ),
      (bytes, type) => void ends(bytes, type),
    ),
    { numRuns: 150 },
  );
});

test.each([
  ['an object where a size is looked for', '{"file":[{"length":{"toString":"x"}}]}'],
  ['a member called like a method', '{"hasOwnProperty":1,"toString":{"valueOf":null},"a":"b"}'],
  ['a prototype', '{"__proto__":{"polluted":true},"a":"b"}'],
])('%s harms nothing', (_, text) => {
  ends(new TextEncoder().encode(text), 'application/json');
  expect(({} as { polluted?: boolean }).polluted).toBeUndefined();
});

test('names like those of prototypes are answers like any other', () => {
  const { submissions } = decode(
    new TextEncoder().encode('{"__proto__":"a","constructor":"b","site":"AB-07"}'),
    'application/json',
  );
  expect(submissions[0]!.fields.map(({ key, value }) => [key, value])).toEqual([
    ['__proto__', 'a'],
    ['constructor', 'b'],
    ['site', 'AB-07'],
  ]);
});

// A call takes some hundred thousand arguments at most: nothing is handed over one argument each.
describe('more than a call takes arguments', () => {
  const many = 130_000;
  test.each<[string, string, () => string]>([
    ['rows', 'text/csv', () => `Entry ID,Name\n${'1,Ada Reed\n'.repeat(many)}`],
    ['lines', 'text/plain', () => 'Name: Ada\n'.repeat(many)],
    ['pairs', 'application/x-www-form-urlencoded', () => 'a=b&'.repeat(many)],
  ])('%s', (_, type, body) => {
    const { notes, submissions } = decode(new TextEncoder().encode(body()), type);
    expect(notes.map(each => each.code)).not.toContain('envelope.failed');
    expect(submissions.length).toBeGreaterThan(0);
    // What is beyond what is read is told, whatever it is.
    expect(notes.map(each => each.message)).toContainEqual(
      expect.stringMatching(/more than .*; the rest was not read/),
    );
  });
});
