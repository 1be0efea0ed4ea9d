import { IsIn } from 'class-validator';
import { asText, withoutEnd, type Json } from '../../submission';
import { defineTransform, Problem } from '../define';

const ways = {
  encode: 'to Base64',
  encodeUrl: 'to URL-safe Base64',
  decode: 'from Base64',
} as const;

class Base64Params {
  @IsIn(Object.keys(ways)) way: keyof typeof ways = 'encode';
}

function encode(text: string): string {
  let bytes = '';
  for (const byte of new TextEncoder().encode(text)) bytes += String.fromCharCode(byte);
  return btoa(bytes);
}

/** Text as Base64 of its UTF-8, or back (RFC 4648 §4 and §5). */
export const base64 = defineTransform<Base64Params>({
  id: 'text.base64',
  family: 'text',
  label: 'Base64',
  summary: 'Writes a text as Base64, or reads it from Base64.',
  params: Base64Params,
  asks: [{ name: 'way', label: 'How', choices: Object.entries(ways).map(([value, label]) => ({ value, label })) }],
  accepts: ['text', 'multiline', 'json', 'number', 'url'],
  returns: 'text',
  explain: ({ way }) => ways[way],
  apply(value, { way }): Json | Problem {
    const text = asText(value);
    if (way === 'encode') return encode(text);
    if (way === 'encodeUrl') return withoutEnd(encode(text).replaceAll('+', '-').replaceAll('/', '_'), '=');
    try {
      const bytes = Uint8Array.from(atob(text.trim().replaceAll('-', '+').replaceAll('_', '/')), each =>
        each.charCodeAt(0),
      );
      return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    } catch {
      return new Problem('text.base64', `“${text.slice(0, 60)}” is not Base64 of a text.`, value);
    }
  },
  examples: [
    { params: { way: 'encode' }, in: 'Élodie', out: 'w4lsb2RpZQ==' },
    { params: { way: 'encodeUrl' }, in: '??>', out: 'Pz8-' },
    { params: { way: 'decode' }, in: 'w4lsb2RpZQ', out: 'Élodie' },
    { params: { way: 'decode' }, in: '!!', out: { problem: 'text.base64' } },
  ],
});
