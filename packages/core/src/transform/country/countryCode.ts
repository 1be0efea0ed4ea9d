import { IsIn } from 'class-validator';
import countries from 'i18n-iso-countries';
import de from 'i18n-iso-countries/langs/de.json';
import en from 'i18n-iso-countries/langs/en.json';
import es from 'i18n-iso-countries/langs/es.json';
import fr from 'i18n-iso-countries/langs/fr.json';
import { asText, type Json } from '../../submission';
import { defineTransform, Problem } from '../define';

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

/** Short names that the list does not have (common practice, no source). */
const also: Record<string, string> = {
  uk: 'GB',
  'great britain': 'GB',
  england: 'GB',
  scotland: 'GB',
  wales: 'GB',
  usa: 'US',
  holland: 'NL',
  'the netherlands': 'NL',
  czechia: 'CZ',
};
const plain = (text: string) => text.normalize('NFD').replace(/\p{M}/gu, '').replace(/[.]/g, '').toLowerCase().trim();

let names: Map<string, string> | null = null;

/** Every name in the four languages, made when it is first asked for. */
function byName(): Map<string, string> {
  if (names) return names;
  names = new Map(Object.entries(also));
  for (const language of [en, de, fr, es]) {
    countries.registerLocale(language);
    const all = countries.getNames(language.locale, { select: 'all' });
    for (const [code, list] of Object.entries(all))
      for (const name of list) if (!names.has(plain(name))) names.set(plain(name), code);
  }
  return names;
}

function codeOf(text: string): string | undefined {
  const upper = text.trim().toUpperCase();
  if (/^[A-Z]{2}$/.test(upper) && countries.isValid(upper)) return upper;
  if (/^[A-Z]{3}$/.test(upper) && countries.isValid(upper)) return countries.alpha3ToAlpha2(upper);
  if (/^\d{3}$/.test(upper)) return countries.numericToAlpha2(upper);
  return byName().get(plain(text));
}

/** A country's name in English, German, French or Spanish, or its code, as another code (ISO 3166-1). */
export const countryCode = defineTransform<CountryCodeParams>({
  id: 'country.code',
  family: 'address',
  label: 'Country code',
  summary: 'Turns a country’s name into its ISO 3166 code, or back.',
  params: CountryCodeParams,
  asks: [{ name: 'to', label: 'To', choices: Object.entries(forms).map(([value, label]) => ({ value, label })) }],
  accepts: ['text', 'choice', 'address'],
  returns: 'text',
  explain: ({ to }) => `country as ${forms[to]}`,
  apply(value, { to }): Json | Problem {
    byName();
    const code = codeOf(asText(value));
    if (!code) return new Problem('country.unknown', `“${asText(value)}” is no country that is known.`, value);
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
