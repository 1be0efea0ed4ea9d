import { IsIn } from 'class-validator';
import { defineTransform } from '../define';
import { onText } from '../onText';

const forms = {
  NFC: 'composed',
  NFD: 'decomposed',
  NFKC: 'composed, look-alikes made plain',
  NFKD: 'decomposed, look-alikes made plain',
} as const;

class UnicodeFormParams {
  @IsIn(Object.keys(forms)) form: keyof typeof forms = 'NFC';
}

/** One of the four Unicode normalization forms (UAX #15). */
export const unicodeForm = defineTransform<UnicodeFormParams>({
  id: 'text.unicode',
  family: 'text',
  label: 'Unicode form',
  summary: 'Brings letters with accents, ligatures and wide characters to one Unicode form.',
  params: UnicodeFormParams,
  asks: [
    {
      name: 'form',
      label: 'Form',
      choices: Object.entries(forms).map(([value, label]) => ({ value, label: `${value}: ${label}` })),
    },
  ],
  accepts: 'any',
  returns: 'same',
  explain: ({ form }) => `in Unicode form ${form}`,
  apply: (value, { form }) => onText(value, text => text.normalize(form)),
  examples: [
    { params: { form: 'NFC' }, in: 'E\u0301lodie', out: '\u00c9lodie' },
    { params: { form: 'NFD' }, in: '\u00c9', out: 'E\u0301' },
    { params: { form: 'NFKC' }, in: 'ﬁne １２', out: 'fine 12' },
    { params: { form: 'NFKD' }, in: '\u212b', out: 'A\u030a' },
  ],
});
