import { strToU8, zipSync } from 'fflate';

/** A message that is made to be slow, large or confusing; `n` says how much of it there is. */
export interface Hostile {
  name: string;
  contentType: string | null;
  body(n: number): Uint8Array;
  query?(n: number): string;
}

const bytes = (text: string) => new TextEncoder().encode(text);
const times = (n: number, each: (index: number) => string, between = '') =>
  Array.from({ length: n }, (_, index) => each(index)).join(between);

const text = (name: string, contentType: string | null, body: (n: number) => string): Hostile => ({
  name,
  contentType,
  body: n => bytes(body(n)),
});
const json = (name: string, body: (n: number) => string) => text(`JSON: ${name}`, 'application/json', body);
const multipart = (name: string, body: (n: number) => string) =>
  text(`multipart: ${name}`, 'multipart/form-data; boundary=x', body);
const part = (name: string, value: string) =>
  `--x\r\ncontent-disposition: form-data; name="${name}"\r\n\r\n${value}\r\n`;
const mail = (name: string, body: (n: number) => string) => text(`mail: ${name}`, 'message/rfc822', body);
const html = (body: string) => `From: a@example.org\r\nSubject: x\r\nContent-Type: text/html\r\n\r\n${body}`;

/** A workbook of one sheet with these rows. */
export const workbook = (sheet: string, more: Record<string, string> = {}): Uint8Array =>
  zipSync(
    Object.fromEntries(
      Object.entries({
        'xl/workbook.xml': '<workbook><sheets><sheet name="S" id="r1"/></sheets></workbook>',
        'xl/worksheets/sheet1.xml': `<worksheet><sheetData>${sheet}</sheetData></worksheet>`,
        ...more,
      }).map(([name, content]) => [name, strToU8(content)]),
    ),
  );
const sheet = (name: string, rows: (n: number) => string): Hostile => ({
  name: `spreadsheet: ${name}`,
  contentType: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  body: n => workbook(rows(n)),
});

/**
 * Messages that were made to be slow or large, over all media and envelopes. With `n` doubled they are twice as large, and
 * must not take much more than twice as long.
 */
