import { placeAt } from '../scope';
import { asText, canonical, isBlank, isJsonObject, type Json } from '../submission';
import type { Find, Line } from '../route';
import type { TargetField } from '../target';

/** The records in an answer that are exactly what was looked for; all of them where the answer itself is that. */
export function recordsIn(
  answer: Json,
  { list, equals, takesAny = false }: Pick<Find, 'list' | 'equals' | 'takesAny'>,
  wanted: Json,
): Json[] {
  const found = placeAt(answer, list);
  const records = Array.isArray(found) ? found : isBlank(found) ? [] : [found!];
  return records.filter(
    record => isJsonObject(record) && (equals === '' ? takesAny : sameText(placeAt(record, equals), wanted)),
  );
}

const sameText = (a: Json | undefined, b: Json) => a !== undefined && asText(a) === asText(b);

/** What one line changes of a record. */
export interface Change {
  lineId: string;
  /** The target's field. */
  field: string;
  /** Undefined where the record has nothing. */
  before: Json | undefined;
  after: Json;
}

/** The value that a line writes over what a record has; undefined where it leaves that alone. */
export function written(line: Pick<Line, 'writes'>, before: Json | undefined, value: Json): Json | undefined {
  switch (line.writes ?? 'always') {
    case 'onCreate':
      return undefined;
    case 'whereBlank':
      return isBlank(before) ? value : undefined;
    case 'add': {
      if (!Array.isArray(before)) return value;
      const here = before.map(textOf);
      const fresh = (Array.isArray(value) ? value : [value]).filter(each => !here.includes(textOf(each)));
      return fresh.length === 0 ? undefined : [...before, ...fresh];
    }
    case 'always':
      return value;
  }
}

const textOf = (value: Json): string => (typeof value === 'string' ? value : canonical(value));

/** True for values that say the same: whatever the order of properties, and of the items of a choose-many answer. */
export function isSame(field: Pick<TargetField, 'type'> | null, a: Json | undefined, b: Json | undefined): boolean {
  if (isBlank(a) && isBlank(b)) return true;
  if (a === undefined || b === undefined) return false;
  if (field?.type === 'choices' && Array.isArray(a) && Array.isArray(b))
    return canonical([...a].map(textOf).sort()) === canonical([...b].map(textOf).sort());
  if (field?.type === 'datetime' && typeof a === 'string' && typeof b === 'string') {
    const [first, second] = [Date.parse(a), Date.parse(b)];
    if (!Number.isNaN(first)) return first === second;
  }
  return canonical(a) === canonical(b);
}
