import { tablesOfHtml } from '.';

test.each<[string, string, string[][][]]>([
  ['cells with and without end tags', '<table><tr><td>A<td>1<tr><td>B<td>2</table>', [[['A', '1'], ['B', '2']]]],
  ['breaks and entities', '<table><tr><th>Wish</th><td>Quiet,<br>please &amp; dry</td></tr></table>', [[['Wish', 'Quiet,\nplease & dry']]]],
  ['lists of terms', '<dl><dt>Name</dt><dd>Ada</dd><dt>Town</dt><dd>Elden</dd></dl>', [[['Name', 'Ada'], ['Town', 'Elden']]]],
  ['a link that is shown by another text', '<table><tr><td>Plan</td><td><a href="https://e.example.org/p.pdf">p.pdf</a></td></tr></table>', [[['Plan', '<a href="https://e.example.org/p.pdf">p.pdf</a>']]]],
  ['a link that is shown as it is', '<table><tr><td>Site</td><td><a href="https://e.example.org/">https://e.example.org/</a></td></tr></table>', [[['Site', 'https://e.example.org/']]]],
  ['styles are none', '<table><style>td{}</style><tr><td>A</td><td>1</td></tr></table>', [[['A', '1']]]],
  ['text without a table', '<p>Nothing here</p>', []],
])('%s', (_, html, tables) => expect(tablesOfHtml(html)).toEqual(tables)); // prettier-ignore
