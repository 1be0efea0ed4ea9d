import fc from 'fast-check';
import type { Json } from './json';
import { escapeToken, pointerOf, tokensOf, valueAt, withValueAt } from './pointer';

// RFC 6901 §5: the document and every pointer of its table.
const rfcDocument: Json = {
  foo: ['bar', 'baz'],
  '': 0,
  'a/b': 1,
  'c%d': 2,
  'e^f': 3,
  'g|h': 4,
  'i\\j': 5,
  'k"l': 6,
  ' ': 7,
  'm~n': 8,
};
test.each<[string, Json]>([
  ['', rfcDocument],
  ['/foo', ['bar', 'baz']],
  ['/foo/0', 'bar'],
  ['/', 0],
  ['/a~1b', 1],
  ['/c%d', 2],
  ['/e^f', 3],
  ['/g|h', 4],
  ['/i\\j', 5],
  ['/k"l', 6],
  ['/ ', 7],
  ['/m~0n', 8],
])('RFC 6901 §5: %j', (pointer, value) => expect(valueAt(rfcDocument, pointer)).toEqual(value));

test.each(['/foo/2', '/foo/01', '/foo/-', '/foo/0/x', '/nothing', '/toString', '/foo/length'])(
  '%j refers to nothing',
  pointer => expect(valueAt(rfcDocument, pointer)).toBeUndefined(),
);

test('a pointer that does not start with a slash is a mistake', () =>
  expect(() => tokensOf('foo')).toThrow('starts with'));

test('a value that was put somewhere is found there', () => {
  fc.assert(
    fc.property(fc.array(fc.string(), { minLength: 1, maxLength: 5 }), fc.integer(), (tokens, value) => {
      const pointer = tokens.map(token => `/${escapeToken(token)}`).join('');
      expect(valueAt(withValueAt({}, pointer, value), pointer)).toBe(value);
    }),
  );
});

test('putting a value makes lists where the next token is a number, and does not touch prototypes', () => {
  expect(withValueAt({}, '/kits/0/name', 'strip')).toEqual({ kits: [{ name: 'strip' }] });
  withValueAt({}, '/__proto__/polluted', true);
  expect(({} as { polluted?: boolean }).polluted).toBeUndefined();
});

test('a pointer made of any tokens reads as those tokens', () => {
  fc.assert(fc.property(fc.array(fc.string()), tokens => expect(tokensOf(pointerOf(tokens))).toEqual(tokens)));
});
