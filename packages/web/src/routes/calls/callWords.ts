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
    find ? `finds by ${placeWords(find.equals) || find.line.to} first` : null,
    whenFailed === 'passOver' ? 'passed over when it fails' : null,
  ].filter(each => each !== null);
}
