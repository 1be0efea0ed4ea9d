import { IsInt, IsString, Length, Max, Min } from 'class-validator';
import { asText, type Json } from '../../submission';
import { defineTransform } from '../define';

class SplitTextParams {
  /** Where it is divided; `\n` for line breaks. */
  @IsString() @Length(1, 40, { message: 'say where to divide it' }) at: string = ',';
  /** Which piece: 1 is the first, -1 the last, 0 all of them. */
  @IsInt() @Min(-1000) @Max(1000) take: number = 0;
}

/** Divides a text at a mark and takes one piece, or all as a list. Space around pieces goes. */
export const splitText = defineTransform<SplitTextParams>({
  id: 'text.split',
  family: 'text',
  label: 'Split',
  summary: 'Splits text at a separator and takes one piece, or all as a list.',
  params: SplitTextParams,
  asks: [
    { name: 'at', label: 'Separator', hint: ', or \\n' },
    { name: 'take', label: 'Piece', kind: 'number', hint: '0 for all, -1 for the last' },
  ],
  accepts: ['text', 'multiline', 'number'],
  returns: 'choices',
  explain: ({ at, take }) =>
    `split at “${at}”${take === 0 ? '' : take < 0 ? `, piece ${-take} from the end` : `, piece ${take}`}`,
  apply(value, { at, take }): Json {
    const pieces = asText(value)
      .split(at.replaceAll('\\n', '\n'))
      .map(piece => piece.trim());
    return take === 0 ? pieces.filter(piece => piece !== '') : (pieces.at(take > 0 ? take - 1 : take) ?? '');
  },
  examples: [
    { params: { at: ',', take: 2 }, in: '14 Weir Lane, Fernhollow, AB1', out: 'Fernhollow' },
    { params: { at: ',', take: -1 }, in: '14 Weir Lane, Fernhollow', out: 'Fernhollow' },
    { params: { at: '/', take: 0 }, in: 'Foam / Litter', out: ['Foam', 'Litter'] },
    { params: { at: '\\n', take: 1 }, in: 'one\ntwo', out: 'one' },
    { params: { at: ',', take: 5 }, in: 'one, two', out: '' },
  ],
});
