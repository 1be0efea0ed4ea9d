import fc from 'fast-check';
import { KnownSecrets, maskedIn } from '.';

const knowing = (...secrets: string[]) => {
  const known = new KnownSecrets();
  secrets.forEach(each => known.add(each));
  return known;
};

test.each<[string, string[], string, string]>([
  ['as it is', ['s3cret key'], 'a s3cret key.', 'a ••••••.'],
  ['at both ends', ['s3cret'], 's3crets3cret', '••••••••••••'],
  ['percent-encoded', ['s3cret key'], '?k=s3cret%20key&x', '?k=••••••&x'],
  ['in JSON', ['s3"cret'], '{"k":"s3\\"cret"}', '{"k":"••••••"}'],
  ['in Base64, behind a user', ['s3cret-key'], Buffer.from('me:s3cret-key').toString('base64'), 'bWU6••••••=='],
  ['the longest of several', ['ticket', 'ticket-office'], 'ticket-office ticket', '•••••• ••••••'],
  ['a list of them', ['["first one","second one"]'], 'first one, second one', '••••••, ••••••'],
  ['too short to be told', ['12345'], '12345', '12345'],
  ['none', [], 'anything', 'anything'],
  ['a text that is shorter', ['s3cret'], 's3cre', 's3cre'],
])('a secret %s', (_, secrets, text, masked) => expect(knowing(...secrets).mask(text)).toBe(masked));

test('no secret stays, whatever there is of them, and what holds none is as it was', () => {
  const secret = fc.string({ minLength: 6, maxLength: 12, unit: fc.constantFrom('a', 'b', 'c') });
  fc.assert(
    fc.property(
      fc.array(secret, { maxLength: 8 }),
      fc.string({ unit: fc.constantFrom('a', 'b', 'c', '-') }),
      (all, text) => {
        const masked = knowing(...all).mask(text);
        expect(all.filter(each => masked.includes(each))).toEqual([]);
        if (!all.some(each => text.includes(each))) expect(masked).toBe(text);
      },
    ),
    { numRuns: 500 },
  );
});

test('every one is known as long as it may be good, however many there are', () => {
  let time = Date.parse('2026-11-04T08:00:00Z');
  const clock = jest.spyOn(Date, 'now').mockImplementation(() => time);
  const known = new KnownSecrets();
  known.add('a day-long token', time + 86_400_000);
  known.add('the key of the target');
  for (let at = 0; at < 5000; at++) known.add(`short token ${at}.`, time + 60_000);
  time += 3_600_000;
  known.add('another one');
  const text = 'a day-long token, the key of the target, short token 4999.';
  expect(known.mask(text)).toBe('••••••, ••••••, short token 4999.');
  clock.mockRestore();
});

test('data is masked in its texts and names; what holds no secret is the same object', () => {
  const { mask } = { mask: (text: string) => knowing('s3cret').mask(text) };
  const data = { a: ['x s3cret', 7, null], s3cret: true };
  expect(maskedIn(data, mask)).toEqual({ a: ['x ••••••', 7, null], '••••••': true });
  const plain = { a: [{ b: 'x' }] };
  expect(maskedIn(plain, mask)).toBe(plain);
});
