import { asText, isBlank, valueAt, type Json } from '../submission';
import type { RequestPlan } from '../request';
import type { TargetField } from '../target';
import { isSame } from './find';

/** What became of one value in the target. */
export interface Comparison {
  /** The target's field. */
  field: string;
  lineId: string | null;
  /** same; reformatted: another writing of the same; shortened; rounded; lost: nothing is there; other: something else is. */
  verdict: 'same' | 'reformatted' | 'shortened' | 'rounded' | 'lost' | 'other';
  sent: Json;
  stored: Json;
}

/** What was sent against what is stored, field by field; files are left out. */
export function holdAgainst(request: RequestPlan, fields: readonly TargetField[], record: Json): Comparison[] {
  const withContent = new Set(request.files.map(each => each.pointer));
  return fields
    .filter(field => !field.in && !field.readOnly && !withContent.has(field.pointer))
    .flatMap((field): Comparison[] => {
      const sent = valueAt(request.body, field.pointer);
      if (sent === undefined) return [];
      const stored = valueAt(record, field.pointer) ?? null;
      return [
        {
          field: field.key,
          lineId: request.origins[field.pointer] ?? null,
          verdict: verdictOn(field, sent, stored),
          sent,
          stored,
        },
      ];
    });
}

const bare = (text: string) =>
  text
    .normalize('NFKC')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]/gu, '');

function verdictOn(field: TargetField, sent: Json, stored: Json): Comparison['verdict'] {
  if (isSame(field, sent, stored)) return 'same';
  if (isBlank(stored)) return 'lost';
  const [a, b] = [Number(sent), Number(stored)];
  if (typeof sent === 'number' && typeof stored === 'number')
    return decimals(b) < decimals(a) && Math.abs(a - b) <= 0.5 * 10 ** -decimals(b) ? 'rounded' : 'other';
  if (Array.isArray(sent) && Array.isArray(stored))
    return stored.every(each => sent.some(own => asText(own) === asText(each))) ? 'shortened' : 'other';
  const [one, two] = [asText(sent), asText(stored)];
  if (typeof sent === 'number' || typeof stored === 'number') return a === b ? 'reformatted' : 'other';
  if (bare(one) === bare(two)) return 'reformatted';
  return two.length < one.length && one.trim().startsWith(two.replace(/(…|\.\.\.)$/, '').trim())
    ? 'shortened'
    : 'other';
}

/** Digits behind the point. */
function decimals(value: number): number {
  const text = String(value);
  return text.includes('.') ? text.length - text.indexOf('.') - 1 : 0;
}
