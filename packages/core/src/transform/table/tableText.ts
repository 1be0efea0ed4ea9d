import { IsBoolean, IsString, MaxLength } from 'class-validator';
import { asText, isBlank, isJsonObject, type Json } from '../../submission';
import { defineTransform } from '../define';

class TableTextParams {
  @IsString() @MaxLength(20) betweenCells: string = ': ';
  @IsString() @MaxLength(20) betweenRows: string = '; ';
  /** Of one thing in parts, an address for instance: whether each part has its name before it. */
  @IsBoolean() names: boolean = true;
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
    {
      name: 'names',
      label: 'Column names',
      choices: [
        { value: true, label: 'before each value' },
        { value: false, label: 'none' },
      ],
    },
  ],
  accepts: ['table', 'json'],
  returns: 'text',
  explain: ({ betweenRows }) => `rows as text, divided by “${betweenRows}”`,
  apply(value, { betweenCells, betweenRows, names }): Json {
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
      .map(([name, cell]) => (names ? `${name}${betweenCells}${row(cell)}` : row(cell)))
      .join(betweenRows);
  },
  examples: [
    {
      params: { betweenCells: ', ', betweenRows: ', ', names: false },
      in: { line1: '1 Hill', line2: '', city: 'Otterby', postcode: 'AB1 2CD' },
      out: '1 Hill, Otterby, AB1 2CD',
    },
    {
      params: { betweenCells: ' × ', betweenRows: '; ', names: true },
      in: [
        { kit: 'Thermometer', n: '2' },
        { kit: 'Waders', n: '' },
      ],
      out: 'Thermometer × 2; Waders',
    },
    {
      params: { betweenCells: ': ', betweenRows: '\n', names: true },
      in: { Hull: 'Good', Oars: 'Worn' },
      out: 'Hull: Good\nOars: Worn',
    },
    {
      params: { betweenCells: ', ', betweenRows: '; ', names: true },
      in: [
        ['a', 'b'],
        ['c', 'd'],
      ],
      out: 'a, b; c, d',
    },
    { params: { betweenCells: ', ', betweenRows: '; ', names: true }, in: 'text', out: 'text' },
  ],
});
