import fc from 'fast-check';
import type { Json } from '../../submission';
import { decodedWords } from './mail';
import { readDocument } from '.';

// eslint-disable-next-line @typescript-eslint/no-require-imports
const spectrum = require('csv-spectrum') as (
  done: (error: unknown, cases: { name: string; csv: Buffer; json: Buffer }[]) => void,
) => void;
const bytes = (text: string) => new TextEncoder().encode(text);
const crlf = (...lines: string[]) => bytes(lines.join('\r\n'));
const read = (body: Uint8Array, type: string | null) => readDocument(body, type, '');

describe('multipart/form-data', () => {
  // RFC 7578 §4.2 (names and file names), §4.6 (_charset_); HTML Standard “multipart/form-data encoding algorithm”.
  const part = (disposition: string, content: string, ...headers: string[]) =>
    crlf('--b', `Content-Disposition: form-data; ${disposition}`, ...headers, '', content, '--b--', '');
  test.each<[string, Uint8Array, Json]>([
    ['a field', part('name="a"', 'x'), { a: 'x' }],
    ['line breaks in a value', part('name="a"', 'one\r\ntwo'), { a: 'one\r\ntwo' }],
    ['a quote in a name', part('name="a%22b"', 'x'), { 'a"b': 'x' }],
    [
      'a file',
      part('name="f"; filename="a.txt"', 'hello', 'Content-Type: text/plain'),
      { f: { filename: 'a.txt', type: 'text/plain', size: 5 } },
    ],
    ['an empty file input', part('name="f"; filename=""', '', 'Content-Type: application/octet-stream'), { f: null }],
    [
      'a UTF-8 file name',
      part('name="f"; filename="hä.txt"', 'x'),
      { f: { filename: 'hä.txt', type: 'application/octet-stream', size: 1 } },
    ],
    [
      'a file name with a path',
      part('name="f"; filename="C:\\\\x\\\\..\\\\a.txt"', 'x'),
      { f: { filename: 'a.txt', type: 'application/octet-stream', size: 1 } },
    ],
    ['an empty value', part('name="a"', ''), { a: '' }],
  ])('%s', (_, body, document) => expect(read(body, 'multipart/form-data; boundary=b').document).toEqual(document));

  test('a boundary inside a value, not at a line start, is no delimiter', () =>
    expect(
      read(
        crlf('--b', 'Content-Disposition: form-data; name="a"', '', 'x--b y', '--b--'),
        'multipart/form-data; boundary=b',
      ).document,
    ).toEqual({ a: 'x--b y' }));
  test('values in another charset, named by _charset_', () => {
    const body = new Uint8Array([
      ...crlf(
        '--b',
        'Content-Disposition: form-data; name="_charset_"',
        '',
        'iso-8859-1',
        '--b',
        'Content-Disposition: form-data; name="a"',
        '',
        '',
      ),
      0xe9,
      ...crlf('', '--b--'),
    ]);
    expect(read(body, 'multipart/form-data; boundary=b').document).toEqual({ a: 'é' });
  });
  test('without a boundary in the Content-Type, the body’s own is taken', () =>
    expect(read(part('name="a"', 'x'), 'multipart/form-data').document).toEqual({ a: 'x' }));
  test('a message that was cut off says so', () =>
    expect(
      read(crlf('--b', 'Content-Disposition: form-data; name="a"', '', 'x'), 'multipart/form-data; boundary=b').notes,
    ).toMatchObject([{ code: 'media.cut' }]));
  test('a boundary that is not there', () =>
    expect(read(bytes('hello'), 'multipart/form-data; boundary=b').notes[0]).toMatchObject({
      code: 'media.multipart',
    }));
  test('what the platform’s own FormData sends comes back', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.uniqueArray(fc.tuple(fc.stringMatching(/^[a-z]{1,6}$/), fc.string({ unit: 'grapheme' })), {
          selector: ([name]) => name,
          minLength: 1,
          maxLength: 5,
        }),
        async pairs => {
          const form = new FormData();
          for (const [name, value] of pairs) form.append(name, value);
          const response = new Response(form);
          const { document } = read(new Uint8Array(await response.arrayBuffer()), response.headers.get('content-type'));
          // The HTML Standard normalises line ends in values to CRLF.
          for (const [name, value] of pairs)
            expect((document as Record<string, string>)[name]).toBe(value.replace(/\r\n|\r|\n/g, '\r\n'));
        },
      ),
      { numRuns: 50 },
    );
  });
});

