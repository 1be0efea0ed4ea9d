import type { MediaReader } from './reader';

/** text/plain (RFC 2046 §4.1.3): the text itself, line ends as `\n`. */
export const plain: MediaReader = {
  id: 'plain',
  label: 'plain text',
  isStated: type => type === 'text/plain',
  looksLike: ({ text }) => text.trim() !== '' && !/[\u0000-\u0008\u000e-\u001f]/.test(text), // eslint-disable-line no-control-regex
  read: ({ text }) => ({ document: text.replace(/\r\n?/g, '\n'), notes: [] }),
};
