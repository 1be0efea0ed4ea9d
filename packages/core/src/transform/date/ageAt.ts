import { IsIn, IsString, MaxLength } from 'class-validator';
import { referenceText } from '../../scope';
import { asText, type Json } from '../../submission';
import { defineTransform, isProblem, Problem, type TransformContext } from '../define';
import { dateOrders, dateOrProblem, orderAsk, readDate, type DateOrder } from './readDate';

class AgeAtParams {
  @IsIn(dateOrders) order: DateOrder = 'dayFirst';
  /** The question whose date counts; empty for the date below. */
  @IsString() @MaxLength(500) question: string = '';
  /** A date; empty for the day the submission was sent. */
  @IsString() @MaxLength(40) at: string = '';
}

/** Whole years from a date of birth to a given day: that of another answer, a fixed one, or the day it was sent. */
export const ageAt = defineTransform<AgeAtParams>({
  id: 'date.age',
  family: 'date',
  label: 'Age',
  summary: 'Whole years since a date of birth, on the day of the submission or another date.',
  params: AgeAtParams,
  asks: [
    orderAsk,
    { name: 'question', label: 'On the date of', kind: 'question', optional: true },
    { name: 'at', label: 'Or on', optional: true, hint: 'the day of the submission' },
  ],
  accepts: ['text', 'date', 'datetime', 'choice'],
  returns: 'number',
  looksAround: true,
  explain: ({ question, at }) =>
    `age in years ${question ? 'on the date of another answer' : at ? `on ${at}` : 'on the day it was sent'}`,
  apply(value, { order, question, at }, context): Json | Problem {
    const text = asText(value).trim();
    const born = dateOrProblem(value, text, order, context.timeZone);
    if (isProblem(born)) return born;
    const stated = dayOf(question, at, context);
    const day = readDate(stated, order, context.timeZone);
    if (!day)
      return new Problem(
        'date.noDay',
        stated === '' ? 'The submission does not say when it was sent.' : `“${stated}” is not a date.`,
        value,
      );
    const years = Math.floor(
      day.startOf('day').diff(born.setZone(day.zone, { keepLocalTime: true }).startOf('day'), 'years').years,
    );
    return years < 0 || years > 130
      ? new Problem('date.age', `${text} to ${stated} makes an age of ${years}.`, value)
      : years;
  },
  examples: [
    { params: { order: 'dayFirst', question: '', at: '04/11/2026' }, in: '12/03/1984', out: 42 },
    { params: { order: 'dayFirst', question: '', at: '2026-11-04' }, in: '05/11/1984', out: 41 },
    { params: { order: 'dayFirst', question: '', at: '2026-11-04' }, in: '12/03/2031', out: { problem: 'date.age' } },
    { params: { order: 'dayFirst', question: '', at: '' }, in: '12/03/1984', out: { problem: 'date.noDay' } },
  ],
});

const sentAt = referenceText({ to: 'fact', fact: 'submittedAt' });

const dayOf = (question: string, at: string, { answer }: TransformContext): string =>
  question !== '' ? asText(answer?.(question)) : at !== '' ? at : asText(answer?.(sentAt));
