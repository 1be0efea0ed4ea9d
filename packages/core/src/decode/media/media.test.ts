import fc from 'fast-check';
import type { Json } from '../../submission';
import { contentTypeParts } from './body';
import { decode } from '..';
import { nestedFromPairs, readDocument } from '.';

const bytes = (text: string) => new TextEncoder().encode(text);
const codes = (notes: { code: string }[]) => notes.map(note => note.code);

// WHATWG URL Standard §5.1 (application/x-www-form-urlencoded parsing): `+` is a space, bytes are percent-decoded as
// UTF-8, empty sequences are skipped, a name without `=` has the empty value.
test.each<[string, Json]>([
  ['a=b&c=d', { a: 'b', c: 'd' }],
  ['a=b&a=c', { a: ['b', 'c'] }],
  ['a+b=c+d', { 'a b': 'c d' }],
  ['a=%C3%A9', { a: 'é' }],
  ['a=%FF', { a: '\ufffd' }],
  ['a=%zz', { a: '%zz' }],
  ['a=b=c', { a: 'b=c' }],
  ['a&b=', { a: '', b: '' }],
  ['&&a=1&', { a: '1' }],
  ['=x', { '': 'x' }],
])('urlencoded %s', (text, document) =>
  expect(readDocument(bytes(text), 'application/x-www-form-urlencoded', '').document).toEqual(document),
);

// Nesting by brackets: common practice, no source.
test.each<[string, Json]>([
  ['signs[]=Foam', { signs: ['Foam'] }],
  ['signs[]=Foam&signs[]=Litter', { signs: ['Foam', 'Litter'] }],
  ['kit[0][name]=strip&kit[0][n]=2&kit[1][name]=net', { kit: [{ name: 'strip', n: '2' }, { name: 'net' }] }],
  ['a[b][c]=1', { a: { b: { c: '1' } } }],
  ['a[b=1', { 'a[b': '1' }],
  ['__proto__[x]=1', JSON.parse('{"__proto__":{"x":"1"}}') as Json],
])('brackets in %s', (text, document) => expect(nestedFromPairs(new URLSearchParams(text))).toEqual(document));

test('what a form sends, as the HTML Standard encodes it, comes back', () => {
  fc.assert(
    fc.property(
      fc.uniqueArray(fc.tuple(fc.stringMatching(/^[^[\]\d][^[\]]{0,8}$/), fc.string({ unit: 'grapheme' })), {
        selector: ([name]) => name,
        maxLength: 8,
      }),
      pairs => {
        const document = readDocument(
          bytes(new URLSearchParams(pairs).toString() || '&'),
          'application/x-www-form-urlencoded',
          '',
        ).document as Record<string, Json>;
        for (const [name, value] of pairs) expect(document[name]).toBe(value);
      },
    ),
  );
});

// RFC 8259: any value at the top, white space around, escapes; §8.1: a byte-order mark is not to be sent, but may be ignored.
test.each<[string, Json]>([
  ['{"a":1}', { a: 1 }],
  [' [1, 2] ', [1, 2]],
  ['"\\u00e9\\n"', 'é\n'],
  ['\ufeff{"a":1}', { a: 1 }],
])('JSON %j', (text, document) => expect(readDocument(bytes(text), 'application/json', '').document).toEqual(document));

test.each<[string, RegExp]>([
  ['{"a":1,', /ends too early, at line 1/],
  ['{"a":1,]', /line 1, column 8/],
  ['{\n "a": tru }', /line 2/],
  ['{"a":"x', /line 1|ends too early/],
])('broken JSON %j says where', (text, where) =>
  expect(readDocument(bytes(text), 'application/json', '').notes[0]).toMatchObject({
    code: 'media.json',
    message: expect.stringMatching(where),
  }),
);

test('a body in another charset is read in it, and one that lies about it is told', () => {
  const latin = new Uint8Array([...bytes('{"a":"'), 0xe9, ...bytes('"}')]);
  expect(readDocument(latin, 'application/json; charset=iso-8859-1', '')).toMatchObject({
    document: { a: 'é' },
    notes: [],
  });
  expect(codes(readDocument(latin, 'application/json', '').notes)).toEqual(['media.charset']);
  expect(readDocument(latin, 'application/json; charset=no-such', '').document).toEqual({ a: 'é' });
});

test.each<[string, string | null, string, string]>([
  ['{"a":1}', 'text/plain', 'json', 'media.mislabelled'],
  ['{"a":1}', 'application/x-www-form-urlencoded', 'json', 'media.mislabelled'],
  ['{"a":1}', null, 'json', 'media.mislabelled'],
  ['a=1&b=2', 'application/json', 'urlencoded', 'media.json'],
  ['Site: Withy Bridge', 'application/json', 'plain', 'media.json'],
])('%s stated as %s is read as %s…', (text, type, media, code) => {
  const read = decode(bytes(text), type);
  expect(read.media).toBe(media);
  expect(codes(read.notes)).toContain(code);
});

test('an address with values and no body is read from its query; an empty one says so', () => {
  expect(readDocument(bytes(''), null, 'site=AB-07&ph=7.4')).toEqual({
    media: 'query',
    document: { site: 'AB-07', ph: '7.4' },
    notes: [],
  });
  expect(readDocument(bytes(''), 'application/json', '')).toMatchObject({
    media: 'none',
    document: null,
    notes: [{ code: 'media.empty' }],
  });
});

// RFC 9110 §8.3.1: parameter values may be quoted, names are case-insensitive.
test.each<[string | null, string | null, Record<string, string>]>([
  ['text/html;charset=utf-8', 'text/html', { charset: 'utf-8' }],
  ['Text/HTML; Charset="utf-8"', 'text/html', { charset: 'utf-8' }],
  ['multipart/form-data; boundary="a\\"b"', 'multipart/form-data', { boundary: 'a"b' }],
  ['', null, {}],
  [null, null, {}],
])('Content-Type %j', (header, type, parameters) => expect(contentTypeParts(header)).toEqual({ type, parameters }));

// RFC 4627 §3: JSON starts with two ASCII characters, so its zero bytes tell UTF-16 even without a mark.
test.each([
  ['little', (text: string) => Buffer.from(text, 'utf16le')],
  ['big', (text: string) => Buffer.from(text, 'utf16le').swap16()],
])('JSON in UTF-16, %s end first, without a mark', (_, encoded) =>
  expect(readDocument(encoded('{"site":"Mühle 文"}'), 'application/json', '')).toMatchObject({
    document: { site: 'Mühle 文' },
    notes: [],
  }),
);

test.each<[string, Json]>([
  ['days.0=Mon&days.1=Fri', { days: ['Mon', 'Fri'] }],
  ['guests.0.name=Lio&guests.0.diet=none', { guests: [{ name: 'Lio', diet: 'none' }] }],
  ['q.0=yes', { 'q.0': 'yes' }],
  ['v.1=a&v.2=b', { 'v.1': 'a', 'v.2': 'b' }],
  ['dog.name=Plum', { 'dog.name': 'Plum' }],
])('numbers behind dots, %s', (text, document) =>
  expect(readDocument(bytes(text), 'application/x-www-form-urlencoded', '').document).toEqual(document),
);
