import type { FileRef, Json } from '../../submission';
import { filesOf, isUploadLink } from '.';

type Told = [name: string, type: string | null, size: number | null, url: string | null];
const told = (files: FileRef[] | null): Told[] | null =>
  files && files.map(({ name, type, size, url }): Told => [name, type, size, url]);

test.each<[string, Json, Told[] | null]>([
  ['metadata', { name: 'a b.jpg', type: 'image/jpeg', size: 11, url: 'https://files.example.org/2' }, [['a b.jpg', 'image/jpeg', 11, 'https://files.example.org/2']]],
  ['metadata one level deeper', [{ file: { original_name: 'r.pdf', media_type: 'application/pdf', file_size: 700, download_link: 'https://files.example.org/r' } }], [['r.pdf', 'application/pdf', 700, 'https://files.example.org/r']]],
  ['metadata in a text', '[{"title":"i.pdf","mime":"application/pdf","bytes":"99","href":"https://files.example.org/4"}]', [['i.pdf', 'application/pdf', 99, 'https://files.example.org/4']]],
  ['a name and an identifier', { id: 'f-1', name: 'plan.dwg' }, [['plan.dwg', null, null, null]]],
  ['a path and a name', { path: 'u/m-1/cake.jpg', name: 'cake.jpg', size: 5000 }, [['cake.jpg', null, 5000, 'u/m-1/cake.jpg']]],
  ['content in Base64', { filename: 'key.txt', content_type: 'text/plain', content: 'eWVz' }, [['key.txt', 'text/plain', 3, null]]],
  ['a link, its query no part of the name', 'https://files.example.org/x/deck%20sketch.svg?sig=8', [['deck sketch.svg', null, null, 'https://files.example.org/x/deck%20sketch.svg?sig=8']]],
  ['links with commas', 'https://e.example.org/1.tif,https://e.example.org/2.tif', [['1.tif', null, null, 'https://e.example.org/1.tif'], ['2.tif', null, null, 'https://e.example.org/2.tif']]],
  ['links on lines', 'https://e.example.org/1.mp4\nhttps://e.example.org/2.mp4\n', [['1.mp4', null, null, 'https://e.example.org/1.mp4'], ['2.mp4', null, null, 'https://e.example.org/2.mp4']]],
  ['anchors', '<a href="https://e.example.org/w1.zip">one.zip</a>, <a href=\'https://e.example.org/w2.zip\'>w2.zip</a>', [['one.zip', null, null, 'https://e.example.org/w1.zip'], ['w2.zip', null, null, 'https://e.example.org/w2.zip']]],
  ['a path', '/uploads/2025/03/plan%20A.dwg', [['plan A.dwg', null, null, '/uploads/2025/03/plan%20A.dwg']]],
  ['a path of another system', 'C:\\recordings\\hum.wav', [['hum.wav', null, null, 'C:\\recordings\\hum.wav']]],
  // RFC 2397: base64 or percent-encoded, with parameters.
  ['a data URI in Base64 with a name', 'data:image/png;name=thumb.png;base64,dGh1bWIh', [['thumb.png', 'image/png', 6, null]]],
  ['a data URI, percent-encoded', 'data:text/plain;charset=utf-8,Dear%20ink%2C%20%C3%BC', [['file', 'text/plain', 12, null]]],
  ['a sentence', 'none, sorry', null],
  ['a mail address in an anchor', '<a href="mailto:kay@example.org">kay@example.org</a>', null],
  ['an anchor in a sentence', 'See <a href="https://e.example.org/a.pdf">it</a> there', null],
  ['an empty list', [], null],
])('asked for files: %s', (_, value, files) => expect(told(filesOf('q', value, true))).toEqual(files)); // prettier-ignore

test.each<[string, Json]>([
  ['a link', 'https://e.example.org/a.pdf'],
  ['a path', '/uploads/a.pdf'],
  ['a name alone', { name: 'Ada' }],
  ['an option', { id: 'o1', label: 'Tea' }],
  ['a text that speaks of data', 'data: image was my first idea'],
])('not asked for, %s is none', (_, value) => expect(filesOf('q', value, false)).toBeNull());

test.each<[string, boolean]>([
  ['https://dl.example.org/letters/joss.docx?token=9', true],
  ['https://files.example.org/u/31/me.jpg', true],
  ['https://ines.example.org/works.pdf', false],
  ['https://wiki.example.org/manual', false],
  ['https://files.example.org/index.html', false],
  ['files/a.pdf', false],
])('a link into a store of uploads: %s', (text, isOne) => expect(isUploadLink(text)).toBe(isOne));
