import { parsePhoneNumberFromString, type CountryCode } from 'libphonenumber-js';
import { asText, isJsonObject, type Json } from '../submission';
import { countryCodeOf } from '../transform';

/** What else a form asks, with what was answered. */
export interface OtherAnswers {
  key: string;
  values: readonly Json[];
}

/** Where numbers without a country code belong, as far as answers tell: a region, or the question that tells it each time. */
export interface Region {
  /** Two letters (ISO 3166-1); empty where nothing tells. */
  region: string;
  /** The key of the question that says the country; empty for none. */
  countryFrom: string;
}

/** Answers that are looked at: numbers are costly to read. */
const LOOKED = 24;
/** Share of the answers that has to agree. */
const MOST = 0.8;

/**
 * Concludes the region of telephone numbers, never assumes it: from numbers that say their country, from a question or an address that
 * tells it, and from a way of writing that only one plan has. What can't be known is left open, to be asked.
 */
export function regionOf(values: readonly Json[], others: readonly OtherAnswers[] = []): Region {
  const answerTexts = [...new Set(values.map(each => asText(each).trim()).filter(Boolean))].slice(0, LOOKED);
  const abroad = answerTexts.filter(each => /^(\+|00)/.test(each));
  const home = answerTexts.filter(each => !/^(\+|00)/.test(each) && /\d{4}/.test(each.replace(/\D/g, '')));
  const countryFrom = countryQuestion(others);
  const known = mostCommon([
    ...abroad.flatMap(each => parsePhoneNumberFromString(each.replace(/^00/, '+'))?.country ?? []),
    ...(countryFrom ? countriesIn(others.find(each => each.key === countryFrom)!.values) : addressCountries(others)),
  ]);
  if (home.length === 0) return { region: known ?? '', countryFrom };
  if (known && home.filter(each => isHome(each, known)).length / home.length >= MOST)
    return { region: known, countryFrom };
  return { region: byWriting(home) ?? '', countryFrom };
}

const isHome = (number: string, region: CountryCode): boolean =>
  parsePhoneNumberFromString(number.replace('(0)', ''), region)?.isValid() ?? false;

/** Numbers of the North American plan as they are written there: `(802) 555-0147`. *Common practice, no source.* */
const northAmerican = /^(\([2-9]\d{2}\) ?|[2-9]\d{2}[-.])\d{3}[-.]\d{4}$/;

/** The region whose way of writing numbers the numbers have; most ways are those of several regions. */
const byWriting = (numbers: readonly string[]): CountryCode | null =>
  numbers.filter(each => northAmerican.test(each)).length / numbers.length >= MOST ? 'US' : null;

/** The question whose answers are countries. */
function countryQuestion(others: readonly OtherAnswers[]): string {
  const found = others.find(({ values }) => {
    const answerTexts = values.map(asText).filter(Boolean);
    return (
      answerTexts.length > 0 && answerTexts.filter(each => countryCodeOf(each)).length / answerTexts.length >= MOST
    );
  });
  return found?.key ?? '';
}

const countriesIn = (values: readonly Json[]): CountryCode[] =>
  values.flatMap(each => (countryCodeOf(asText(each)) as CountryCode | undefined) ?? []);

/** Postcodes that are written so in one country only. *Common practice, no source.* */
const postcodes: { region: CountryCode; is: RegExp }[] = [
  { region: 'GB', is: /\b[A-Z]{1,2}\d[A-Z\d]? \d[A-Z]{2}\b/ },
  { region: 'CA', is: /\b[A-Z]\d[A-Z] \d[A-Z]\d\b/ },
  { region: 'US', is: /\b[A-Z]{2} \d{5}(-\d{4})?$/ },
  { region: 'NL', is: /\b\d{4} [A-Z]{2}\b/ },
];

/** Countries that addresses name, in a part of their own or behind the last comma, or that their postcodes are of. */
const addressCountries = (others: readonly OtherAnswers[]): CountryCode[] =>
  others.flatMap(({ values }) =>
    values.slice(0, LOOKED).flatMap(value => {
      if (isJsonObject(value))
        return countriesIn(
          Object.entries(value).flatMap(([name, part]) => (/country|land|pays|pa[ií]s/i.test(name) ? [part] : [])),
        );
      const text = asText(value).trim();
      const last = text.split(/[,\n]/).at(-1)!.trim();
      const named = text !== last && last.length > 3 ? countriesIn([last]) : [];
      return named.length > 0 ? named : postcodes.flatMap(({ region, is }) => (is.test(text) ? [region] : []));
    }),
  );

/** What most of them are; undefined where none is. */
function mostCommon(found: readonly CountryCode[]): CountryCode | undefined {
  const counts = new Map<CountryCode, number>();
  for (const each of found) counts.set(each, (counts.get(each) ?? 0) + 1);
  const [best] = [...counts].sort((a, b) => b[1] - a[1]);
  return best && best[1] / found.length > 0.5 ? best[0] : undefined;
}