describe('CSV', () => {
  // csv-spectrum: a published set of CSV files with their contents as JSON. Of one, the two do not belong together.
  test('csv-spectrum, case by case', async () => {
    const cases = await new Promise<{ name: string; csv: Buffer; json: Buffer }[]>(resolve =>
      spectrum((_, all) => resolve(all)),
    );
    const sound = cases.filter(({ name }) => name !== 'location_coordinates');
    expect(sound.length).toBeGreaterThan(8);
    const got = sound.map(({ name, csv }) => [name, read(csv, 'text/csv').document]);
    expect(got).toEqual(sound.map(({ name, json }) => [name, JSON.parse(json.toString())]));
  });
  // RFC 4180 §2: quoted fields hold line breaks, separators and doubled quotes.
  test.each<[string, Json]>([
    ['a,b\r\n"x, y","say ""hi"""\r\n', [{ a: 'x, y', b: 'say "hi"' }]],
    ['a;b\n1;2\n', [{ a: '1', b: '2' }]],
    ['a\tb\n1\t2\n', [{ a: '1', b: '2' }]],
    [
      '1,2\n3,4\n',
      [
        { column_1: '1', column_2: '2' },
        { column_1: '3', column_2: '4' },
      ],
    ],
    ['a,b\n1\n', [{ a: '1' }]],
  ])('%j', (text, document) => expect(read(bytes(text), 'text/csv').document).toEqual(document));
  test('a row with too many values is told', () =>
    expect(read(bytes('a,b\n1,2,3\n'), 'text/csv').notes[0]).toMatchObject({
      code: 'media.row',
      message: expect.stringContaining('Row 2'),
    }));
});

describe('mail', () => {
  // RFC 2047 §8, the table of examples.
  test.each([
    ['=?US-ASCII?Q?Keith_Moore?=', 'Keith Moore'],
    ['=?ISO-8859-1?Q?Keld_J=F8rn_Simonsen?=', 'Keld Jørn Simonsen'],
    ['=?ISO-8859-1?Q?Andr=E9?= Pirard', 'André Pirard'],
    [
      '=?ISO-8859-1?B?SWYgeW91IGNhbiByZWFkIHRoaXMgeW8=?= =?ISO-8859-2?B?dSB1bmRlcnN0YW5kIHRoZSBleGFtcGxlLg==?=',
      'If you can read this you understand the example.',
    ],
    ['=?ISO-8859-1?Q?a?= =?ISO-8859-1?Q?b?=', 'ab'],
    ['=?ISO-8859-1?Q?a_b?=', 'a b'],
    ['=?ISO-8859-1?Q?a?= b', 'a b'],
  ])('RFC 2047: %s', (encoded, text) => expect(decodedWords(encoded)).toBe(text));

  const mail = (type: string, content: string, encoding = '7bit') =>
    crlf(
      'From: web@example.org',
      'Subject: =?utf-8?B?w4Rwcw==?=',
      `Content-Type: ${type}`,
      `Content-Transfer-Encoding: ${encoding}`,
      '',
      content,
    );
  test.each<[string, Uint8Array, string]>([
    // RFC 2045 §6.7: soft line breaks and encoded bytes; §6.8: base64.
    [
      'quoted-printable',
      mail('text/plain; charset=utf-8', 'caf=C3=A9 =\r\nau lait', 'quoted-printable'),
      'café au lait',
    ],
    ['base64', mail('text/plain; charset=utf-8', 'Y2Fmw6k=', 'base64'), 'café'],
    ['a charset of its own', mail('text/plain; charset=iso-8859-1', 'caf=E9', 'quoted-printable'), 'café'],
    ['HTML only', mail('text/html', '<p>Name: Ines</p><p>Room: A &amp; B</p>'), 'Name: Ines\n\nRoom: A & B'],
    [
      'the text of two alternatives',
      mail(
        'multipart/alternative; boundary=b',
        '--b\r\nContent-Type: text/html\r\n\r\n<b>x</b>\r\n--b\r\nContent-Type: text/plain\r\n\r\nplain\r\n--b--',
      ),
      'plain',
    ],
  ])('%s', (_, body, text) => expect(read(body, 'message/rfc822').document).toMatchObject({ subject: 'Äps', text }));
  // RFC 5322 §2.2.3: a folded header goes on in the next line.
  test('folded headers', () =>
    expect(read(crlf('From: a@example.org', 'Subject: one', ' two', '', 'x'), 'message/rfc822').document).toMatchObject(
      { subject: 'one two' },
    ));
});

describe('XML', () => {
  test.each<[string, Json]>([
    ['<a><b>1</b><c x="y">z</c></a>', { b: '1', c: { x: 'y', value: 'z' } }],
    ['<a><i>1</i><i>2</i></a>', ['1', '2']],
    ['<a><t>&lt;b&gt; &amp; &#233;</t><u/></a>', { t: '<b> & é', u: '' }],
    ['<a><t><![CDATA[<raw>]]></t><u>x</u></a>', { t: '<raw>', u: 'x' }],
  ])('%s', (text, document) => expect(read(bytes(text), 'text/xml').document).toEqual(document));
  test('entities that a document defines are inert: neither expanded nor fetched', () => {
    const bomb = `<!DOCTYPE a [<!ENTITY x "ha"><!ENTITY y "&x;&x;&x;"><!ENTITY z SYSTEM "file:///etc/passwd">]><a><t>&y;</t><u>&z;</u></a>`;
    const { document, notes } = read(bytes(bomb), 'text/xml');
    expect(JSON.stringify(document)).not.toMatch(/haha|root:/);
    expect(notes).toContainEqual(expect.objectContaining({ code: 'media.entities' }));
  });
  test('broken XML says where', () =>
    expect(read(bytes('<a>\n<b></a>'), 'text/xml').notes[0]).toMatchObject({
      code: 'media.xml',
      message: expect.stringContaining('line 2'),
    }));
});

