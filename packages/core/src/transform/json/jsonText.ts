import { IsIn } from 'class-validator';
import { asText, parseJson, type Json } from '../../submission';
import { defineTransform, Problem } from '../define';

const ways = { read: 'text to a value', write: 'value to text' } as const;
type Way = keyof typeof ways;

class JsonTextParams {
  @IsIn(Object.keys(ways)) way: Way = 'read';
}

/** JSON out of text, or as text (RFC 8259). */
export const jsonText = defineTransform<JsonTextParams>({
  id: 'json.text',
  family: 'json',
  label: 'JSON',
  summary: 'Reads text as JSON, or writes a value as JSON.',
  params: JsonTextParams,
  asks: [
    { name: 'way', label: 'Direction', choices: Object.entries(ways).map(([value, label]) => ({ value, label })) },
  ],
  accepts: 'any',
  returns: 'json',
  explain: ({ way }) => (way === 'read' ? 'read as JSON' : 'written as JSON'),
  apply(value, { way }): Json | Problem {
    if (way === 'write') return JSON.stringify(value);
    if (typeof value !== 'string') return value;
    return parseJson(value) ?? new Problem('json.unreadable', `“${asText(value).slice(0, 60)}” is not JSON.`, value);
  },
  examples: [
    { params: { way: 'read' }, in: '{"a":[1]}', out: { a: [1] } },
    { params: { way: 'write' }, in: { a: [1] }, out: '{"a":[1]}' },
    { params: { way: 'read' }, in: '[oops', out: { problem: 'json.unreadable' } },
    { params: { way: 'write' }, in: 'x', out: '"x"' },
  ],
});
