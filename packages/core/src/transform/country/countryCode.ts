import { IsIn } from 'class-validator';
import countries from 'i18n-iso-countries';
import { asText, type Json } from '../../submission';
import { defineTransform, Problem } from '../define';
import { countryCodeOf } from './countries';

const forms = {
  alpha2: 'two letters',
  alpha3: 'three letters',
  numeric: 'three digits',
  name: 'English name',
} as const;
type Form = keyof typeof forms;

class CountryCodeParams {
  @IsIn(Object.keys(forms)) to: Form = 'alpha2';
}

/** A country's name in English, German, French or Spanish, or its code, as another code (ISO 3166-1). */
export const countryCode = defineTransform<CountryCodeParams>({
  id: 'country.code',
  family: 'address',
  label: 'Country code',
  summary: 'Turns a country’s name into its ISO 3166 code, or back.',
  params: CountryCodeParams,
  asks: [{ name: 'to', label: 'Format', choices: Object.entries(forms).map(([value, label]) => ({ value, label })) }],
  accepts: ['text', 'choice', 'address'],
  returns: 'text',
  explain: ({ to }) => `country as ${forms[to]}`,
  apply(value, { to }): Json | Problem {
    const code = countryCodeOf(asText(value));
    if (!code) return new Problem('country.unknown', `“${asText(value)}” is not a known country.`, value);
    if (to === 'alpha3') return countries.alpha2ToAlpha3(code)!;
    if (to === 'numeric') return countries.alpha2ToNumeric(code)!;
    return to === 'name' ? countries.getName(code, 'en')! : code;
  },
  examples: [
    { params: { to: 'alpha2' }, in: 'Germany', out: 'DE' },
    { params: { to: 'alpha2' }, in: 'Allemagne', out: 'DE' },
    { params: { to: 'alpha3' }, in: 'España', out: 'ESP' },
    { params: { to: 'numeric' }, in: 'gb', out: '826' },
    { params: { to: 'name' }, in: 'FRA', out: 'France' },
    { params: { to: 'alpha2' }, in: 'U.K.', out: 'GB' },
    { params: { to: 'alpha2' }, in: 'Atlantis', out: { problem: 'country.unknown' } },
  ],
});
