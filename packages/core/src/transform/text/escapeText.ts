import { IsIn } from 'class-validator';
import { asText, percentEncoded, type Json } from '../../submission';
import { defineTransform } from '../define';

const escapes: Record<string, { words: string; escape: (text: string) => string }> = {
  html: { words: 'HTML', escape: text => text.replace(/[&<>"']/g, each => `&#${each.charCodeAt(0)};`) },
  xml: {
    words: 'XML',
    // Characters that XML 1.0 §2.2 does not allow are dropped.
    escape: text =>
      text
        // eslint-disable-next-line no-control-regex
        .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '')
        .replace(/[&<>"']/g, each => `&#${each.charCodeAt(0)};`),
  },
  url: {
    words: 'a URL',
    escape: percentEncoded,
  },
  json: { words: 'JSON text', escape: text => JSON.stringify(text).slice(1, -1) },
  // RFC 4180 §2: quoted where it has to be, quotes doubled.
  csv: { words: 'a CSV cell', escape: text => (/[",\r\n;]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text) },
};

class EscapeTextParams {
  @IsIn(Object.keys(escapes)) for: string = 'html';
}

/** Makes text safe to stand inside another notation. */
export const escapeText = defineTransform<EscapeTextParams>({
  id: 'text.escape',
  family: 'text',
  label: 'Escape',
  summary: 'Makes text safe inside HTML, XML, a URL, JSON or CSV.',
  params: EscapeTextParams,
  asks: [
    {
      name: 'for',
      label: 'For',
      choices: Object.entries(escapes).map(([value, { words }]) => ({ value, label: words })),
    },
  ],
  accepts: 'any',
  returns: 'text',
  explain: params => `escaped for ${escapes[params.for]!.words}`,
  apply: (value, params): Json => escapes[params.for]!.escape(asText(value)),
  examples: [
    { params: { for: 'html' }, in: '<b>see & read</b>', out: '&#60;b&#62;see &#38; read&#60;/b&#62;' },
    { params: { for: 'url' }, in: 'Mill Race & more', out: 'Mill%20Race%20%26%20more' },
    { params: { for: 'json' }, in: 'say "hi"\n', out: 'say \\"hi\\"\\n' },
    { params: { for: 'csv' }, in: 'a, "b"', out: '"a, ""b"""' },
    { params: { for: 'csv' }, in: 'plain', out: 'plain' },
    { params: { for: 'xml' }, in: 'a\u0001<b', out: 'a&#60;b' },
  ],
});
