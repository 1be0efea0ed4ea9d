import { withParts, type Put } from '.';

test.each<[string, string, Put, string]>([
  ['another value', 'line=a&sample=s', { line: 'b' }, 'line=b&sample=s'],
  ['one more', 'sample=s', { line: 'b' }, 'sample=s&line=b'],
  ['one less', 'line=a&sample=s', { line: null }, 'sample=s'],
  ['several at once', 'view=threads&line=a', { view: null, line: 'b' }, 'line=b'],
  ['what is blank', 'send=', { send: '' }, 'send='],
])('%s is put into the address', (_, before, put, after) =>
  expect(withParts(new URLSearchParams(before), put).toString()).toBe(after),
);
