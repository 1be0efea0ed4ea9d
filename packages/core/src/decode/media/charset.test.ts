import { decodeText } from './charset';

// WHATWG Encoding Standard, index-windows-1252.txt: pointers 0 to 31 are 0x80 to 0x9F.
const index =
  '20AC 0081 201A 0192 201E 2026 2020 2021 02C6 2030 0160 2039 0152 008D 017D 008F 0090 2018 2019 201C 201D 2022 2013 2014 02DC 2122 0161 203A 0153 009D 017E 0178';

test('windows-1252 is read as the Encoding Standard has it, by all of its labels', () => {
  const bytes = Uint8Array.from({ length: 32 }, (_, at) => 0x80 + at);
  const expected = index.split(' ').map(each => String.fromCharCode(parseInt(each, 16))).join(''); // prettier-ignore
  for (const label of ['windows-1252', 'iso-8859-1', 'Latin1', ' us-ascii ', 'CP1252', 'x-cp1252'])
    expect(decodeText(label, bytes)).toBe(expected);
});
test('from 0xA0 on, and below 0x80, a byte is its code point', () => {
  const bytes = Uint8Array.from({ length: 256 }, (_, at) => at);
  const text = decodeText('windows-1252', bytes);
  for (let at = 0; at < 256; at++) if (at < 0x80 || at >= 0xa0) expect(text.charCodeAt(at)).toBe(at);
});
test('long texts, other charsets, and labels that nobody knows', () => {
  expect(decodeText('windows-1252', new Uint8Array(100_000).fill(0x93))).toBe('“'.repeat(100_000));
  expect(decodeText('utf-8', new TextEncoder().encode('\ufeffπ €'))).toBe('π €');
  expect(decodeText('shift_jis', Uint8Array.from([0x82, 0xa0]))).toBe('あ');
  expect(() => decodeText('utf-8', Uint8Array.from([0xff]), true)).toThrow('not valid');
  expect(() => decodeText('no-such-charset', new Uint8Array())).toThrow('no-such-charset');
});
