import { IsNumber, IsString, Matches, MaxLength, Min } from 'class-validator';
import { isFileOf, isJsonObject, type Json } from '../../submission';
import { defineTransform } from '../define';

class FilterFilesParams {
  /** Media types or ends of names, divided by commas: `image/*, .pdf`. Empty for all. */
  @IsString()
  @MaxLength(300)
  @Matches(/^ *(?:(?:[\w.+-]+\/[\w.+*-]+|\.\w+)(?: *, *(?:[\w.+-]+\/[\w.+*-]+|\.\w+))*)?$/, {
    message: 'give media types or ends of names, such as image/*, .pdf',
  })
  types: string = 'image/*';
  /** Megabytes; 0 for any size. Files of unknown size stay. */
  @IsNumber() @Min(0) most: number = 0;
}

/** Keeps the files of some types, up to some size. */
export const filterFiles = defineTransform<FilterFilesParams>({
  id: 'files.filter',
  family: 'files',
  label: 'Filter files',
  summary: 'Keeps files by their type and size.',
  params: FilterFilesParams,
  asks: [
    { name: 'types', label: 'Types', optional: true, hint: 'image/*, .pdf' },
    { name: 'most', label: 'Largest size in MB', kind: 'number', hint: '0 for any size' },
  ],
  accepts: ['files'],
  returns: 'files',
  explain: ({ types, most }) =>
    `files ${types.trim() === '' ? 'of any type' : `of ${types}`}${most > 0 ? `, up to ${most} MB` : ''}`,
  apply(value, { types, most }): Json {
    const wanted = types
      .split(',')
      .map(each => each.trim())
      .filter(Boolean);
    return (Array.isArray(value) ? value : [value]).filter(file => {
      const size = isJsonObject(file) ? file.size : null;
      const isTooLarge = most > 0 && typeof size === 'number' && size > most * 1e6;
      return !isTooLarge && (wanted.length === 0 || wanted.some(each => isFileOf(file, each)));
    });
  },
  examples: [
    {
      params: { types: 'image/*', most: 0 },
      in: [
        { name: 'a.jpg', type: 'image/jpeg' },
        { name: 'b.pdf', type: 'application/pdf' },
      ],
      out: [{ name: 'a.jpg', type: 'image/jpeg' }],
    },
    { params: { types: '.PDF', most: 0 }, in: [{ name: 'b.pdf', type: null }], out: [{ name: 'b.pdf', type: null }] },
    {
      params: { types: '', most: 1 },
      in: [
        { name: 'c', size: 2e6 },
        { name: 'd', size: null },
      ],
      out: [{ name: 'd', size: null }],
    },
    { params: { types: 'image/*', most: 0 }, in: 'https://files.example.org/a.jpg', out: [] },
  ],
});
