import { IsInt, IsString, Matches, Max, Min } from 'class-validator';
import type { Json } from '../../submission';
import { defineTransform, Problem } from '../define';

class FormatNumberParams {
  /** BCP 47. */
  @IsString()
  @Matches(/^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/, { message: 'give a language such as en-GB' })
  locale: string = 'en-GB';
  @IsInt() @Min(0) @Max(10) places: number = 2;
}

/** Writes a number as a language has it (CLDR, through Intl). */
export const formatNumber = defineTransform<FormatNumberParams>({
  id: 'number.format',
  family: 'number',
  label: 'Number to text',
  summary: 'Writes a number as is usual in a language.',
  params: FormatNumberParams,
  asks: [
    { name: 'locale', label: 'Language', hint: 'en-GB, de-DE, fr-FR…' },
    { name: 'places', label: 'Decimal places', kind: 'number' },
  ],
  accepts: ['number'],
  returns: 'text',
  explain: ({ locale, places }) => `written as in ${locale} with ${places} places`,
  apply(value, { locale, places }): Json | Problem {
    if (typeof value !== 'number')
      return new Problem('number.none', 'This is not a number. Add a step that reads it as one.', value);
    try {
      return new Intl.NumberFormat(locale, { minimumFractionDigits: places, maximumFractionDigits: places }).format(
        value,
      );
    } catch {
      return new Problem('number.locale', `“${locale}” is not a known language.`, value);
    }
  },
  examples: [
    { params: { locale: 'en-GB', places: 2 }, in: 1234.5, out: '1,234.50' },
    { params: { locale: 'de-DE', places: 1 }, in: 1234.5, out: '1.234,5' },
    { params: { locale: 'en-GB', places: 0 }, in: 7.6, out: '8' },
    { params: { locale: 'en-GB', places: 0 }, in: 'x', out: { problem: 'number.none' } },
  ],
});
