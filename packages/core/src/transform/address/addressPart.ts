import { IsIn } from 'class-validator';
import { asText, type Json } from '../../submission';
import { countryCodeOf } from '../country';
import { defineTransform, Problem } from '../define';
import { readAddress, type PostalAddress } from './readAddress';

const parts = {
  street: 'street and number',
  line2: 'second line',
  locality: 'town',
  region: 'region',
  postcode: 'postcode',
  country: 'country',
  countryCode: 'country’s code',
  all: 'all parts as an object',
  confidence: 'confidence, 0 to 1',
} as const;
type Part = keyof typeof parts;

const doubts = { take: 'use it', blank: 'blank', problem: 'report a problem' } as const;
type Doubt = keyof typeof doubts;

/** Below it an address counts as doubtful. */
const SURE = 0.6;

class AddressPartParams {
  @IsIn(Object.keys(parts)) part: Part = 'street';
  @IsIn(Object.keys(doubts)) doubtful: Doubt = 'take';
}

/** A part of an address that was typed into one box; an address that came in parts is understood as well. */
export const addressPart = defineTransform<AddressPartParams>({
  id: 'address.part',
  family: 'address',
  label: 'Part of an address',
  summary: 'Takes street, town, postcode, region or country from an address in one field.',
  params: AddressPartParams,
  asks: [
    { name: 'part', label: 'Part', choices: Object.entries(parts).map(([value, label]) => ({ value, label })) },
    {
      name: 'doubtful',
      label: 'If uncertain',
      choices: Object.entries(doubts).map(([value, label]) => ({ value, label })),
    },
  ],
  accepts: ['address', 'text', 'multiline', 'json'],
  returns: 'text',
  explain: ({ part, doubtful }) =>
    `the ${parts[part]} of the address${doubtful === 'take' ? '' : `, if uncertain: ${doubts[doubtful]}`}`,
  apply(value, { part, doubtful }): Json | Problem {
    const address = readAddress(value);
    if (part === 'confidence') return address.confidence;
    if (address.confidence < SURE && doubtful !== 'take')
      return doubtful === 'blank'
        ? ''
        : new Problem('address.doubtful', `“${asText(value).slice(0, 80)}” could not be split into its parts.`, value);
    if (part === 'countryCode') return address.country === '' ? '' : (countryCodeOf(address.country) ?? '');
    return part === 'all' ? partsOf(address) : address[part];
  },
  examples: [
    { params: { part: 'street', doubtful: 'take' }, in: '14 Weir Lane, Fernhollow, AB12 3CD', out: '14 Weir Lane' },
    { params: { part: 'postcode', doubtful: 'take' }, in: '14 Weir Lane, Fernhollow, ab12 3cd', out: 'ab12 3cd' },
    { params: { part: 'locality', doubtful: 'take' }, in: '14 Weir Lane\nFernhollow AB12 3CD', out: 'Fernhollow' },
    { params: { part: 'locality', doubtful: 'take' }, in: 'Uferweg 3, 12345 Erlental, Germany', out: 'Erlental' },
    { params: { part: 'countryCode', doubtful: 'take' }, in: 'Uferweg 3, 12345 Erlental, Germany', out: 'DE' },
    { params: { part: 'region', doubtful: 'take' }, in: '200 Mill Rd, Fernhollow, OR 97000', out: 'OR' },
    { params: { part: 'line2', doubtful: 'take' }, in: 'Flat 2, 14 Weir Lane, Fernhollow, AB12 3CD', out: 'Flat 2' },
    {
      params: { part: 'all', doubtful: 'take' },
      in: '3 rue du Moulin, 75000 Valclair, France',
      out: { street: '3 rue du Moulin', locality: 'Valclair', postcode: '75000', country: 'France' },
    },
    { params: { part: 'street', doubtful: 'problem' }, in: 'the old mill', out: { problem: 'address.doubtful' } },
    {
      params: { part: 'locality', doubtful: 'take' },
      in: { line1: '14 Weir Lane', town: 'Fernhollow' },
      out: 'Fernhollow',
    },
  ],
});

/** The parts that are there, in the order an address is written. */
const partsOf = ({ confidence: _, ...address }: PostalAddress): Json =>
  Object.fromEntries(Object.entries(address).filter(([, part]) => part !== ''));
