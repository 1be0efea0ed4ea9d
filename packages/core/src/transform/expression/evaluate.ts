import { IsString, Length } from 'class-validator';
import type { Json } from '../../submission';
import { defineTransform, Problem } from '../define';
import { remembered } from '../remembered';
import { compileExpression, type Expression } from './bounded';

class EvaluateParams {
  @IsString() @Length(1, 2000, { message: 'give an expression of up to 2,000 characters' }) expression: string = '$';
}

const messageOf = (error: unknown) =>
  typeof error === 'object' && error !== null && 'message' in error ? String(error.message) : String(error);

const expressionOf = remembered(
  (source: string) => source,
  (source): Expression | string => {
    try {
      return compileExpression(source);
    } catch (error) {
      return messageOf(error);
    }
  },
);

/** A JSONata expression over the value; `$answer("key")` gives another answer of the submission. */
export const evaluate = defineTransform<EvaluateParams>({
  id: 'expression.jsonata',
  family: 'expression',
  label: 'Expression',
  summary: 'Evaluates a JSONata expression, where no other step fits.',
  params: EvaluateParams,
  asks: [{ name: 'expression', label: 'JSONata', kind: 'lines', hint: '$uppercase($)' }],
  accepts: 'any',
  returns: 'json',
  looksAround: true,
  explain: ({ expression }) => `${expression.length > 40 ? `${expression.slice(0, 39)}…` : expression} (JSONata)`,
  apply(value, { expression }, { answer }): Json | Problem {
    const compiled = expressionOf(expression);
    if (typeof compiled === 'string')
      return new Problem('expression.syntax', `The expression can’t be read: ${compiled}`, value);
    try {
      return compiled.run(value, key => answer?.(key) ?? '');
    } catch (error) {
      return new Problem('expression.failed', `The expression failed: ${messageOf(error)}.`, value);
    }
  },
  examples: [
    { params: { expression: '$uppercase($)' }, in: 'foam', out: 'FOAM' },
    { params: { expression: '$sum(n)' }, in: [{ n: 2 }, { n: 3 }], out: 5 },
    { params: { expression: 'nothing.here' }, in: { a: 1 }, out: '' },
    { params: { expression: '$replace($, /(a+)+$/, "x")' }, in: 'baaa', out: 'bx' },
    { params: { expression: '1 +' }, in: 'x', out: { problem: 'expression.syntax' } },
    { params: { expression: '$count([1..1000000])' }, in: 'x', out: { problem: 'expression.failed' } },
    {
      params: { expression: '($f := function($n){$f($n + 1)}; $f(1))' },
      in: 'x',
      out: { problem: 'expression.failed' },
    },
    { params: { expression: '$pad("x", 900000000)' }, in: 'x', out: { problem: 'expression.failed' } },
    { params: { expression: '$count([1..9000].$pad("x", 90000))' }, in: 'x', out: { problem: 'expression.failed' } },
    { params: { expression: '$distinct(["a", "b", "a"])' }, in: 'x', out: ['a', 'b'] },
    { params: { expression: '$now()' }, in: 'x', out: { problem: 'expression.failed' } },
  ],
});
