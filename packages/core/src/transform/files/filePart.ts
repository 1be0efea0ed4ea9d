import { IsIn } from 'class-validator';
import { isJsonObject, type Json } from '../../submission';
import { defineTransform } from '../define';

const parts = { name: 'names', url: 'links', type: 'types', size: 'sizes', id: 'identifiers' } as const;
type Part = keyof typeof parts;

class FilePartParams {
  @IsIn(Object.keys(parts)) give: Part = 'url';
}

/** The names, links or paths, types, sizes or the builder's identifiers of an answer's files; files without are left out. */
export const filePart = defineTransform<FilePartParams>({
  id: 'files.part',
  family: 'files',
  label: 'File property',
  summary: 'The links, names, types, sizes or identifiers of the files.',
  params: FilePartParams,
  asks: [
    { name: 'give', label: 'Property', choices: Object.entries(parts).map(([value, label]) => ({ value, label })) },
  ],
  accepts: ['files'],
  returns: 'choices',
  explain: ({ give }) => `the ${parts[give]} of the files`,
  apply(value, { give }): Json {
    const files = Array.isArray(value) ? value : [value];
    return files.flatMap(file =>
      isJsonObject(file) ? (file[give] ?? []) : give === 'name' || give === 'url' ? file : [],
    );
  },
  examples: [
    { params: { give: 'name' }, in: [{ name: 'a.jpg', url: null }], out: ['a.jpg'] },
    {
      params: { give: 'url' },
      in: [
        { name: 'a.jpg', url: 'https://files.example.org/a.jpg' },
        { name: 'b', url: null },
      ],
      out: ['https://files.example.org/a.jpg'],
    },
    {
      params: { give: 'id' },
      in: [
        { name: 'a', url: null, id: 'f-7' },
        { name: 'b', url: null },
      ],
      out: ['f-7'],
    },
    { params: { give: 'size' }, in: [{ name: 'a', size: 12 }], out: [12] },
    { params: { give: 'type' }, in: { name: 'a', type: 'image/png' }, out: ['image/png'] },
  ],
});
