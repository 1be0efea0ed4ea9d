import fc from 'fast-check';
import { decode } from '..';
import { answerOf } from '../../submission';
import { withOwnKeys } from './ownKeys';

const at = (...pointers: string[]) => pointers.map(pointer => ({ key: pointer.split('/').at(-1)!, pointer }));
const keys = (asked: { key: string; pointer: string }[]) => withOwnKeys(asked).map(each => each.key);

test.each<[string, { key: string; pointer: string }[], string[]]>([
  ['all have keys of their own', at('/a', '/b/c'), ['a', 'c']],
  ['the outermost stays as it is, wherever it comes', at('/location/email', '/email'), ['location.email', 'email']],
  ['the nearest that tells them apart', at('/email', '/a/email', '/b/email'), ['email', 'a.email', 'b.email']],
  [
    'farther where the nearest does not',
    at('/email', '/a/who/email', '/b/who/email'),
    ['email', 'who.email', 'b.who.email'],
  ],
  [
    'a name that is taken is not given again',
    [...at('/a/email', '/email'), { key: 'a.email', pointer: '/a.email' }],
    ['email (2)', 'email', 'a.email'],
  ],
  [
    'without a name around them they are counted',
    [
      { key: 'q1', pointer: '/answers/0/value' },
      { key: 'q1', pointer: '/answers/1/value' },
      { key: 'q1', pointer: '/answers/2/value' },
    ],
    ['q1', 'q1 (2)', 'q1 (3)'],
  ],
  ['places in lists are no names', at('/rows/0/email', '/rows/1/email'), ['email', 'rows.email']],
])('%s', (_, asked, wanted) => expect(keys(asked)).toEqual(wanted));

test('whatever is asked, no two have the same key, and the order of what is asked stays', () => {
  const part = fc.constantFrom('a', 'b', '0', '1', 'a.b', '');
  const asked = fc.array(
    fc
      .record({ key: part, around: fc.array(part, { maxLength: 3 }) })
      .map(({ key, around }) => ({ key, pointer: `/${[...around, key].join('/')}` })),
    { maxLength: 12 },
  );
  fc.assert(
    fc.property(asked, all => {
      const own = withOwnKeys(all);
      expect(new Set(own.map(each => each.key)).size).toBe(all.length);
      expect(own.map(each => each.pointer)).toEqual(all.map(each => each.pointer));
      for (const { key } of all) expect(own.some(each => each.key === key)).toBe(true);
    }),
  );
});

test('an answer in a group can be told from one of the same name beside it, answered or not', () => {
  const read = (body: object) => decode(Buffer.from(JSON.stringify(body)), 'application/json').submissions[0]!;
  const both = read({ location: { email: 'weir@example.org', name: 'Weir' }, email: 'a@example.org', name: 'Aoife' });
  expect([answerOf(both, 'email'), answerOf(both, 'location.email')]).toEqual(['a@example.org', 'weir@example.org']);
  const one = read({ location: { email: 'weir@example.org', name: 'Weir' }, email: null, name: 'Aoife' });
  expect(answerOf(one, 'location.email')).toBe('weir@example.org');
  expect(answerOf(one, 'email')).toBeUndefined();
});
