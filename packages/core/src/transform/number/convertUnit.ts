import convert, { type Unit } from 'convert-units';
import { IsInt, IsString, Max, Min } from 'class-validator';
import { asText, type Json } from '../../submission';
import { defineTransform, Problem } from '../define';

class ConvertUnitParams {
  /** As convert-units names it: `F`, `mi`, `kg`, `l`. */
  @IsString() from: string = 'F';
  @IsString() to: string = 'C';
  @IsInt() @Min(0) @Max(10) places: number = 1;
}

const measures = ['temperature', 'length', 'area', 'mass', 'volume', 'speed', 'pressure', 'time'] as const;
const units = measures.flatMap(measure =>
  convert()
    .possibilities(measure)
    .map(unit => ({ value: unit, label: `${convert().describe(unit).plural} (${unit})` })),
);

/** A number in one unit as the same in another. */
export const convertUnit = defineTransform<ConvertUnitParams>({
  id: 'number.unit',
  family: 'number',
  label: 'Convert unit',
  summary: 'Converts a number between units: °F to °C, miles to kilometres, pounds to kilograms.',
  params: ConvertUnitParams,
  asks: [
    { name: 'from', label: 'From', choices: units },
    { name: 'to', label: 'To', choices: units },
    { name: 'places', label: 'Decimal places', kind: 'number' },
  ],
  accepts: ['number', 'text'],
  returns: 'number',
  explain: ({ from, to, places }) => `${from} to ${to}, ${places} places`,
  apply(value, { from, to, places }): Json | Problem {
    const number = typeof value === 'number' ? value : Number(asText(value));
    if (!Number.isFinite(number)) return new Problem('number.none', `“${asText(value)}” is not a number.`, value);
    try {
      return Number(
        convert(number)
          .from(from as Unit)
          .to(to as Unit)
          .toFixed(places),
      );
    } catch {
      return new Problem('number.unit', `${from} can’t be told in ${to}.`, value);
    }
  },
  examples: [
    { params: { from: 'F', to: 'C', places: 1 }, in: 47.3, out: 8.5 },
    { params: { from: 'mi', to: 'km', places: 2 }, in: 2, out: 3.22 },
    { params: { from: 'lb', to: 'kg', places: 0 }, in: '150', out: 68 },
    { params: { from: 'lb', to: 'km', places: 0 }, in: 1, out: { problem: 'number.unit' } },
    { params: { from: 'F', to: 'C', places: 1 }, in: 'cold', out: { problem: 'number.none' } },
  ],
});
