import { IsString, MaxLength } from 'class-validator';
import { asText, isBlank, isJsonObject, type Json } from '../../submission';
import { defineTransform } from '../define';

class TableTextParams {
  @IsString() @MaxLength(20) betweenCells: string = ': ';
  @IsString() @MaxLength(20) betweenRows: string = '; ';
}

/** A table's rows as text, the cells of each in order; blank cells are left out. */
export const tableText = defineTransform<TableTextParams>({
  id: 'table.text',
  family: 'table',
  label: 'Table to text',
  summary: 'Writes the rows of a table as one text.',
  params: TableTextParams,
  asks: [
    { name: 'betweenCells', label: 'Between cells', optional: true },
    { name: 'betweenRows', label: 'Between rows', optional: true },
  ],
  accepts: ['table', 'json'],
  returns: 'text',
  explain: ({ betweenRows }) => `rows as text, divided by “${betweenRows}”`,
  apply(value, { betweenCells, betweenRows }): Json {
    const row = (each: Json): string =>
      isJsonObject(each) || Array.isArray(each)
        ? Object.values(each)
            .filter(cell => !isBlank(cell))
            .map(asText)
            .join(betweenCells)
        : asText(each);
    if (Array.isArray(value))
      return value
        .map(row)
        .filter(text => text !== '')
        .join(betweenRows);
    if (!isJsonObject(value)) return asText(value);
    return Object.entries(value)
      .filter(([, cell]) => !isBlank(cell))
      .map(([name, cell]) => `${name}${betweenCells}${row(cell)}`)
      .join(betweenRows);
  },
  examples: [
    {
      params: { betweenCells: ' × ', betweenRows: '; ' },
      in: [
        { kit: 'Thermometer', n: '2' },
        { kit: 'Waders', n: '' },
      ],
      out: 'Thermometer × 2; Waders',
    },
    {
      params: { betweenCells: ': ', betweenRows: '\n' },
      in: { Hull: 'Good', Oars: 'Worn' },
      out: 'Hull: Good\nOars: Worn',
    },
    {
      params: { betweenCells: ', ', betweenRows: '; ' },
      in: [
        ['a', 'b'],
        ['c', 'd'],
      ],
      out: 'a, b; c, d',
    },
    { params: { betweenCells: ', ', betweenRows: '; ' }, in: 'text', out: 'text' },
  ],
});
