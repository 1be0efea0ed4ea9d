import { micromark } from 'micromark';
import { defineTransform } from '../define';
import { onText } from '../onText';

class FromMarkdownParams {}

/**
 * Markdown to HTML (CommonMark 0.31). HTML in the text, and addresses that run something, are made harmless: whoever filled in the form
 * writes text, and no page.
 */
export const fromMarkdown = defineTransform<FromMarkdownParams>({
  id: 'html.fromMarkdown',
  family: 'text',
  label: 'Markdown to HTML',
  summary: 'Writes Markdown (headings, lists, links, emphasis) as HTML.',
  params: FromMarkdownParams,
  asks: [],
  accepts: 'any',
  returns: 'same',
  explain: () => 'Markdown as HTML',
  apply: value => onText(value, text => micromark(text)),
  examples: [
    { params: {}, in: '# Foam\n\nat the *weir*', out: '<h1>Foam</h1>\n<p>at the <em>weir</em></p>' },
    { params: {}, in: '- foam\n- litter', out: '<ul>\n<li>foam</li>\n<li>litter</li>\n</ul>' },
    { params: {}, in: 'a < b', out: '<p>a &lt; b</p>' },
    { params: {}, in: '<script>x</script>', out: '&lt;script&gt;x&lt;/script&gt;' },
    { params: {}, in: '[x](javascript:run)', out: '<p><a href="">x</a></p>' },
  ],
});
