import { IsIn } from 'class-validator';
import { defineTransform } from '../define';
import { onText } from '../onText';

const ways = { paragraphs: 'paragraphs', breaks: 'line breaks', list: 'a list, one item per line' } as const;

class ToHtmlParams {
  @IsIn(Object.keys(ways)) as: keyof typeof ways = 'paragraphs';
}

const escaped = (text: string) =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;');
const lined = (text: string) => escaped(text).replaceAll('\n', '<br>');

const writers: Record<keyof typeof ways, (text: string) => string> = {
  paragraphs: text =>
    text
      .split(/\n{2,}/)
      .map(each => each.trim())
      .filter(Boolean)
      .map(each => `<p>${lined(each)}</p>`)
      .join(''),
  breaks: lined,
  list: text =>
    `<ul>${text
      .split('\n')
      .filter(line => line.trim() !== '')
      .map(line => `<li>${escaped(line.trim())}</li>`)
      .join('')}</ul>`,
};

/** Text to HTML that shows the same: nothing in the text counts as a mark. */
export const toHtml = defineTransform<ToHtmlParams>({
  id: 'html.fromText',
  family: 'text',
  label: 'Text to HTML',
  summary: 'Writes text as HTML that looks the same; special characters are escaped.',
  params: ToHtmlParams,
  asks: [{ name: 'as', label: 'Write as', choices: Object.entries(ways).map(([value, label]) => ({ value, label })) }],
  accepts: 'any',
  returns: 'same',
  explain: ({ as }) => `as HTML with ${ways[as]}`,
  apply: (value, { as }) => onText(value, text => writers[as](text.replace(/\r\n?/g, '\n').trim())),
  examples: [
    { params: { as: 'paragraphs' }, in: 'Foam.\nOil.\n\nCall me', out: '<p>Foam.<br>Oil.</p><p>Call me</p>' },
    { params: { as: 'breaks' }, in: 'a < b\nc', out: 'a &lt; b<br>c' },
    { params: { as: 'list' }, in: 'Foam\n\nLitter', out: '<ul><li>Foam</li><li>Litter</li></ul>' },
    { params: { as: 'breaks' }, in: '<b>"x"</b>', out: '&lt;b&gt;&quot;x&quot;&lt;/b&gt;' },
  ],
});
