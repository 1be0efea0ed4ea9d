import fc from 'fast-check';
import { parse } from 'shell-quote';
import { curlLine, isToBeFilledIn } from './curl';

/** The words of a line as a POSIX shell reads them; the registry's shell-quote is the reference. */
const words = (line: string) => parse(line.replaceAll(' \\\n  ', ' ')) as string[];

const wire = (first: string, headers: string[], body = '') => [first, ...headers, '', body].join('\n');

test('a request with a body', () => {
  const line = curlLine(
    wire('POST /tables/samples HTTP/1.1', ['host: register.example.org', 'content-type: application/json'], '{"a":1}'),
    ['https://other.example.org', 'http://register.example.org/base'],
  )!;
  expect(words(line)).toEqual([
    'curl',
    'http://register.example.org/tables/samples',
    '-H',
    'content-type: application/json',
    '--data-raw',
    '{"a":1}',
  ]);
});
test.each<[string, string, string[]]>([
  ['GET needs no method', wire('GET /a?b=c HTTP/1.1', ['host: h']), ['curl', 'https://h/a?b=c']],
  ['POST without a body does', wire('POST /a HTTP/1.1', ['host: h']), ['curl', '-X', 'POST', 'https://h/a']],
  ['PUT does', wire('PUT /a HTTP/1.1', ['host: h'], 'x'), ['curl', '-X', 'PUT', 'https://h/a', '--data-raw', 'x']],
  [
    'what curl makes by itself is left to it',
    wire('GET /a HTTP/1.1', ['Host: h', 'Content-Length: 3', 'X-Own: 1']),
    ['curl', 'https://h/a', '-H', 'X-Own: 1'],
  ],
])('%s', (_, text, expected) => expect(words(curlLine(text)!)).toEqual(expected));
test('what a shell would read otherwise is quoted, whatever it is', () => {
  // No backslash and no glob: shell-quote's own parser reads these otherwise within quotes than POSIX does.
  const text = fc.string({ unit: fc.constantFrom(...`ab c"'$&|;<>()!#~é\n`) });
  fc.assert(
    fc.property(text, body => {
      fc.pre(body !== '');
      const line = curlLine(wire('POST /a HTTP/1.1', ['host: h'], body))!;
      expect(
        line
          .slice(line.indexOf('--data-raw ') + 11)
          .replaceAll(`'\\''`, '')
          .replace(/^'|'$/g, ''),
      ).not.toContain("'");
      expect(words(line.replaceAll('\n', '⏎')).at(-1)).toBe(body.replaceAll('\n', '⏎'));
    }),
  );
});
test.each([
  ['a mail', 'From: a@example.org\n\nHello'],
  ['a file', 'visits.csv\n\na,b'],
  ['nothing', ''],
])('%s is no request', (_, text) => expect(curlLine(text)).toBeNull());
test('secrets and files are only named, and the line says so', () => {
  const line = curlLine(wire('GET /a HTTP/1.1', ['host: h', 'authorization: Bearer ••••••']))!;
  expect([isToBeFilledIn(line), isToBeFilledIn('curl https://h/a')]).toEqual([true, false]);
});
