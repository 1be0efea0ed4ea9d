import fc from 'fast-check';
import countries from 'i18n-iso-countries';
import { getCountries, getExampleNumber } from 'libphonenumber-js';
import examples from 'libphonenumber-js/mobile/examples';
import { validateSync } from 'class-validator';
import { isBlank, type Json } from '../submission';
import { compileChain, isProblem, transforms } from '.';

const cases = transforms.flatMap(transform => transform.examples.map(example => [transform.id, example] as const));

test.each(cases)('%s: %j', (id, { params, in: value, out }) => {
  const result = compileChain([{ id, params: { ...params } }]).run(value);
  if (typeof out === 'object' && out !== null && !Array.isArray(out) && 'problem' in out)
    expect(result).toMatchObject({ code: out.problem });
  else expect(result).toEqual(out);
});

describe.each(transforms.map(transform => [transform.id, transform] as const))('%s', (_, transform) => {
  const params = new transform.params();

  test('its defaults are valid, its parameters are all asked for, and it explains itself', () => {
    expect(validateSync(params, { forbidUnknownValues: false })).toEqual([]);
    const known = new Set([
      ...Object.keys(params),
      ...transform.examples.flatMap(example => Object.keys(example.params)),
    ]);
    expect(new Set(transform.asks.map(ask => ask.name))).toEqual(known);
    expect(transform.explain(params, compileChain)).toMatch(/\S/);
    expect(transform.examples.length).toBeGreaterThan(3);
  });

  test('never throws, and lets blanks through', () => {
    const chain = compileChain([{ id: transform.id, params: { ...params } }]);
    fc.assert(
      fc.property(fc.jsonValue(), value => {
        const result = chain.run(value as Json);
        expect(isProblem(result) || result !== undefined).toBe(true);
        if (isProblem(result)) expect(result.code).not.toBe('transform.fault');
      }),
    );
    for (const blank of [null, '', '  ', {}]) expect(chain.run(blank)).toEqual(blank);
    expect(isBlank(chain.run([]) as Json)).toBe(true);
  });
});

test.each(['text.trim', 'text.case', 'list.read', 'number.read'])('%s done twice is done once', id => {
  const chain = compileChain([{ id, params: {} }]);
  fc.assert(
    fc.property(fc.string(), text => {
      const once = chain.run(text);
      if (!isProblem(once)) expect(chain.run(once)).toEqual(once);
    }),
  );
});

