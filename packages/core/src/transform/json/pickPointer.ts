import { IsString, Matches } from 'class-validator';
import { valueAt, type Json } from '../../submission';
import type { Problem } from '../define';
import { defineTransform } from '../define';

class PickPointerParams {
  @IsString()
  @Matches(/^(\/([^~]|~[01])*)?$/, { message: 'a JSON Pointer is empty or starts with “/”' })
  pointer: string = '';
}

/** A part of a value by JSON Pointer (RFC 6901); blank when it is not there. */
export const pickPointer = defineTransform<PickPointerParams>({
  id: 'json.pick',
  family: 'json',
  label: 'Part of a value',
  summary: 'Takes a part of a value, such as the street of an address.',
  params: PickPointerParams,
  asks: [{ name: 'pointer', label: 'Path', hint: '/street' }],
  accepts: ['json', 'table', 'address', 'name', 'choices', 'files'],
  returns: 'json',
  explain: ({ pointer }) => `value at ${pointer || 'the top'}`,
  apply(value, { pointer }): Json | Problem {
    return valueAt(value, pointer) ?? '';
  },
  examples: [
    { params: { pointer: '/street' }, in: { street: '14 Weir Lane', town: 'Fernhollow' }, out: '14 Weir Lane' },
    { params: { pointer: '/0/kit' }, in: [{ kit: 'Waders' }], out: 'Waders' },
    { params: { pointer: '/nowhere' }, in: { a: 1 }, out: '' },
    { params: { pointer: '' }, in: 'x', out: 'x' },
  ],
});
