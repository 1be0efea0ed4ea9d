import { IsIn, IsString, MaxLength } from 'class-validator';
import { asText, type Json } from '../../submission';
import { defineTransform, Problem } from '../define';
import { queryPath } from './jsonPath';

const takes = { first: 'the first', all: 'all, as a list' } as const;

class PickPathParams {
  @IsString() @MaxLength(500) path: string = '$.*';
  @IsIn(Object.keys(takes)) take: keyof typeof takes = 'first';
}

/** Parts of a value by JSONPath (RFC 9535): the first that is found, or all; blank when there is none. */
export const pickPath = defineTransform<PickPathParams>({
  id: 'json.path',
  family: 'json',
  label: 'JSONPath',
  summary: 'Finds parts of a value by a JSONPath, such as every name in a list.',
  params: PickPathParams,
  asks: [
    { name: 'path', label: 'Path', hint: '$.items[*].name' },
    { name: 'take', label: 'Take', choices: Object.entries(takes).map(([value, label]) => ({ value, label })) },
  ],
  accepts: ['json', 'table', 'address', 'name', 'choices', 'files'],
  returns: 'json',
  explain: ({ path, take }) => `${takes[take]} at ${path}`,
  apply(value, { path, take }): Json | Problem {
    const found = queryPath(path, value);
    if (typeof found === 'string')
      return new Problem('json.path', `${asText(path)} is not a JSONPath: ${found}`, value);
    return take === 'all' ? found : (found[0] ?? '');
  },
  examples: [
    { params: { path: '$[*].kit', take: 'all' }, in: [{ kit: 'Waders' }, { kit: 'Net' }], out: ['Waders', 'Net'] },
    {
      params: { path: '$[?@.n > 1].kit', take: 'first' },
      in: [
        { kit: 'Net', n: 1 },
        { kit: 'Rope', n: 3 },
      ],
      out: 'Rope',
    },
    { params: { path: '$.nowhere', take: 'first' }, in: { a: 1 }, out: '' },
    { params: { path: '$[?search(@.a, "(x+x+)+y")]', take: 'all' }, in: [{ a: 'x'.repeat(60) }], out: [] },
    { params: { path: '$[', take: 'all' }, in: { a: 1 }, out: { problem: 'json.path' } },
  ],
});
