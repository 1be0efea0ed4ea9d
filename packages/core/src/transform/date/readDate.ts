import { DateTime } from 'luxon';
import type { Json } from '../../submission';
import { Problem } from '../define';

/** In which order a date in figures is meant; `asked` reads only what can be read in one way. */
export const dateOrders = ['dayFirst', 'monthFirst', 'yearFirst', 'asked'] as const;
export type DateOrder = (typeof dateOrders)[number];

export const orderWords: Record<DateOrder, string> = {
  dayFirst: 'day first',
  monthFirst: 'month first',
  yearFirst: 'year first',
  asked: 'ask if unclear',
};

/** The question of how 3/4/26 is meant, as every date step asks it. */
export const orderAsk = {
  name: 'order',
  label: 'Order',
  choices: dateOrders.map(value => ({ value, label: orderWords[value] })),
};
export const zoneAsk = { name: 'zone', label: 'Time zone', optional: true, hint: 'empty: the route’s' };

const plain = (word: string) => word.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase().replace(/\.$/, '');

interface DateWords {
  /** Number of a month by its name. */
  months: Map<string, number>;
  weekdays: Set<string>;
}
let words: DateWords | null = null;

/** The names of months and days, long and short, in English, German, French and Spanish (CLDR, through Intl). */
function dateWords(): DateWords {
  if (words) return words;
  // Common practice, no source.
  const months = new Map([
    ['sept', 9],
    ['mar', 3],
    ['maerz', 3],
    ['mrz', 3],
  ]);
  const weekdays = new Set<string>();
  for (const language of ['en', 'de', 'fr', 'es'])
    for (const form of ['long', 'short'] as const) {
      const [month, weekday] = [
        new Intl.DateTimeFormat(language, { month: form }),
        new Intl.DateTimeFormat(language, { weekday: form }),
      ];
      for (let at = 0; at < 12; at++) months.set(plain(month.format(new Date(2026, at, 15))), at + 1);
      for (let day = 1; day <= 7; day++) weekdays.add(plain(weekday.format(new Date(2026, 0, day))));
    }
  words = { months, weekdays };
  return words;
}

const clock =
  /(?:^|[ T])(\d{1,2})(?:(?:[:.h](\d{2}))(?:[:.](\d{2})(?:[.,]\d+)?)?)? ?([ap])?\.?(?:m\b\.?)? ?(?:uhr|h)?$/i;
/** Characters of the longest text that is taken for a date. */
const LONGEST_DATE = 200;
const isoLike = /^\d{4}-\d\d-\d\d/;

/** Reads a date as {@link readDate}, or says why it can't: no date at all, or one that has two meanings while nobody said which. */
export function dateOrProblem(value: Json, text: string, order: DateOrder, zone: string): DateTime | Problem {
  const read = readDate(text, order, zone);
  if (read) return read;
  if (order === 'asked' && readDate(text, 'dayFirst', zone))
    return new Problem('date.order', `“${text}” has two meanings: say whether the day or the month is first.`, value);
  const expected = order === 'asked' ? '' : ` that reads ${orderWords[order]}`;
  return new Problem('date.unreadable', `“${text}” is not a date${expected}.`, value);
}

/**
 * A date as people or machines write it, in the order that is stated; null where it is none. Read are ISO 8601,
 * figures divided by `/`, `.`, `-` or space, month names in four languages, times of 12 and 24 hours, and seconds or
 * milliseconds since 1970. A time without a zone is meant in `zone`.
 */
