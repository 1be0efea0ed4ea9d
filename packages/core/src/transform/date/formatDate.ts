import { IsIn, IsString, Length } from 'class-validator';
import { DateTime } from 'luxon';
import { asText, type Json } from '../../submission';
import { defineTransform, Problem, type TransformContext } from '../define';

const orders = ['dayFirst', 'monthFirst', 'yearFirst'] as const;
type Order = (typeof orders)[number];

class FormatDateParams {
  /** How 3/4/26 is meant. */
  @IsIn(orders) order: Order = 'dayFirst';
  /** `iso`, `date`, `time`, or a pattern in the letters of Unicode TR 35, such as `d MMM yyyy`. */
  @IsString() @Length(1, 60) to: string = 'iso';
  /** IANA name of the zone in which a time without one is meant; empty for the route's. */
  @IsString() zone: string = '';
}

const orderWords: Record<Order, string> = { dayFirst: 'day first', monthFirst: 'month first', yearFirst: 'year first' };
const toWords: Record<string, string> = { iso: 'to ISO 8601', date: 'to a plain date', time: 'to a plain time' };

const dates: Record<Order, string[]> = {
  dayFirst: ['d/M/yyyy', 'd/M/yy', 'd MMM yyyy', 'd MMMM yyyy', 'd MMM yy', 'MMMM d yyyy', 'MMM d yyyy'],
  monthFirst: ['M/d/yyyy', 'M/d/yy', 'MMMM d yyyy', 'MMM d yyyy', 'd MMM yyyy', 'd MMMM yyyy'],
  yearFirst: ['yyyy/M/d', 'yy/M/d', 'd MMM yyyy'],
};
const times = ['', ' H:mm', ' H:mm:ss', ' h:mm a', ' h a'];

/** Reads dates in the notations people type and writes them in another. A time without a zone is read in the given one. */
export const formatDate = defineTransform<FormatDateParams>({
  id: 'date.format',
  family: 'date',
  label: 'Date to another format',
  summary: 'Reads a date as people type it and writes it as the target wants it.',
  params: FormatDateParams,
  asks: [
    { name: 'order', label: 'Read', choices: orders.map(value => ({ value, label: orderWords[value] })) },
    { name: 'to', label: 'Write as', hint: 'iso, date, time, or a pattern such as d MMM yyyy' },
    { name: 'zone', label: 'Time zone', optional: true, hint: 'the route’s when empty' },
  ],
  accepts: ['text', 'date', 'datetime', 'time', 'number', 'choice', 'multiline'],
  returns: 'datetime',
  explain: ({ order, to, zone }) => [orderWords[order], zone, toWords[to] ?? `as ${to}`].filter(Boolean).join(', '),
  apply(value, { order, to, zone }, context): Json | Problem {
    const text = asText(value).trim();
    const read = readDate(text, order, zoneFor(zone, context));
    if (!read) return new Problem('date.unreadable', `“${text}” is not a date that reads ${orderWords[order]}.`, value);
    return to === 'iso'
      ? isoInstant(read)
      : to === 'date'
        ? read.toISODate()!
        : to === 'time'
          ? read.toFormat('HH:mm')
          : read.toFormat(to, { locale: 'en' });
  },
  examples: [
    {
      params: { order: 'dayFirst', to: 'iso', zone: 'Europe/London' },
      in: '04/11/2026 7:55',
      out: '2026-11-04T07:55:00Z',
    },
    {
      params: { order: 'dayFirst', to: 'iso', zone: 'Europe/London' },
      in: '4.7.2026 07:55',
      out: '2026-07-04T06:55:00Z',
    },
    { params: { order: 'monthFirst', to: 'date', zone: '' }, in: '3/4/26', out: '2026-03-04' },
    { params: { order: 'dayFirst', to: 'date', zone: '' }, in: '3/4/26', out: '2026-04-03' },
    { params: { order: 'dayFirst', to: 'date', zone: '' }, in: '2026-11-04T23:30:00Z', out: '2026-11-04' },
    { params: { order: 'dayFirst', to: 'd MMM yyyy', zone: '' }, in: '2026-11-04', out: '4 Nov 2026' },
    { params: { order: 'dayFirst', to: 'date', zone: '' }, in: '4 November 2026', out: '2026-11-04' },
    { params: { order: 'dayFirst', to: 'time', zone: '' }, in: '4 Nov 2026 7:05 pm', out: '19:05' },
    { params: { order: 'dayFirst', to: 'date', zone: '' }, in: '31/02/2026', out: { problem: 'date.unreadable' } },
    { params: { order: 'dayFirst', to: 'date', zone: '' }, in: 'last Tuesday', out: { problem: 'date.unreadable' } },
  ],
});

const zoneFor = (zone: string, context: TransformContext) => zone || context.timeZone;

/** RFC 3339 in UTC, without fractions of a second that nobody typed. */
const isoInstant = (date: DateTime) => date.toUTC().toISO({ suppressMilliseconds: true })!;

function readDate(text: string, order: Order, zone: string): DateTime | null {
  if (/^\d{4}-\d\d-\d\d/.test(text)) {
    const iso = DateTime.fromISO(text.replace(/^(\S{10})[ t]/, '$1T').replace(/z$/, 'Z'), {
      zone,
      setZone: /(z|[+-]\d\d:?\d\d)$/i.test(text),
    });
    if (iso.isValid) return iso;
  }
  const tidy = text
    .replace(/\b(\d{1,2})(st|nd|rd|th)\b/gi, '$1')
    .replace(/,/g, ' ')
    .replace(/\b(at|o’clock)\b/gi, ' ')
    .replace(/(\d)\s?([ap])\.?m\b\.?/gi, '$1 $2m')
    .replace(/(\d)[.\-/](\d{1,2})[.\-/](\d)/, '$1/$2/$3')
    .replace(/\s+/g, ' ')
    .trim();
  for (const date of dates[order])
    for (const time of times) {
      const read = DateTime.fromFormat(tidy, date + time, { zone, locale: 'en' });
      if (read.isValid) return read;
    }
  return null;
}
