import { IsIn, IsString, MaxLength } from 'class-validator';
import type { Json } from '../../submission';
import { defineTransform } from '../define';
import { onText } from '../onText';

const ways = { separator: 'a separator', html: 'HTML breaks', space: 'spaces', crlf: 'CR LF' } as const;
type Way = keyof typeof ways;

class LineBreaksParams {
  @IsIn(Object.keys(ways)) to: Way = 'separator';
  @IsString() @MaxLength(20) separator: string = ' / ';
}

/** Turns line breaks into something a one-line field or a page can hold. Empty lines are dropped but in HTML. */
export const lineBreaks = defineTransform<LineBreaksParams>({
  id: 'text.lines',
  family: 'text',
  label: 'Line breaks',
  summary: 'Turns line breaks into a separator, HTML or spaces.',
  params: LineBreaksParams,
  asks: [
    { name: 'to', label: 'Write as', choices: Object.entries(ways).map(([value, label]) => ({ value, label })) },
    { name: 'separator', label: 'Separator', optional: true },
  ],
  accepts: 'any',
  returns: 'same',
  explain: ({ to, separator }) => `line breaks into ${to === 'separator' ? `“${separator}”` : ways[to]}`,
  apply: (value, { to, separator }): Json =>
    onText(value, text => {
      const lines = text.split(/\r\n?|\n/);
      if (to === 'html') return lines.join('<br>\n');
      if (to === 'crlf') return lines.join('\r\n');
      const filled = lines.map(line => line.trim()).filter(line => line !== '');
      return filled.join(to === 'space' ? ' ' : separator);
    }),
  examples: [
    { params: { to: 'separator', separator: ' / ' }, in: 'low\n\ndry', out: 'low / dry' },
    { params: { to: 'html', separator: '' }, in: 'low\ndry', out: 'low<br>\ndry' },
    { params: { to: 'space', separator: '' }, in: 'low\r\ndry', out: 'low dry' },
    { params: { to: 'crlf', separator: '' }, in: 'low\ndry', out: 'low\r\ndry' },
  ],
});
