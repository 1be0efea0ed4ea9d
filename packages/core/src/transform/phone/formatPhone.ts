import { IsIn, IsString, Matches } from 'class-validator';
import { parsePhoneNumberFromString, type CountryCode } from 'libphonenumber-js';
import { asText, type Json } from '../../submission';
import { defineTransform, Problem } from '../define';

const formats = {
  e164: 'E.164',
  national: 'as dialled at home',
  international: 'as dialled abroad',
  uri: 'a tel: address',
} as const;
type Format = keyof typeof formats;
const names = { e164: 'E.164', national: 'NATIONAL', international: 'INTERNATIONAL', uri: 'RFC3966' } as const;

class FormatPhoneParams {
  @IsIn(Object.keys(formats)) to: Format = 'e164';
  /** Two letters (ISO 3166-1): where numbers without a country code belong. */
  @IsString() @Matches(/^[A-Z]{2}$/, { message: 'give a region of two capitals, such as GB' }) region: string = 'GB';
}

/** A telephone number in any spelling to one format (E.164, RFC 3966), checked against the plans of all regions. */
export const formatPhone = defineTransform<FormatPhoneParams>({
  id: 'phone.format',
  family: 'phone',
  label: 'Telephone number',
  summary: 'Brings a telephone number as people type it to one format.',
  params: FormatPhoneParams,
  asks: [
    { name: 'to', label: 'Write', choices: Object.entries(formats).map(([value, label]) => ({ value, label })) },
    { name: 'region', label: 'Region', hint: 'GB, DE, FR…' },
  ],
  accepts: ['phone', 'text', 'number'],
  returns: 'phone',
  explain: ({ to, region }) => `telephone number ${formats[to]}, ${region} when none is said`,
  apply(value, { to, region }): Json | Problem {
    const typed = asText(value).trim();
    const number = parsePhoneNumberFromString(typed.replace(/^00/, '+').replace('(0)', ''), region as CountryCode);
    if (!number?.isPossible())
      return new Problem('phone.unreadable', `“${typed}” is no telephone number in ${region}.`, value);
    return number.format(names[to]);
  },
  examples: [
    { params: { to: 'e164', region: 'GB' }, in: '020 7946 0142', out: '+442079460142' },
    { params: { to: 'e164', region: 'GB' }, in: '+44 (0)20 7946 0142', out: '+442079460142' },
    { params: { to: 'national', region: 'GB' }, in: '+442079460142', out: '020 7946 0142' },
    { params: { to: 'international', region: 'GB' }, in: '02079460142', out: '+44 20 7946 0142' },
    { params: { to: 'uri', region: 'GB' }, in: '020-7946-0142', out: 'tel:+442079460142' },
    { params: { to: 'e164', region: 'GB' }, in: '0044 20 7946 0142', out: '+442079460142' },
    { params: { to: 'e164', region: 'GB' }, in: 'ask my mum', out: { problem: 'phone.unreadable' } },
  ],
});