export function readDate(text: string, order: DateOrder, zone: string): DateTime | null {
  if (order === 'asked') {
    const [day, month] = [readDate(text, 'dayFirst', zone), readDate(text, 'monthFirst', zone)];
    return day && month && +day !== +month ? null : (day ?? month);
  }
  if (text.length > LONGEST_DATE) return null;
  if (isoLike.test(text)) {
    const iso = DateTime.fromISO(text.replace(/^(\S{10})[ t]/, '$1T').replace(/z$/, 'Z'), {
      zone,
      setZone: /(z|[+-]\d\d:?\d\d)$/i.test(text),
    });
    if (iso.isValid) return iso;
  }
  if (/^\d{10}$|^\d{13}$/.test(text))
    return DateTime.fromMillis(Number(text) * (text.length === 10 ? 1000 : 1), { zone });
  const tidy = tidied(text);
  const date = dateAt(tidy, order);
  if (!date) return null;
  const time = timeOf(tidy.slice(date.length));
  if (!time) return null;
  const read = DateTime.fromObject({ year: date.year, month: date.month, day: date.day, ...time }, { zone });
  return read.isValid ? read : null;
}

const tidied = (text: string): string =>
  text
    .replace(/\b(\d{1,2})(st|nd|rd|th|er|º|ª)(?=[\s.,]|$)/gi, '$1')
    .replace(/[,’']/g, ' ')
    .replace(/(?<=\s)(at|um|à|a las|de|del|of|o clock)(?=\s)/gi, ' ')
    .replace(/\s+/g, ' ')
    .trim();

/** True for a date without a time: a day, which is the same in every zone. */
export function isDayAlone(text: string): boolean {
  if (text.length > LONGEST_DATE) return false;
  if (/^\d{4}-\d\d-\d\d$/.test(text)) return true;
  const tidy = tidied(text);
  return dateAt(tidy, 'dayFirst')?.length === tidy.length;
}

interface FoundDate {
  year: number;
  month: number;
  day: number;
  /** How much of the text it takes. */
  length: number;
}

function dateAt(text: string, order: DateOrder): FoundDate | null {
  const [first = ''] = text.split(' ');
  const { months, weekdays } = dateWords();
  const skipped = weekdays.has(plain(first)) ? first.length + 1 : 0;
  const rest = text.slice(skipped);
  const figures = /^(\d{1,4})\s?[./\- ]\s?(\d{1,2})\s?[./\- ]\s?(\d{4}|\d{2})(?!\d)/.exec(rest);
  if (figures) {
    const [a, b, c] = figures.slice(1).map(Number) as [number, number, number];
    const [year, month, day] =
      figures[1]!.length === 4 || order === 'yearFirst' ? [a, b, c] : order === 'dayFirst' ? [c, b, a] : [c, a, b];
    return figures[1]!.length === 3 ? null : { year: fullYear(year), month, day, length: skipped + figures[0].length };
  }
  const named = /^(?:(\d{1,2})[.\s-]*)?(\p{L}{3,12})\.?[\s-]*(?:(\d{1,2})(?=\s)\s)?\s?(\d{4}|\d{2})(?![\d:])/u.exec(
    rest,
  );
  const month = named && months.get(plain(named[2]!));
  const day = named && (named[1] ?? named[3]);
  return named && month && day && !(named[1] && named[3])
    ? { year: fullYear(Number(named[4])), month, day: Number(day), length: skipped + named[0].length }
    : null;
}

/** Two figures mean 1950 to 2049 (common practice, no source). */
const fullYear = (year: number) => (year >= 100 ? year : year < 50 ? 2000 + year : 1900 + year);

function timeOf(rest: string): { hour: number; minute: number; second: number } | null {
  const text = rest.replace(/[-–\s]+/g, ' ').trimEnd();
  if (text.trim() === '') return { hour: 0, minute: 0, second: 0 };
  const found = clock.exec(text);
  if (!found || found[0].trim() !== text.trim() || (!found[2] && !found[4] && !/uhr|h$/i.test(text))) return null;
  const hour = Number(found[1]);
  const half = found[4]?.toLowerCase();
  if (half && (hour < 1 || hour > 12)) return null;
  return {
    hour: half ? (hour % 12) + (half === 'p' ? 12 : 0) : hour,
    minute: Number(found[2] ?? 0),
    second: Number(found[3] ?? 0),
  };
}

/** RFC 3339 in UTC, without fractions of a second that nobody typed. */
export const isoInstant = (date: DateTime): string => date.toUTC().toISO({ suppressMilliseconds: true })!;
