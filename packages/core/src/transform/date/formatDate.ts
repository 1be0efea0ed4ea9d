import { IsIn, IsString, Length } from 'class-validator';
import { asText, type Json } from '../../submission';
import { defineTransform, isProblem, type Problem } from '../define';
import {
  dateOrders,
  dateOrProblem,
  isDayAlone,
  isoInstant,
  orderAsk,
  orderWords,
  zoneAsk,
  type DateOrder,
} from './readDate';

class FormatDateParams {
  /** How 3/4/26 is meant. */
  @IsIn(dateOrders) order: DateOrder = 'dayFirst';
  /** `iso`, `date`, `time`, `epoch` (seconds), `epochMillis`, or a pattern in the letters of Unicode TR 35, such as `d MMM yyyy`. */
  @IsString() @Length(1, 60) to: string = 'iso';
  /** IANA name of the zone in which a time without one is meant; empty for the route's. */
  @IsString() zone: string = '';
}

/** What is written of an instant rather than of a day in its zone. */
const isInstant = new Set(['iso', 'epoch', 'epochMillis']);

const toWords: Record<string, string> = {
  iso: 'to ISO 8601',
  date: 'to a plain date',
  time: 'to a plain time',
  epoch: 'to seconds since 1970',
  epochMillis: 'to milliseconds since 1970',
};

/** Reads dates in the notations people type and writes them in another. A time without a zone is read in the given one; a day alone stays that day. */
export const formatDate = defineTransform<FormatDateParams>({
  id: 'date.format',
  family: 'date',
  label: 'Format date',
  summary: 'Reads a date as people type it and writes it as the target expects it.',
  params: FormatDateParams,
  asks: [orderAsk, { name: 'to', label: 'Write as', hint: 'iso, date, time, epoch, or d MMM yyyy' }, zoneAsk],
  accepts: ['text', 'date', 'datetime', 'time', 'number', 'choice', 'multiline'],
  returns: 'datetime',
  explain: ({ order, to, zone }) =>
    [order === 'asked' ? '' : orderWords[order], zone, toWords[to] ?? `as ${to}`].filter(Boolean).join(', '),
  apply(value, { order, to, zone }, context): Json | Problem {
    const text = asText(value).trim();
    // A day is no instant: as one it is the beginning of that day in UTC, and never another day.
    const isDay = isInstant.has(to) && isDayAlone(text);
    const read = dateOrProblem(value, text, order, isDay ? 'UTC' : zone || context.timeZone);
    if (isProblem(read)) return read;
    switch (to) {
      case 'iso':
        return isoInstant(read);
      case 'date':
        return read.toISODate()!;
      case 'time':
        return read.toFormat('HH:mm');
      case 'epoch':
        return Math.floor(read.toSeconds());
      case 'epochMillis':
        return read.toMillis();
      default:
        return read.toFormat(to, { locale: 'en' });
    }
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
    { params: { order: 'dayFirst', to: 'iso', zone: 'Europe/London' }, in: '2026-06-13', out: '2026-06-13T00:00:00Z' },
    { params: { order: 'monthFirst', to: 'date', zone: '' }, in: '3/4/26', out: '2026-03-04' },
    { params: { order: 'dayFirst', to: 'date', zone: '' }, in: '3/4/26', out: '2026-04-03' },
    { params: { order: 'dayFirst', to: 'date', zone: '' }, in: '2026-11-04T23:30:00Z', out: '2026-11-04' },
    { params: { order: 'dayFirst', to: 'd MMM yyyy', zone: '' }, in: '2026-11-04', out: '4 Nov 2026' },
    { params: { order: 'dayFirst', to: 'date', zone: '' }, in: '4 November 2026', out: '2026-11-04' },
    { params: { order: 'dayFirst', to: 'time', zone: '' }, in: '4 Nov 2026 7:05 pm', out: '19:05' },
    { params: { order: 'dayFirst', to: 'date', zone: '' }, in: 'Mittwoch, 4. März 2026', out: '2026-03-04' },
    { params: { order: 'dayFirst', to: 'iso', zone: 'UTC' }, in: '4 août 2026 à 14h30', out: '2026-08-04T14:30:00Z' },
    { params: { order: 'monthFirst', to: 'date', zone: '' }, in: 'Nov. 4th, 2026', out: '2026-11-04' },
    { params: { order: 'dayFirst', to: 'epoch', zone: 'UTC' }, in: '04/11/2026', out: 1793750400 },
    { params: { order: 'dayFirst', to: 'iso', zone: 'UTC' }, in: 1793750400, out: '2026-11-04T00:00:00Z' },
    { params: { order: 'asked', to: 'date', zone: '' }, in: '31/12/2026', out: '2026-12-31' },
    { params: { order: 'asked', to: 'date', zone: '' }, in: '7/7/26', out: '2026-07-07' },
    { params: { order: 'asked', to: 'date', zone: '' }, in: '3/4/26', out: { problem: 'date.order' } },
    { params: { order: 'asked', to: 'date', zone: '' }, in: 'soon', out: { problem: 'date.unreadable' } },
    { params: { order: 'dayFirst', to: 'date', zone: '' }, in: '31/02/2026', out: { problem: 'date.unreadable' } },
    { params: { order: 'dayFirst', to: 'date', zone: '' }, in: 'last Tuesday', out: { problem: 'date.unreadable' } },
  ],
});
