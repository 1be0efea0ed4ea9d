import { IsString, Length } from 'class-validator';
import { asText, isJsonObject, type Json } from '../../submission';
import { defineTransform, Problem } from '../define';

class SumColumnParams {
  @IsString() @Length(1, 200, { message: 'name the column' }) column: string = 'quantity';
}

/** The sum of a column; cells without a number at their start count as nothing. */
export const sumColumn = defineTransform<SumColumnParams>({
  id: 'table.sum',
  family: 'table',
  label: 'Sum of a column',
  summary: 'Adds up the numbers of one column of a table.',
  params: SumColumnParams,
  asks: [{ name: 'column', label: 'Column' }],
  accepts: ['table', 'json'],
  returns: 'number',
  explain: ({ column }) => `sum of “${column}”`,
  apply(value, { column }): Json | Problem {
    const rows = (Array.isArray(value) ? value : [value]).filter(isJsonObject);
    const cells = rows.flatMap(row =>
      Object.entries(row).filter(([name]) => name.toLowerCase() === column.toLowerCase()),
    );
    if (cells.length === 0) return new Problem('table.column', `There is no column “${column}”.`, value);
    const sum = cells.reduce(
      (total, [, cell]) => total + (Number(/^\s*-?\d+([.,]\d+)?/.exec(asText(cell))?.[0].replace(',', '.')) || 0),
      0,
    );
    return Number(sum.toPrecision(15));
  },
  examples: [
    {
      params: { column: 'quantity' },
      in: [
        { kit: 'a', quantity: '2' },
        { kit: 'b', quantity: '3 packs' },
      ],
      out: 5,
    },
    { params: { column: 'Quantity' }, in: [{ kit: 'a', quantity: 'a few' }], out: 0 },
    { params: { column: 'n' }, in: [{ n: 0.1 }, { n: '0,2' }], out: 0.3 },
    { params: { column: 'price' }, in: [{ n: 1 }], out: { problem: 'table.column' } },
  ],
});
