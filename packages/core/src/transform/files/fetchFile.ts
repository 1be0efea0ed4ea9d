import { IsString, Matches, MaxLength } from 'class-validator';
import { asText, isFile, isHttpAddress, percentDecoded, percentEncoded, viaAddress, type Json } from '../../submission';
import { defineTransform, Problem } from '../define';

class FetchFileParams {
  /** Where the content is had: empty for the address that the value is, `builder`, or a target's identifier. */
  @IsString() @MaxLength(60) from: string = '';
  /** The place there, below its address; `{value}` stands for the value. */
  @Matches(/^(\/\S*)?$/, { message: 'start the path with “/”' }) @MaxLength(300) path: string = '/files/{value}';
  /** What the file is called; empty for what whoever gives it calls it. */
  @IsString() @MaxLength(150) name: string = '';
}

/**
 * Files out of identifiers or addresses: their content is had by a request of its own as the delivery leaves, shown to whom it is
 * asked of who asks. A value can’t lead to another place than the path says.
 */
export const fetchFile = defineTransform<FetchFileParams>({
  id: 'files.fetch',
  family: 'files',
  label: 'Download as file',
  summary: 'Downloads files by identifier or URL, from a target, the form builder or the URL itself.',
  params: FetchFileParams,
  asks: [
    { name: 'from', label: 'From', kind: 'system', hint: 'the value is a URL' },
    { name: 'path', label: 'Path', hint: '/files/{value}/content', optional: true },
    { name: 'name', label: 'File name', optional: true, hint: 'the name it has there' },
  ],
  accepts: ['text', 'url', 'number', 'choices', 'files', 'json'],
  returns: 'files',
  explain: ({ from, path }) => (from === '' ? 'fetched from that address' : `fetched at ${path}`),
  apply(value, params): Json | Problem {
    const files: Json[] = [];
    for (const each of Array.isArray(value) ? value : [value]) {
      const made = fileOf(each, params);
      if (made instanceof Problem) return made;
      if (made !== null) files.push(made);
    }
    return files;
  },
  examples: [
    {
      params: { from: 't-1', path: '/files/{value}/content', name: '' },
      in: 4711,
      out: [{ name: '', url: 'via:t-1/files/4711/content', type: null, size: null }],
    },
    {
      params: { from: 'builder', path: '/uploads/{value}', name: 'photo.jpg' },
      in: ['a b', 'c/d'],
      out: [
        { name: 'photo.jpg', url: 'via:builder/uploads/a%20b', type: null, size: null },
        { name: 'photo.jpg', url: 'via:builder/uploads/c%2Fd', type: null, size: null },
      ],
    },
    {
      params: { from: 't-1', path: '/files/{value}', name: '' },
      in: [{ name: 'a.jpg', url: null, type: 'image/jpeg', size: 9, id: 'f-7' }],
      out: [{ name: 'a.jpg', url: 'via:t-1/files/f-7', type: 'image/jpeg', size: 9 }],
    },
    {
      params: { from: '', path: '', name: '' },
      in: 'https://files.example.org/a%20b.pdf',
      out: [{ name: 'a b.pdf', url: 'https://files.example.org/a%20b.pdf', type: null, size: null }],
    },
    { params: { from: '', path: '', name: '' }, in: '4711', out: { problem: 'files.address' } },
    { params: { from: 't-1', path: '/files/{value}', name: '' }, in: '..', out: { problem: 'files.address' } },
  ],
});

function fileOf(value: Json, { from, path, name }: FetchFileParams): Json | Problem | null {
  const file = isFile(value) ? value : null;
  const reference = file ? (from === '' ? file.url : (file.id ?? file.name)) : value;
  const text = asText(reference).trim();
  if (text === '') return null;
  const [type, size] = [file?.type ?? null, file?.size ?? null];
  if (from === '') {
    if (!isHttpAddress(text))
      return new Problem('files.address', `“${text.slice(0, 80)}” is not a URL of a file.`, value);
    return { name: name || file?.name || lastName(text), url: text, type, size };
  }
  if (/^\.{1,2}$/.test(text))
    return new Problem('files.address', `“${text}” would lead to another place than the path says.`, value);
  const place = path.includes('{value}') ? path.replaceAll('{value}', percentEncoded(text)) : path;
  return { name: name || file?.name || '', url: viaAddress(from, place), type, size };
}

const lastName = (url: string): string => percentDecoded(new URL(url).pathname.split('/').at(-1) ?? '');
