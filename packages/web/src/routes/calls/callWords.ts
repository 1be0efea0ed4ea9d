import type { CallInput } from '@grammata/contract';
import { placeWords } from '@grammata/core/scope';
import { explainCondition, partsOf } from '@grammata/core/condition';

/** How a call is made, in a few words each. */
export function callWords(
  { condition, repeat, find, whenFailed }: CallInput,
  labelOf: (key: string) => string,
): string[] {
  return [
    condition && partsOf(condition).length > 0 ? `only if ${explainCondition(condition, labelOf)}` : null,
    repeat ? `for each of ${quoted(labelOf(repeat))}` : null,
    find
      ? [
          `finds an existing record by ${placeWords(find.equals) || find.line.to}`,
          find.whenNone === 'create' ? null : find.whenNone === 'leave' ? 'creates none' : 'held if none is found',
          find.update ? 'updates differences' : null,
        ]
          .filter(Boolean)
          .join(', ')
      : null,
    whenFailed === 'passOver' ? 'skipped if it fails' : null,
  ].filter(each => each !== null);
}

/** A name in quotation marks, unless another stands in it. */
const quoted = (name: string): string => (name.includes('“') ? name : `“${name}”`);
