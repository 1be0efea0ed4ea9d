import type { Json } from '../../submission';
import { defineTransform } from '../define';
import { onText } from '../onText';

class PlainLettersParams {}

/** Letters that do not come apart into a base and marks (common practice, no source). */
const special: Record<string, string> = {
  ß: 'ss',
  ẞ: 'SS',
  æ: 'ae',
  Æ: 'AE',
  œ: 'oe',
  Œ: 'OE',
  ø: 'o',
  Ø: 'O',
  đ: 'd',
  Đ: 'D',
  ł: 'l',
  Ł: 'L',
  ð: 'd',
  Ð: 'D',
  þ: 'th',
  Þ: 'Th',
  ı: 'i',
};

/** Takes accents off (UAX #15: decomposed, marks dropped). */
export const plainLetters = defineTransform<PlainLettersParams>({
  id: 'text.plain',
  family: 'text',
  label: 'Remove accents',
  summary: 'Writes é as e and ß as ss, for systems without accents.',
  params: PlainLettersParams,
  asks: [],
  accepts: 'any',
  returns: 'same',
  explain: () => 'without accents',
  apply: (value): Json =>
    onText(value, text =>
      text
        .replace(/[ßẞæÆœŒøØđĐłŁðÐþÞı]/g, each => special[each]!)
        .normalize('NFD')
        .replace(/\p{M}/gu, '')
        .normalize('NFC'),
    ),
  examples: [
    { params: {}, in: 'Élodie Ångström', out: 'Elodie Angstrom' },
    { params: {}, in: 'Straße, Łódź', out: 'Strasse, Lodz' },
    { params: {}, in: ['Smörgås'], out: ['Smorgas'] },
    { params: {}, in: '文秀', out: '文秀' },
  ],
});
