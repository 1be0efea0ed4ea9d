import countries from 'i18n-iso-countries';
import de from 'i18n-iso-countries/langs/de.json';
import en from 'i18n-iso-countries/langs/en.json';
import es from 'i18n-iso-countries/langs/es.json';
import fr from 'i18n-iso-countries/langs/fr.json';

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

/** The code of two letters (ISO 3166-1) for a country's code or its name in English, German, French or Spanish. */
export function countryCodeOf(text: string): string | undefined {
  const all = byName();
  const upper = text.trim().toUpperCase();
  if (/^[A-Z]{2}$/.test(upper) && countries.isValid(upper)) return upper;
  if (/^[A-Z]{3}$/.test(upper) && countries.isValid(upper)) return countries.alpha3ToAlpha2(upper);
  if (/^\d{3}$/.test(upper)) return countries.numericToAlpha2(upper);
  return all.get(plain(text));
}
