import { IsIn, IsString, MaxLength } from 'class-validator';
import { asText, type Json } from '../../submission';
import { defineTransform, Problem } from '../define';
import { remembered } from '../remembered';
import { readLookupTable } from './lookupTable';

const misses = { problem: 'report a problem', keep: 'keep as it is', blank: 'blank' } as const;
type Miss = keyof typeof misses;

class LookUpParams {
  /** CSV of two columns: what comes, what goes. */
  @IsString() @MaxLength(200000) table: string = '';
  @IsIn(Object.keys(misses)) otherwise: Miss = 'problem';
}

/** The table's rows; a chain looks up in the same one for every submission. */
const rowsOf = remembered(
  (table: string) => table,
  table => new Map(readLookupTable(table).map(({ answer, option }) => [answer.toLowerCase(), option])),
);

/** Looks a value up in a table that was pasted as CSV (RFC 4180). Case does not matter. */
export const lookUp = defineTransform<LookUpParams>({
  id: 'lookup.table',
  family: 'lookup',
  label: 'Look up in a table',
  summary: 'Finds the value in the first column of a table and gives the second.',
  params: LookUpParams,
  asks: [
    { name: 'table', label: 'Table', kind: 'table', hint: 'CSV: answer, value' },
    {
      name: 'otherwise',
      label: 'If missing',
      choices: Object.entries(misses).map(([value, label]) => ({ value, label })),
    },
  ],
  accepts: 'any',
  returns: 'text',
  explain: ({ table, otherwise }) => `looked up in a table of ${rowsOf(table).size}, not there is ${misses[otherwise]}`,
  apply(value, { table, otherwise }): Json | Problem {
    const rows = rowsOf(table);
    const one = (each: Json): Json | Problem =>
      rows.get(asText(each).trim().toLowerCase()) ??
      (otherwise === 'keep'
        ? each
        : otherwise === 'blank'
          ? ''
          : new Problem('lookup.missing', `“${asText(each)}” is not in the table.`, value));
    if (!Array.isArray(value)) return one(value);
    const found = value.map(one);
    return found.find(each => each instanceof Problem) ?? (found as Json[]);
  },
  examples: [
    {
      params: { table: 'Withy Bridge,AB-07\nOtter Weir,AB-02', otherwise: 'problem' },
      in: 'withy bridge',
      out: 'AB-07',
    },
    { params: { table: 'a;1\nb;2', otherwise: 'problem' }, in: ['a', 'b'], out: ['1', '2'] },
    { params: { table: 'a,1', otherwise: 'keep' }, in: 'z', out: 'z' },
    { params: { table: '"x, y",z', otherwise: 'problem' }, in: 'X, Y', out: 'z' },
    { params: { table: 'a,1', otherwise: 'problem' }, in: 'z', out: { problem: 'lookup.missing' } },
  ],
});
