import { IsIn, IsInt, IsString, Length, Max, Min } from 'class-validator';
import { asText, type Json } from '../../submission';
import { defineTransform } from '../define';

const sides = ['left', 'right'] as const;

class PadParams {
  @IsInt() @Min(1) @Max(1000) to: number = 6;
  @IsString() @Length(1, 1) by: string = '0';
  @IsIn(sides) side: (typeof sides)[number] = 'left';
}

/** Fills a short text up to a length. */
export const pad = defineTransform<PadParams>({
  id: 'text.pad',
  family: 'text',
  label: 'Pad',
  summary: 'Fills short text up to a length, such as zeros before a number.',
  params: PadParams,
  asks: [
    { name: 'to', label: 'Length', kind: 'number' },
    { name: 'by', label: 'Character' },
    { name: 'side', label: 'Side', choices: sides.map(value => ({ value, label: value })) },
  ],
  accepts: 'any',
  returns: 'text',
  explain: ({ to, by, side }) => `padded to ${to} with “${by}” on the ${side}`,
  apply: (value, { to, by, side }): Json =>
    typeof value === 'object' || typeof value === 'boolean'
      ? value
      : side === 'left'
        ? asText(value).padStart(to, by)
        : asText(value).padEnd(to, by),
  examples: [
    { params: { to: 4, by: '0', side: 'left' }, in: '7', out: '0007' },
    { params: { to: 4, by: '0', side: 'left' }, in: 42, out: '0042' },
    { params: { to: 3, by: '.', side: 'right' }, in: 'a', out: 'a..' },
    { params: { to: 2, by: '0', side: 'left' }, in: 'long', out: 'long' },
  ],
});