// HTTP Archive 1.2 (W3C draft, “HAR format”): log.entries[].request.postData with mimeType and text.
test('an HTTP archive gives the bodies that were posted in it', () => {
  const entry = (mimeType: string, text: string) => ({
    request: { method: 'POST', url: 'https://x', postData: { mimeType, text } },
  });
  const archive = {
    log: {
      version: '1.2',
      entries: [
        entry('application/json', '{"a":1}'),
        { request: { method: 'GET' } },
        entry('application/x-www-form-urlencoded', 'a=2'),
      ],
    },
  };
  expect(read(bytes(JSON.stringify(archive)), 'application/har+json')).toMatchObject({
    media: 'har',
    document: [{ a: 1 }, { a: '2' }],
  });
  expect(read(bytes('{"log":{"entries":[]}}'), 'application/har+json').notes[0]).toMatchObject({ code: 'media.har' });
});

test('JSON lines: a bad line is told, the others are read', () => {
  expect(read(bytes('{"a":1}\nnope\n{"a":2}\n'), 'application/x-ndjson')).toMatchObject({
    document: [{ a: 1 }, { a: 2 }],
    notes: [{ code: 'media.line', message: expect.stringContaining('Line 2') }],
  });
});

describe('never throws, whatever is stated', () => {
  const types = [
    'multipart/form-data; boundary=b',
    'multipart/form-data',
    'text/xml',
    'text/csv',
    'message/rfc822',
    'application/x-ndjson',
    'application/x-www-form-urlencoded; charset=utf-16',
  ];
  test.each(types)('%s', type => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.uint8Array({ maxLength: 300 }),
          fc.string().map(bytes),
          fc.string().map(text => bytes(`--b\r\n${text}\r\n--b`)),
          fc.string().map(text => bytes(`<a>${text}`)),
        ),
        body => expect(Array.isArray(read(body, type).notes)).toBe(true),
      ),
      { numRuns: 150 },
    );
  });
  test('a megabyte of delimiters, and of open elements, ends soon', () => {
    expect(read(bytes('--b\r\n'.repeat(200_000)), 'multipart/form-data; boundary=b').media).toBeDefined();
    expect(read(bytes('<a>'.repeat(100_000)), 'text/xml').media).toBeDefined();
  });
});

describe('what stands in several pieces', () => {
  const mail = (headers: string[], body: string) => crlf('From: a@example.org', 'Subject: x', ...headers, '', body);
  // RFC 2231 §3, §4.1, with the examples that are given there.
  test.each<[string, string[], string]>([
    ['pieces', ['filename*0="this is a "', 'filename*1="long name.txt"'], 'this is a long name.txt'],
    [
      'pieces with a charset',
      [
        "filename*0*=us-ascii'en'This%20is%20even%20more%20",
        'filename*1*=%2A%2A%2Afun%2A%2A%2A%20',
        'filename*2="isn\'t it!"',
      ],
      "This is even more ***fun*** isn't it!",
    ],
    ['a charset alone', ["filename*=utf-8''%e2%82%ac%20rates.txt"], '€ rates.txt'],
  ])('the name of a file in %s', (_, parameters, name) => {
    const { document } = read(
      mail(['Content-Type: text/plain', `Content-Disposition: attachment; ${parameters.join(';\r\n ')}`], 'x'),
      'message/rfc822',
    );
    expect(document).toMatchObject({ attachments: [{ filename: name }] });
  });
  // RFC 3676 §4.1 to §4.4.
  test.each<[string, string, string, string]>([
    ['lines that go on', 'format=flowed', 'Name: Ada \r\nReed\r\nTown: Elden', 'Name: Ada Reed\nTown: Elden'],
    ['with the blank taken off', 'format=flowed; delsp=yes', 'Fern \r\nhollow', 'Fernhollow'],
    ['a blank that was put before', 'format=flowed', ' From here\r\nto there', 'From here\nto there'],
    ['a signature', 'format=flowed', 'One\r\n-- \r\nTwo', 'One\n-- \nTwo'],
    ['text that is fixed', 'format=fixed', 'One \r\ntwo', 'One \ntwo'],
  ])('%s', (_, parameters, body, text) => {
    const { document } = read(mail([`Content-Type: text/plain; charset=utf-8; ${parameters}`], body), 'message/rfc822');
    expect(document).toMatchObject({ text });
  });
});