export const hostile: Hostile[] = [
  // JSON: shapes
  json('many plain keys', n => `{${times(n, i => `"key_${i}":"value ${i}"`, ',')}}`),
  json('many keys with lines', n => `{${times(n, i => `"key_${i}":"a: ${i}\\nb: ${i}"`, ',')}}`),
  json('keys that end in other', n => `{${times(n, i => `"k${i}":"Other","k${i}_other":"x"`, ',')}}`),
  json('keys that begin alike', n => `{${times(n, i => `"${'a'.repeat(20)}${i}":"other"`, ',')}}`),
  json('many small lists', n => `{${times(n, i => `"l${i}":[{"a":1,"b":"x y"},{"a":2,"b":"z w"}]`, ',')}}`),
  json('lists inside lists', n => `{"a":[${times(n, i => `[{"q":"Which ${i}?","v":1}]`, ',')}]}`),
  json('labelled answers', n => `[${times(n, i => `{"id":"q${i}","label":"What is ${i}?","answer":"a${i}"}`, ',')}]`),
  json(
    'groups of labelled answers',
    n => `[${times(n, i => `{"label":"Page ${i}","items":[{"label":"Which?","value":"x"}]}`, ',')}]`,
  ),
  json('a dictionary of answers', n => `{${times(n, i => `"q${i}":{"label":"What is ${i}?","answer":"a"}`, ',')}}`),
  json(
    'definitions apart',
    n =>
      `{"fields":[${times(n, i => `{"id":"q${i}","title":"What is ${i}?"}`, ',')}],"answers":{${times(n, i => `"q${i}":"a"`, ',')}}}`,
  ),
  json(
    'many definitions',
    n => `{"answers":{"q0":"a","q1":"b"},"d":[${times(n, i => `[{"id":"q${i % 2}","title":"What is it?"}]`, ',')}]}`,
  ),
  json('a batch', n => `[${times(n, i => `{"id":${i},"form":"f","name":"A${i}","signs":["x","y"]}`, ',')}]`),
  json('a batch inside', n => `{"rows":[${times(n, i => `{"id":${i},"answers":{"a":"b"}}`, ',')}]}`),
  json('different properties', n => `[${times(n, i => `{"p${i}":"x","label":"L ${i}"}`, ',')}]`),
  json(
    'option lists',
    n =>
      `[${times(n, i => `{"id":"q${i}","label":"Which ${i}?","options":[{"id":"1","label":"A"}],"answer":"1"}`, ',')}]`,
  ),
  json('a long path of keys', n => `${times(60, i => `{"${'k'.repeat(n)}${i}":`)}1${'}'.repeat(60)}`),
  json(
    'wide under a long path',
    n => `${times(40, () => `{"${'k'.repeat(60)}":`)}{${times(n, i => `"a${i}":"b"`, ',')}}${'}'.repeat(40)}`,
  ),
  json('one list of texts', n => `{"a":[${times(n, i => `"x${i}"`, ',')}]}`),
  json('one list of numbers', n => `[${times(n, i => String(i), ',')}]`),
  json('empty objects', n => `[${times(n, () => '{}', ',')}]`),
  json('empty lists', n => `{"a":[${times(n, () => '[]', ',')}]}`),
  json('nulls', n => `{${times(n, i => `"a${i}":null`, ',')}}`),
  json('checkbox groups', n => `{"signs":{${times(n, i => `"S${i}":true`, ',')}}}`),
  json('sections', n => `{${times(n, i => `"s${i}":{"a":"b","c":"d"}`, ',')}}`),
  json(
    'prototype names',
    n => `{"__proto__":{"a":1},${times(n, i => `"constructor${i}":{"prototype":{"x":1}}`, ',')}}`,
  ),
  json('the same key again', n => `{${times(n, () => '"a":"b"', ',')}}`),
  json(
    'files',
    n => `{"photos":[${times(n, i => `{"name":"a${i}.jpg","url":"https://files.example.org/${i}","size":3}`, ',')}]}`,
  ),
  json('file members', n => `{"file":{${times(n, i => `"size${i}":{"toString":"x"}`, ',')}}}`),
  // JSON: texts
  json('spaces in labelled text', n => JSON.stringify({ text: `a: b\n${' '.repeat(n)}x\nc: d` })),
  json('a label of spaces', n => JSON.stringify({ text: `a${' '.repeat(n)}:${' '.repeat(n)}b\nc: d` })),
  json('lines without labels', n => JSON.stringify({ text: `a: b\nc: d\n${times(n, () => 'goes on\n')}` })),
  json('labelled lines', n => JSON.stringify({ text: times(n, i => `Label ${i}: value\n`) })),
  json('dots behind an @', n => JSON.stringify({ mail: `a@${'.'.repeat(n)}` })),
  json('@ signs', n => JSON.stringify({ mail: '@'.repeat(n) })),
  json('a data address', n => JSON.stringify({ file: `data:${'a'.repeat(n)}` })),
  json('semicolons in a data address', n => JSON.stringify({ file: `data:${';'.repeat(n)},x` })),
  json('equals signs', n => JSON.stringify({ file: `data:a/b;base64,${'='.repeat(n)}x` })),
  json('question marks', n => JSON.stringify({ file: `https://example.org/${'?'.repeat(n)}\n` })),
  json('slashes', n => JSON.stringify({ file: `a${'/'.repeat(n)}*` })),
  json('brackets in a text', n => JSON.stringify({ a: `[${'['.repeat(n)}` })),
  json('braces in a text', n => JSON.stringify({ a: `{${'}'.repeat(n)}x` })),
  json('a list in a text', n => JSON.stringify({ a: JSON.stringify(Array.from({ length: n }, (_, i) => `x${i}`)) })),
  json('objects in a text', n =>
    JSON.stringify({ a: JSON.stringify(Array.from({ length: n }, (_, i) => ({ i, t: 'x y' }))) }),
  ),
  json('underscores before other', n =>
    JSON.stringify({ a: [`${'_'.repeat(n)}other${'_'.repeat(n)}x`, { id: 1, label: 'Other', other: '_'.repeat(n) }] }),
  ),
  json('digits', n => JSON.stringify({ phone: '1'.repeat(n), date: `${'1/'.repeat(n)}` })),
  json('digits and dots', n => JSON.stringify({ a: `${'1.'.repeat(n)}x` })),
  json('white space', n => JSON.stringify({ a: ' '.repeat(n), b: `\n${'\r\n'.repeat(n)}x` })),
  json('capitals in a key', n => `{"${'aB'.repeat(n)}":"x","b":"y"}`),
  json('a long key', n => `{"${'a b '.repeat(n)}":"x","b":"y"}`),
  json('marks on letters', n => JSON.stringify({ [`e${'\u0301'.repeat(n)}`]: 'x', b: `e${'\u0301'.repeat(n)}` })),
  json('lone surrogates', n => JSON.stringify({ a: '\ud800'.repeat(n) })),
  json('broken at its end', n => `[${times(n, () => '{"a":1}', ',')}`),
  json('no JSON at all', n => `{${'x'.repeat(n)}`),
  // depth
  json('deep lists', n => `${'['.repeat(n)}${']'.repeat(n)}`),
  json('deep objects', n => `${'{"a":'.repeat(n)}1${'}'.repeat(n)}`),
  json('deep and open', n => '['.repeat(n)),
  multipart(
    'a deep JSON part',
    n =>
      `--x\r\ncontent-disposition: form-data; name="a"\r\ncontent-type: application/json\r\n\r\n${'['.repeat(n)}${']'.repeat(n)}\r\n--x--`,
  ),
  text('urlencoded: deep brackets', 'application/x-www-form-urlencoded', n => `a${'[b]'.repeat(n)}=1`),
  text('XML: deep elements', 'application/xml', n => `${'<a>'.repeat(n)}x${'</a>'.repeat(n)}`),
  mail('deep elements', n => html('<div>'.repeat(n))),
  mail('deep inline elements', n => html('<b><i>'.repeat(n))),
  // JSON lines, archives
  text('JSON lines', 'application/x-ndjson', n => times(n, i => `{"id":${i},"a":"b"}\n`)),
  text('JSON lines: blank ones', 'application/x-ndjson', n => `{"a":1}${'\n'.repeat(n)}{"a":2}`),
  text('JSON lines: none of them', 'application/x-ndjson', n => times(n, () => '{x\n')),
  text('archive of messages', 'application/har+json', n =>
    JSON.stringify({
      log: {
        entries: Array.from({ length: n }, (_, i) => ({
          request: { postData: { mimeType: 'application/json', text: `{"a":${i},"b":"c"}` } },
        })),
      },
    }),
  ),
  text('archive inside an archive', 'application/har+json', n => {
    let inner = '{"a":"b","c":"d"}';
    for (let depth = 0; depth < 5; depth++)
      inner = JSON.stringify({
        log: {
          entries: [{ request: { postData: { mimeType: 'application/har+json', text: inner } } }],
          pad: 'x'.repeat(n / 5),
        },
      });
    return inner;
  }),
  // pairs
  text('urlencoded: one name again', 'application/x-www-form-urlencoded', n => 'a=1&'.repeat(n)),
  text('urlencoded: one list', 'application/x-www-form-urlencoded', n => 'a[]=1&'.repeat(n)),
  text('urlencoded: lists of objects', 'application/x-www-form-urlencoded', n => 'a[][b]=1&'.repeat(n)),
  text('urlencoded: many names', 'application/x-www-form-urlencoded', n => times(n, i => `a${i}=1`, '&')),
  text('urlencoded: numbered', 'application/x-www-form-urlencoded', n => times(n, i => `a[${i}][x]=1`, '&')),
  text('urlencoded: brackets', 'application/x-www-form-urlencoded', n => `a${'['.repeat(n)}=1&${']'.repeat(n)}=2`),
  text('urlencoded: a charset', 'application/x-www-form-urlencoded; charset=iso-8859-1', n => '%E9=%E8&'.repeat(n)),
  text('urlencoded: ampersands', 'application/x-www-form-urlencoded', n => '&'.repeat(n)),
  text('urlencoded: percent signs', 'application/x-www-form-urlencoded', n => `a=${'%'.repeat(n)}`),
  text('urlencoded: prototype names', 'application/x-www-form-urlencoded', n =>
    times(n, i => `__proto__[x${i}]=1&constructor[prototype][y]=1`, '&'),
  ),
  { name: 'query', contentType: null, body: () => new Uint8Array(), query: n => 'a[]=1&b=2&'.repeat(n) },
  // multipart
  multipart('many parts', n => `${times(n, i => part(`a${i}`, 'x'))}--x--`),
  multipart('one name again', n => `${times(n, () => part('a', 'x'))}--x--`),
  multipart(
    'many headers',
    n => `--x\r\n${times(n, i => `h${i}: x\r\n`)}content-disposition: form-data; name="a"\r\n\r\nb\r\n--x--`,
  ),
  multipart(
    'folded headers',
    n => `--x\r\ncontent-disposition: form-data;${'\r\n '.repeat(n)}name="a"\r\n\r\nb\r\n--x--`,
  ),
  multipart('semicolons', n => `--x\r\ncontent-disposition: form-data${'; '.repeat(n)}name="a"\r\n\r\nb\r\n--x--`),
  multipart('quotes', n => `--x\r\ncontent-disposition: form-data; name="${'\\"'.repeat(n)}\r\n\r\nb\r\n--x--`),
  multipart(
    'a path for a name',
    n => `--x\r\ncontent-disposition: form-data; name="a"; filename="${'\\'.repeat(n)}"\r\n\r\nb\r\n--x--`,
  ),
  multipart('hyphens', n => `${'-'.repeat(n)}\r\n--x--`),
  text('multipart: no boundary, line ends', 'multipart/form-data', n => `${'\r\n'.repeat(n)}x`),
  text('multipart: no boundary, hyphens', 'multipart/form-data', n => '--\r\n'.repeat(n)),
  text('multipart: a boundary of hyphens', `multipart/form-data; boundary=${'-'.repeat(70)}x`, n => '-'.repeat(n)),
  // XML
  text('XML: many elements', 'application/xml', n => `<f>${times(n, i => `<q${i}>x</q${i}>`)}</f>`),
  text('XML: like elements', 'application/xml', n => `<f>${times(n, () => '<q label="Which?">x</q>')}</f>`),
  text('XML: attributes', 'application/xml', n => `<f ${times(n, i => `a${i}="x"`, ' ')}/>`),
  text('XML: document types', 'application/xml', n => `${'<!DOCTYPE['.repeat(n)}<a/>`),
  text(
    'XML: entities',
    'application/xml',
    n => `<!DOCTYPE a [<!ENTITY b "${'x'.repeat(n)}">${times(10, i => `<!ENTITY c${i} "&b;&b;">`)}]><a>&b;&c1;</a>`,
  ),
  text('XML: character references', 'application/xml', n => `<a>${'&#65;'.repeat(n)}</a>`),
  text('XML: comments', 'application/xml', n => `<a>${'<!-- x -->'.repeat(n)}x</a>`),
  text('XML: open tags', 'application/xml', n => '<a'.repeat(n)),
  text('XML: sections of characters', 'application/xml', n => `<a>${'<![CDATA[x]]>'.repeat(n)}</a>`),
  // tables
  text('table: rows', 'text/csv', n => `name,site\n${times(n, i => `A${i},AB-07\n`)}`),
  text('table: columns', 'text/csv', n => `${times(n, i => `c${i}`, ',')}\n${times(n, () => 'x', ',')}\n`),
  text('table: wide head, short rows', 'text/csv', n => `${times(n, i => `c${i}`, ',')}\n${'x\n'.repeat(n)}`),
  text('table: quotes', 'text/csv', n => `a,b\n${'"x"y",'.repeat(n)}\n`),
  text('table: an open quote', 'text/csv', n => `a,b\n"${'x,\n'.repeat(n)}`),
  text('table: doubled quotes', 'text/csv', n => `a,b\n"${'""'.repeat(n)}",x\n`),
  text('table: blank lines', 'text/csv', n => `a,b\n${'\n'.repeat(n)}1,2\n`),
  text('table: tabs', 'text/tab-separated-values', n => `a\tb\n${'\t'.repeat(n)}\n1\t2\n`),
  text('table: an answer a row, all of one', 'text/csv', n => `ID,Question,Answer\n${times(n, i => `r,q${i},x\n`)}`),
  text(
    'table: an answer a row, two of each',
    'text/csv',
    n => `ID,Question,Answer\n${times(n, i => `r${i >> 1},q${i % 2},x\n`)}`,
  ),
  text(
    'table: one question asked again and again',
    'text/csv',
    n => `ID,Question,Answer\n${times(n, i => `r,q,x${i}\n`)}`,
  ),
  text('text: questions above answers', 'text/plain', n => times(n, i => `${i % 999}. Asked?\nSaid\n\n`)),
  text('text: questions that stand alone', 'text/plain', n => times(n, () => 'Asked?\n\n')),
  text('table: the same head', 'text/csv', n => `${times(n, () => 'c', ',')}\n${times(n, () => 'x', ',')}\n1\n`),
  sheet('rows', n => times(n, i => `<row><c r="A${i + 1}"><v>${i}</v></c><c r="B${i + 1}"><v>2</v></c></row>`)),
  sheet('one cell far to the right in each row', n => times(n, i => `<row><c r="ZZZ${i + 1}"><v>1</v></c></row>`)),
  sheet('one cell at the last column that is read', n => times(n, i => `<row><c r="BXX${i + 1}"><v>1</v></c></row>`)),
  sheet('numbers that are no dates', n => times(n, i => `<row><c r="A${i + 1}" s="0"><v>1e30${i}</v></c></row>`)),
  sheet('empty rows', n => '<row/>'.repeat(n)),
  // mails
  mail(
    'quoted-printable spaces',
    n => `From: a@example.org\r\nContent-Transfer-Encoding: quoted-printable\r\n\r\na: b${' '.repeat(n)}x\r\nc: d`,
  ),
  mail('encoded words', n => `From: a@example.org\r\nSubject: ${'=?utf-8?q?a?= '.repeat(n)}\r\n\r\na: b\r\nc: d`),
  mail('marks of encoded words', n => `From: a@example.org\r\nSubject: ${'=?'.repeat(n)}\r\n\r\na: b\r\nc: d`),
  mail('headers', n => `From: a@example.org\r\n${times(n, i => `X-${i}: y\r\n`)}\r\na: b\r\nc: d`),
  mail(
    'parts',
    n =>
      `From: a@example.org\r\nContent-Type: multipart/mixed; boundary=x\r\n\r\n${times(n, i => `--x\r\nContent-Type: text/plain\r\n\r\na${i}: b\r\n`)}--x--`,
  ),
  mail('a wide cell', n => html(`<table><tr><td colspan=${n}99999>a</td></tr></table>${'<p>x</p>'.repeat(n)}`)),
  mail('a wide cell, hidden', n =>
    html(`<table><tr><td title=">" colspan='&#57;${'9'.repeat(9)}'>a</td></tr></table>${'x'.repeat(n)}`),
  ),
  mail('rows of a table', n => html(`<table>${times(n, i => `<tr><td>Label ${i}</td><td>x</td></tr>`)}</table>`)),
  mail('paragraphs', n => html('<p>a: b</p>'.repeat(n))),
  mail('brackets', n => html('<'.repeat(n))),
  mail('open attributes', n => html(`<a ${'b="'.repeat(n)}`)),
  text('heads without a mail', null, n => `${'to: x\r\n'.repeat(n)}`),
  // nothing stated
  text('plain: spaces', null, n => ' '.repeat(n)),
  text('plain: labelled lines', 'text/plain', n => times(n, i => `Label ${i}: value\n`)),
  text('plain: colons', 'text/plain', n => ':'.repeat(n)),
  text('plain: rules', 'text/plain', n => `a: b\n${'----\n'.repeat(n)}c: d`),
  text('zeros', null, n => '\u0000'.repeat(n)),
  { name: 'bytes that are no text', contentType: 'text/plain; charset=utf-8', body: n => new Uint8Array(n).fill(0xff) },
  {
    name: 'UTF-16 without a mark',
    contentType: 'application/json',
    body: n => Uint8Array.from({ length: 2 * n }, (_, i) => (i % 2 ? 0 : i === 0 ? 0x5b : 0x20)),
  },
  {
    name: 'a broken archive',
    contentType: null,
    body: n => Uint8Array.from({ length: n + 4 }, (_, i) => [0x50, 0x4b, 3, 4][i] ?? i % 251),
  },
];
