import { compileChain, newStep } from '.';

const { tests: commonmark } = jest.requireActual<{ tests: { markdown: string; html: string }[] }>('commonmark-spec');

const hash = (as: string, text: string) => compileChain([newStep('id.hash', { as, before: '' })]).run(text);

// RFC 1321, A.5, “MD5 test suite”, but for the empty text: a blank answer stays blank.
test.each([
  ['a', '0cc175b9c0f1b6a831c399e269772661'],
  ['abc', '900150983cd24fb0d6963f7d28e17f72'],
  ['message digest', 'f96b697d7cb7938d525a2f31aaf161d0'],
  ['abcdefghijklmnopqrstuvwxyz', 'c3fcd3d76192e4007dfb496cca67e13b'],
  ['ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789', 'd174ab98d277d9f5a5611c2c9f419d9f'],
  ['1234567890'.repeat(8), '57edf4a22be3c955ac49da2e2107b67a'],
])('MD5 of “%s”', (text, digest) => expect(hash('md5', text)).toBe(digest));

// RFC 6234, §8.5, TEST1, TEST2_1, TEST3 and TEST4 of SHA-256.
test.each([
  ['abc', 'ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad'],
  [
    'abcdbcdecdefdefgefghfghighijhijkijkljklmklmnlmnomnopnopq',
    '248d6a61d20638b8e5c026930c3e6039a33ce45964ff2167f6ecedd419db06c1',
  ],
  ['a'.repeat(1_000_000), 'cdc76e5c9914fb9281a1c7e284d73e67f1809a48a497200e046d39ccc7112cd0'],
  ['01234567'.repeat(80), '594847328451bdfa85056225462cc1d867d877fb388df0ce35f25ab5562bfbb5'],
])('SHA-256 of “%s”', (text, digest) => expect(hash('hex', text)).toBe(digest));

// The examples of CommonMark 0.31.2 (package commonmark-spec). Those with HTML of their own, and addresses that run something, are made harmless, and differ.
describe('Markdown as CommonMark’s examples write it', () => {
  const chain = compileChain([newStep('html.fromMarkdown')]);
  const isHarmless = (html: string, markdown: string) =>
    !/<(?!\/?(a|blockquote|br|code|em|h[1-6]|hr|img|li|ol|p|pre|strong|ul)\b)/i.test(html) &&
    !/<[a-z!?/]/i.test(markdown);
  const own = commonmark.filter(({ html, markdown }) => isHarmless(html, markdown));
  test('enough of them are looked at', () => expect(own.length).toBeGreaterThan(500));
  test('each is written so', () => {
    const differ = own.filter(({ markdown, html }) => {
      const written = chain.run(markdown.replaceAll('→', '\t'));
      return String(written).trim() !== html.replaceAll('→', '\t').trim();
    });
    // Addresses of schemes that are not let through are left out: `a+b+c:d`, `made-up-scheme://…`.
    expect(differ.filter(({ html }) => !/(href|src)="(?!https?:|mailto:|xmpp:|irc)[^/?#"]+:/i.test(html))).toEqual([]);
  });
});
