import { asText, isJsonObject, wordsOf, type Json } from '../../submission';
import { countryCodeOf } from '../country';

export interface PostalAddress {
  street: string;
  /** Flat, floor, building, care of. */
  line2: string;
  locality: string;
  region: string;
  postcode: string;
  /** As it was written. */
  country: string;
  /** 0 to 1: how much of what an address holds was found, and how little was left to guess. */
  confidence: number;
}

/** How countries write the postcode, and where the town stands beside it. Common practice, no source. */
const postcodes: { pattern: RegExp; town: 'before' | 'after'; sure: number }[] = [
  { pattern: /\b([A-Z]{1,2}\d[A-Z\d]?\s?\d[A-Z]{2})\b/i, town: 'before', sure: 1 }, // United Kingdom
  { pattern: /\b([A-Z]\d[A-Z]\s?\d[A-Z]\d)\b/i, town: 'before', sure: 1 }, // Canada
  { pattern: /\b([A-Z]\d{2}\s?[A-Z\d]{4})\b/, town: 'before', sure: 0.9 }, // Ireland
  { pattern: /\b(\d{4}\s?[A-Z]{2})\b(?=\s+\p{Lu})/u, town: 'after', sure: 1 }, // Netherlands
  { pattern: /\b(\d{5}-\d{4})\b/, town: 'before', sure: 1 }, // United States
  { pattern: /(?<=\b[A-Z]{2}\s)(\d{5})\b/, town: 'before', sure: 1 }, // United States
  { pattern: /(?<=\b(?:NSW|VIC|QLD|ACT|TAS|SA|WA|NT)\s)(\d{4})\b/, town: 'before', sure: 1 }, // Australia
  {
    pattern: /(?<=^|[,\n] ?)(?:[A-Z]{1,2}-)?(\d{2}-\d{3}|\d{4}-\d{3}|\d{3}\s\d{2}|\d{4,5})(?=\s+\p{L})/u,
    town: 'after',
    sure: 0.9,
  }, // the Continent
  { pattern: /\s(?:[A-Z]{1,2}-)?(\d{5})(?=\s+\p{Lu})/u, town: 'after', sure: 0.7 },
  { pattern: /(?<=^|[,\s])(\d{4,6})$/, town: 'before', sure: 0.6 },
];
const region = /(?:^|\s)(NSW|VIC|QLD|ACT|TAS|SA|WA|NT|[A-Z]{2})$/;
const street =
  /(^|\s)\d+\s?[a-z]?(\s|$|,|\/|-)|\b(street|st|road|rd|lane|ln|avenue|ave|drive|way|close|court|square|place|rue|all[ée]e|boulevard|quai|calle|avenida|plaza|paseo|camino)\b|(stra(ß|ss)e|str\.|weg|platz|gasse|allee|ufer|damm)\b/iu;
const second =
  /^(flat|apt\.?|apartment|unit|suite|floor|room|c\/o|piso|b[âa]t|bâtiment|étage|wohnung|whg|hinterhaus|top|po box|#)\b/i;

const none = (): PostalAddress => ({
  street: '',
  line2: '',
  locality: '',
  region: '',
  postcode: '',
  country: '',
  confidence: 0,
});

/** The parts of an address: of one that was typed into one box, or of one that came in parts whatever they are called. */
export function readAddress(value: Json): PostalAddress {
  return isJsonObject(value) ? fromParts(value) : fromText(asText(value));
}

function fromText(typed: string): PostalAddress {
  const address = none();
  let parts = typed
    .split(/[\n,;]+/)
    .map(each => each.replace(/\s+/g, ' ').trim())
    .filter(Boolean);
  const last = parts.at(-1);
  if (parts.length > 1 && last && !/\d/.test(last) && countryCodeOf(last)) {
    address.country = last;
    parts = parts.slice(0, -1);
  }
  const sure = takePostcode(parts.join('\n'), address);
  parts = address.postcode === '' ? parts : withoutPostcode(parts, address, sure.town);
  const lines = parts.filter(each => second.test(each));
  const rest = parts.filter(each => !second.test(each));
  const at = rest.findIndex(each => street.test(each));
  if (at >= 0) address.street = rest.splice(at, 1)[0]!;
  if (address.locality === '' && rest.length > 0) address.locality = rest.pop()!;
  if (address.street === '' && rest.length > 0) address.street = rest.shift()!;
  // A village or a building between the street and the town goes to the second line.
  address.line2 = [...lines, ...rest].join(', ');
  address.confidence = confidenceOf(address, sure.sure, rest.length);
  return address;
}

function takePostcode(text: string, address: PostalAddress): { town: 'before' | 'after'; sure: number } {
  for (const { pattern, town, sure } of postcodes) {
    const found = pattern.exec(text);
    if (!found) continue;
    address.postcode = found[1]!;
    return { town, sure };
  }
  return { town: 'before', sure: 0 };
}

/** The parts without the postcode; the town and region beside it are taken out too. */
function withoutPostcode(parts: string[], address: PostalAddress, town: 'before' | 'after'): string[] {
  const index = parts.findLastIndex(each => each.includes(address.postcode));
  const whole = parts[index]!;
  const place = whole.lastIndexOf(address.postcode);
  let before = whole
    .slice(0, place)
    .replace(/\b[A-Z]{1,2}-$/, '')
    .trim();
  const after = whole.slice(place + address.postcode.length).trim();
  const left = parts.filter((_, at) => at !== index);
  if (town === 'after' && after !== '') {
    address.locality = after;
    return before === '' ? left : [...parts.slice(0, index), before, ...parts.slice(index + 1)];
  }
  const state = region.exec(before);
  if (state && !/^[A-Z]{1,2}\d/i.test(address.postcode)) {
    address.region = state[1]!;
    before = before.slice(0, state.index).trim();
  }
  if (before !== '' && !(street.test(before) && index === 0 && parts.length === 1)) {
    address.locality = before;
    return left;
  }
  if (before !== '') return [before];
  return left;
}

function confidenceOf({ street: line, locality, postcode }: PostalAddress, sure: number, unplaced: number): number {
  const found = (line !== '' ? 0.35 : 0) + (locality !== '' ? 0.25 : 0) + (postcode !== '' ? 0.4 * sure : 0);
  return Math.round(Math.max(0, found - 0.1 * unplaced) * 100) / 100;
}

/** How the parts of an address are called. Common practice, no source. */
const names: [part: keyof Omit<PostalAddress, 'confidence'>, words: RegExp][] = [
  ['line2', /\b(line ?2|line two|address ?2|2|flat|suite|unit|apartment|additional|complement)\b/],
  ['postcode', /\b(zip|zipcode|post ?code|postal|plz|cp)\b/],
  ['country', /\b(country|land|pays|pais)\b/],
  ['region', /\b(state|province|region|county|department|provincia|bundesland|kanton)\b/],
  ['locality', /\b(city|town|locality|village|suburb|ort|stadt|ville|commune|ciudad|localidad)\b/],
  ['street', /\b(street|line ?1|line|address|address ?1|addr|road|strasse|rue|calle)\b/],
];

function fromParts(value: Record<string, Json>): PostalAddress {
  const address = none();
  for (const [key, part] of Object.entries(value)) {
    const words = wordsOf(key)
      .join(' ')
      .replace(/([a-z])(\d)/g, '$1 $2');
    const name = names.find(([, pattern]) => pattern.test(words))?.[0];
    if (name && address[name] === '') address[name] = asText(part).trim();
  }
  address.confidence = address.street || address.postcode || address.locality ? 1 : 0;
  return address;
}