test('a list that was joined is read back', () => {
  const there = compileChain([
    { id: 'list.join', params: { separator: '; ' } },
    { id: 'list.read', params: { separator: ';' } },
  ]);
  const item = fc.stringMatching(/^[^;\s[](?:[^;]*[^;\s])?$/);
  fc.assert(fc.property(fc.array(item, { minLength: 1 }), items => expect(there.run(items)).toEqual(items)));
});

// RFC 3339 §5.8, each example as an instant in UTC. The leap second is left out: no calendar library has one.
test.each([
  ['1985-04-12T23:20:50.52Z', '1985-04-12T23:20:50.520Z'],
  ['1996-12-19T16:39:57-08:00', '1996-12-20T00:39:57Z'],
  ['1937-01-01T12:00:27.87+00:20', '1937-01-01T11:40:27.870Z'],
])('RFC 3339 §5.8: %s', (text, instant) =>
  expect(compileChain([{ id: 'date.format', params: { to: 'iso' } }]).run(text)).toBe(instant),
);

test.each([
  ['2026-10-25 00:30', '2026-10-24T23:30:00Z'],
  ['2026-10-25 02:30', '2026-10-25T02:30:00Z'],
  ['29/3/2026 0:59', '2026-03-29T00:59:00Z'],
  ['29/3/2026 2:00', '2026-03-29T01:00:00Z'],
])('across the change of the clocks in London: %s', (text, instant) =>
  expect(compileChain([{ id: 'date.format', params: { to: 'iso', zone: 'Europe/London' } }]).run(text)).toBe(instant),
);

describe('telephone numbers against libphonenumber’s example number of every region', () => {
  const chain = (params: object) => compileChain([{ id: 'phone.format', params: { ...params } }]);
  const numbers = getCountries().flatMap(region => getExampleNumber(region, examples) ?? []);

  test('from national and international spelling to E.164 and back', () => {
    expect(numbers.length).toBeGreaterThan(230);
    for (const number of numbers) {
      const region = number.country!;
      expect(chain({ to: 'e164', region }).run(number.formatNational())).toBe(number.number);
      expect(chain({ to: 'e164', region: 'GB' }).run(number.formatInternational())).toBe(number.number);
      expect(chain({ to: 'national', region }).run(number.number)).toBe(number.formatNational());
    }
  });
});

// ISO 3166-1, as the list in i18n-iso-countries has it: every code of two letters, there and back.
test('country codes of two and three letters and three digits name the same country', () => {
  const to = (form: string, value: string) => compileChain([{ id: 'country.code', params: { to: form } }]).run(value);
  const codes = Object.entries(countries.getAlpha2Codes());
  expect(codes.length).toBeGreaterThan(245);
  for (const [two, three] of codes) {
    expect(to('alpha3', two)).toBe(three);
    expect(to('alpha2', three)).toBe(two);
    expect(to('alpha2', countries.alpha2ToNumeric(two)!)).toBe(two);
    expect(to('alpha2', countries.getName(two, 'en')!)).toBe(two);
  }
});

// CLDR, through Intl: what a language writes is read as the number again.
test.each(['en-GB', 'de-DE', 'fr-FR', 'es-ES', 'it-IT', 'nl-NL', 'pl-PL', 'sv-SE', 'pt-PT', 'de-CH'])(
  'numbers written as in %s',
  locale => {
    const written = compileChain([{ id: 'number.format', params: { locale, places: 1 } }]);
    for (const number of [0.5, 7.2, 12, 999.9])
      expect(written.run(number)).toBe(new Intl.NumberFormat(locale, { minimumFractionDigits: 1 }).format(number));
  },
);

// UAX #15: composed and decomposed spellings are the same text without accents.
test.each(['Élodie', 'Ångström', 'ñandú', 'ệ'])('accents off from %s, composed or not', text => {
  const chain = compileChain([{ id: 'text.plain', params: {} }]);
  expect(chain.run(text.normalize('NFC'))).toBe(chain.run(text.normalize('NFD')));
});

test('a pattern that would take for ever elsewhere takes no time here', () => {
  const chain = compileChain([{ id: 'text.replace', params: { find: '(a+)+$', by: 'x', how: 'pattern' } }]);
  expect(chain.run(`${'a'.repeat(5000)}b`)).toBe(`${'a'.repeat(5000)}b`);
});

// RFC 4648 §10, the vectors for Base64.
test.each([
  ['f', 'Zg=='],
  ['fo', 'Zm8='],
  ['foo', 'Zm9v'],
  ['foob', 'Zm9vYg=='],
  ['fooba', 'Zm9vYmE='],
  ['foobar', 'Zm9vYmFy'],
])('RFC 4648 §10: %s', (text, encoded) => {
  const chain = (way: string) => compileChain([{ id: 'text.base64', params: { way } }]);
  expect(chain('encode').run(text)).toBe(encoded);
  expect(chain('decode').run(encoded)).toBe(text);
});

// RFC 6570 §1.2, level 1 (“Simple string expansion”): a value is escaped for the address it stands in.
test.each([
  ['value', 'value'],
  ['Hello World!', 'Hello%20World%21'],
])('RFC 6570 level 1: %s', (value, expanded) => {
  const escaped = compileChain([{ id: 'text.escape', params: { for: 'url' } }]).run(value);
  expect(escaped).toBe(expanded);
});

test('an expression that would run for ever is stopped, and gives the same every time', () => {
  const chain = compileChain([
    { id: 'expression.jsonata', params: { expression: '($f := function($n){$n > 0 ? $f($n - 1) : 0}; $f(1e9))' } },
  ]);
  expect(chain.run('x')).toMatchObject({ code: 'expression.failed' });
  const slow = compileChain([{ id: 'expression.jsonata', params: { expression: '$contains($, /^(a+)+$/)' } }]);
  expect(slow.run(`${'a'.repeat(5000)}b`)).toBe(false);
});

test.each(['text.html', 'text.unicode'])('an unknown step %s is a fault that names it', id =>
  expect(compileChain([{ id: `${id}.none`, params: {} }]).faults[0]!.message).toContain(id),
);

// RFC 1321, A.5; RFC 6234, §8.5.
test.each([
  ['md5', 'a', '0cc175b9c0f1b6a831c399e269772661'],
  ['md5', 'abc', '900150983cd24fb0d6963f7d28e17f72'],
  ['md5', 'message digest', 'f96b697d7cb7938d525a2f31aaf161d0'],
  ['md5', 'abcdefghijklmnopqrstuvwxyz', 'c3fcd3d76192e4007dfb496cca67e13b'],
  ['md5', 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789', 'd174ab98d277d9f5a5611c2c9f419d9f'],
  ['md5', '1234567890'.repeat(8), '57edf4a22be3c955ac49da2e2107b67a'],
  ['hex', 'abc', 'ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad'],
  [
    'hex',
    'abcdbcdecdefdefgefghfghighijhijkijkljklmklmnlmnomnopnopq',
    '248d6a61d20638b8e5c026930c3e6039a33ce45964ff2167f6ecedd419db06c1',
  ],
])('the digest %s of %s', (as, text, digest) =>
  expect(compileChain([{ id: 'id.hash', params: { as, before: '' } }]).run(text)).toBe(digest),
);
