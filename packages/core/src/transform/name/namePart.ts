import { IsIn } from 'class-validator';
import { asText, isJsonObject, type Json } from '../../submission';
import { defineTransform } from '../define';
import { readName, type PersonName } from './readName';

const parts: Record<string, { words: string; of: (name: PersonName) => string }> = {
  given: { words: 'given name', of: name => name.given },
  family: { words: 'family name', of: name => [name.particle, name.family].filter(Boolean).join(' ') },
  middle: { words: 'middle names', of: name => name.middle },
  prefix: { words: 'title', of: name => name.prefix },
  suffix: { words: 'suffix', of: name => name.suffix },
  initials: {
    words: 'initials',
    of: name =>
      [name.given, name.middle, name.family]
        .join(' ')
        .split(/[\s-]+/)
        .filter(Boolean)
        .map(word => [...word][0]!.toUpperCase())
        .join(''),
  },
  full: {
    words: 'full name',
    of: name => [name.given, name.middle, name.particle, name.family].filter(Boolean).join(' '),
  },
  sorting: {
    words: 'family name, given name',
    of: name =>
      [[name.particle, name.family].filter(Boolean).join(' '), [name.given, name.middle].filter(Boolean).join(' ')]
        .filter(Boolean)
        .join(', '),
  },
};

class NamePartParams {
  @IsIn(Object.keys(parts)) part: string = 'given';
}

/** A part of a person's name as it was typed into one box: particles, suffixes, “Family, Given” and titles are known. */
export const namePart = defineTransform<NamePartParams>({
  id: 'name.part',
  family: 'name',
  label: 'Part of a name',
  summary: 'Takes the given name, the family name or another part of a full name.',
  params: NamePartParams,
  asks: [
    {
      name: 'part',
      label: 'Part',
      choices: Object.entries(parts).map(([value, { words }]) => ({ value, label: words })),
    },
  ],
  accepts: ['name', 'text'],
  returns: 'text',
  explain: ({ part }) => `the ${parts[part]!.words}`,
  apply(value, { part }): Json {
    const text = isJsonObject(value) ? Object.values(value).map(asText).filter(Boolean).join(' ') : asText(value);
    return parts[part]!.of(readName(text));
  },
  examples: [
    { params: { part: 'given' }, in: 'Wen Xiu', out: 'Wen' },
    { params: { part: 'family' }, in: 'adeyemi, morenike', out: 'adeyemi' },
    { params: { part: 'family' }, in: 'Jonas van der Linden', out: 'van der Linden' },
    { params: { part: 'prefix' }, in: 'Dr. Ravi Chandran', out: 'Dr.' },
    { params: { part: 'suffix' }, in: 'Amos Reed Jr.', out: 'Jr.' },
    { params: { part: 'initials' }, in: 'Gwenllian Pryce-Hughes', out: 'GPH' },
    { params: { part: 'middle' }, in: 'Mary Jane Holt', out: 'Jane' },
    { params: { part: 'sorting' }, in: 'Maria das Neves', out: 'das Neves, Maria' },
    { params: { part: 'family' }, in: 'sam', out: '' },
    { params: { part: 'given' }, in: { first: 'Ilse', last: 'Brandt' }, out: 'Ilse' },
  ],
});
