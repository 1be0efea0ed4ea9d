import { IsIn, IsString, Matches, MaxLength } from 'class-validator';
import { parsePhoneNumberFromString, type CountryCode } from 'libphonenumber-js';
import { asText, type Json } from '../../submission';
import { countryCodeOf } from '../country';
import { defineTransform, Problem } from '../define';

const formats = {
  e164: 'E.164',
  national: 'national',
  international: 'international',
  uri: 'tel: URL',
} as const;
type Format = keyof typeof formats;
const names = { e164: 'E.164', national: 'NATIONAL', international: 'INTERNATIONAL', uri: 'RFC3966' } as const;

class FormatPhoneParams {
  @IsIn(Object.keys(formats)) to: Format = 'e164';
  /** Two letters (ISO 3166-1): where numbers without a country code belong. Empty where nobody said it: then only those with one are read. */
  @IsString() @Matches(/^([A-Z]{2})?$/, { message: 'give a region of two capitals, such as GB' }) region: string = '';
  /** The question that tells the country; a known one goes before the region. */
  @IsString() @MaxLength(500) countryFrom: string = '';
}

/** A telephone number in any spelling to one format (E.164, RFC 3966), checked against the plans of all regions. */
export const formatPhone = defineTransform<FormatPhoneParams>({
  id: 'phone.format',
  family: 'phone',
  label: 'Telephone number',
  summary: 'Reads a telephone number as people type it and writes it in one format.',
  params: FormatPhoneParams,
  asks: [
    { name: 'to', label: 'Format', choices: Object.entries(formats).map(([value, label]) => ({ value, label })) },
    { name: 'region', label: 'Region', optional: true, hint: 'GB, DE, FR…' },
    { name: 'countryFrom', label: 'Or region of', kind: 'question', optional: true, hint: 'no other answer' },
  ],
  accepts: ['phone', 'text', 'number'],
  returns: 'phone',
  looksAround: true,
  explain: ({ to, region, countryFrom }) =>
    `telephone number, ${formats[to]}; without a country code: ${countryFrom ? `the country of another answer${region && ` or ${region}`}` : region || 'a problem'}`,
  apply(value, { to, region: fallback, countryFrom }, { answer }): Json | Problem {
    const typed = asText(value).trim();
    const region = (countryFrom && countryCodeOf(asText(answer?.(countryFrom)))) || fallback;
    const number = parsePhoneNumberFromString(
      typed.replace(/^00/, '+').replace('(0)', ''),
      (region || undefined) as CountryCode,
    );
    if (!number?.isPossible() && region === '' && /\d{4}/.test(typed.replace(/\D/g, '')))
      return new Problem(
        'phone.region',
        `“${typed}” says no country: give the region that such numbers belong to.`,
        value,
      );
    if (!number?.isPossible())
      return new Problem(
        'phone.unreadable',
        `“${typed}” is not a telephone number${region && ` in ${region}`}.`,
        value,
      );
    return number.format(names[to]);
  },
  examples: [
    { params: { to: 'e164', region: 'GB', countryFrom: '' }, in: '020 7946 0142', out: '+442079460142' },
    { params: { to: 'e164', region: 'GB', countryFrom: '' }, in: '+44 (0)20 7946 0142', out: '+442079460142' },
    { params: { to: 'national', region: 'GB', countryFrom: '' }, in: '+442079460142', out: '020 7946 0142' },
    { params: { to: 'international', region: 'GB', countryFrom: '' }, in: '02079460142', out: '+44 20 7946 0142' },
    { params: { to: 'uri', region: 'GB', countryFrom: '' }, in: '020-7946-0142', out: 'tel:+442079460142' },
    { params: { to: 'e164', region: 'GB', countryFrom: '' }, in: '0044 20 7946 0142', out: '+442079460142' },
    { params: { to: 'e164', region: 'GB', countryFrom: '' }, in: 'ask my mum', out: { problem: 'phone.unreadable' } },
    { params: { to: 'e164', region: '', countryFrom: '' }, in: '020 7946 0142', out: { problem: 'phone.region' } },
    { params: { to: 'e164', region: '', countryFrom: '' }, in: '+44 20 7946 0142', out: '+442079460142' },
  ],
});
