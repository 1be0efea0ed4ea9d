import type { CallInput } from '@grammata/contract';
import { placeWords } from '@grammata/core/scope';
import { explainCondition, partsOf } from '@grammata/core/condition';

/** How a call is made, in a few words each. */
export function callWords(
  { condition, repeat, find, whenFailed }: CallInput,
  labelOf: (key: string) => string,
): string[] {
  return [
    condition && partsOf(condition).length > 0 ? `only when ${explainCondition(condition, labelOf)}` : null,
    repeat ? `for each of “${labelOf(repeat)}”` : null,
    find
      ? [
          `finds by ${placeWords(find.equals) || find.line.to} first`,
          find.whenNone === 'create' ? null : find.whenNone === 'leave' ? 'makes none' : 'held where there is none',
          find.update ? 'changes what is different' : null,
        ]
          .filter(Boolean)
          .join(', ')
      : null,
    whenFailed === 'passOver' ? 'passed over when it fails' : null,
  ].filter(each => each !== null);
}
