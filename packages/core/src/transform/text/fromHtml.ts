import { IsBoolean } from 'class-validator';
import { textOfHtml } from '../../html';
import { defineTransform } from '../define';
import { onText } from '../onText';

class FromHtmlParams {
  /** Whether the address of a link stands behind its words. */
  @IsBoolean() links: boolean = false;
}

/** HTML to the text a person sees; scripts, styles and comments go. */
export const fromHtml = defineTransform<FromHtmlParams>({
  id: 'html.toText',
  family: 'text',
  label: 'HTML to text',
  summary: 'Removes HTML tags and keeps the visible text.',
  params: FromHtmlParams,
  asks: [
    {
      name: 'links',
      label: 'Links',
      choices: [
        { value: false, label: 'link text' },
        { value: true, label: 'link text and URL' },
      ],
    },
  ],
  accepts: 'any',
  returns: 'same',
  explain: ({ links }) => `HTML to text${links ? ', with the addresses of links' : ''}`,
  apply: (value, { links }) => onText(value, text => textOfHtml(text, { links }).trim()),
  examples: [
    {
      params: { links: false },
      in: '<p>Foam at the <b>outfall</b></p><p>Oil &amp; litter</p>',
      out: 'Foam at the outfall\n\nOil & litter',
    },
    {
      params: { links: false },
      in: '<script>alert(1)</script>Seen <a href="https://example.org">here</a>',
      out: 'Seen here',
    },
    { params: { links: true }, in: '<a href="https://example.org">here</a>', out: 'here [https://example.org]' },
    { params: { links: false }, in: 'no marks', out: 'no marks' },
  ],
});
