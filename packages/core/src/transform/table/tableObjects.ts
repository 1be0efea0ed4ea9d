import { IsString, MaxLength } from 'class-validator';
import { isBlank, isJsonObject, setOwn, type Json, type JsonObject } from '../../submission';
import { defineTransform } from '../define';
import { linesOf } from '../linesOf';

class TableObjectsParams {
  /** One a line: `column = name`. Columns that are not named go along as they are, unless any is named. */
  @IsString() @MaxLength(5000) columns: string = '';
}

/** A table as a list of objects, its columns named as the target names them; rows without a value are left out. */
export const tableObjects = defineTransform<TableObjectsParams>({
  id: 'table.objects',
  family: 'table',
  label: 'Table to list of objects',
  summary: 'Turns each row into an object, with the names the target expects.',
  params: TableObjectsParams,
  asks: [{ name: 'columns', label: 'Columns', kind: 'lines', hint: 'one per line; column = name' }],
  accepts: ['table', 'json'],
  returns: 'json',
  explain: ({ columns }) => `rows as objects${linesOf(columns).length > 0 ? ` of ${linesOf(columns).join(', ')}` : ''}`,
  apply(value, { columns }): Json {
    const names = linesOf(columns).map(line => {
      const [column, ...name] = line.split('=');
      return [column!.trim(), name.length > 0 ? name.join('=').trim() : line] as const;
    });
    return rowsOf(value).flatMap(row => {
      const object: JsonObject = {};
      if (names.length === 0) Object.entries(row).forEach(([name, cell]) => setOwn(object, name, cell));
      else for (const [column, name] of names) if (!isBlank(row[column])) setOwn(object, name, row[column]!);
      return Object.values(object).every(isBlank) ? [] : [object];
    });
  },
  examples: [
    {
      params: { columns: 'Kit = item\nHow many = quantity' },
      in: [
        { Kit: 'Waders', 'How many': '2' },
        { Kit: '', 'How many': '' },
      ],
      out: [{ item: 'Waders', quantity: '2' }],
    },
    { params: { columns: '' }, in: [{ a: 1 }], out: [{ a: 1 }] },
    { params: { columns: 'row = part\nanswer = state' }, in: { Hull: 'Good' }, out: [{ part: 'Hull', state: 'Good' }] },
    { params: { columns: '1 = first' }, in: [['a', 'b']], out: [{ first: 'a' }] },
  ],
});

/** The rows of a table: of a list of objects, of a list of lists (columns counted from 1), or of one mark a row. */
function rowsOf(value: Json): JsonObject[] {
  if (isJsonObject(value))
    return Object.entries(value).map(([row, answer]) => ({ row, ...(isJsonObject(answer) ? answer : { answer }) }));
  return (Array.isArray(value) ? value : [value]).map(row =>
    isJsonObject(row)
      ? row
      : Array.isArray(row)
        ? Object.fromEntries(row.map((cell, index) => [String(index + 1), cell]))
        : { 1: row },
  );
}
