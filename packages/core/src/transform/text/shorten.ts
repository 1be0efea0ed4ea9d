import { IsInt, IsString, Max, MaxLength, Min } from 'class-validator';
import type { Json } from '../../submission';
import { defineTransform } from '../define';
import { onText } from '../onText';

class ShortenParams {
  @IsInt() @Min(1) @Max(100000) to: number = 255;
  @IsString() @MaxLength(20) mark: string = '…';
}

/** Cuts a text that is too long at the end of a word, with a mark; never longer than allowed. */
export const shorten = defineTransform<ShortenParams>({
  id: 'text.shorten',
  family: 'text',
  label: 'Shorten',
  summary: 'Cuts long text at the end of a word.',
  params: ShortenParams,
  asks: [
    { name: 'to', label: 'Maximum length', kind: 'number', hint: 'characters' },
    { name: 'mark', label: 'End with', optional: true },
  ],
  accepts: 'any',
  returns: 'same',
  explain: ({ to }) => `at most ${to} characters`,
  apply: (value, { to, mark }): Json =>
    onText(value, text => {
      if (text.length <= to) return text;
      const room = to - mark.length;
      if (room <= 0) return text.slice(0, to);
      const cut = text.slice(0, room + 1);
      const end = /\s\S*$/.exec(cut)?.index ?? 0;
      return (end > room / 2 ? cut.slice(0, end).trimEnd() : text.slice(0, room)) + mark;
    }),
  examples: [
    { params: { to: 10, mark: '…' }, in: 'low water today', out: 'low water…' },
    { params: { to: 50, mark: '…' }, in: 'low water', out: 'low water' },
    { params: { to: 5, mark: '' }, in: 'abcdefgh', out: 'abcde' },
    { params: { to: 2, mark: '...' }, in: 'abcdefgh', out: 'ab' },
  ],
});
