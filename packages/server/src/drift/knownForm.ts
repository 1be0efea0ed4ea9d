import type { Store } from '../store';

/** Somebody said what is to be done with a form: that it came beside another is settled. */
export function settleKnownForm({ changes }: Pick<Store, 'changes'>, formId: string, by: string): void {
  for (const each of changes.openOf('form', formId))
    if (each.what.change === 'another-form') changes.settle(each.id, 'settled', by);
}
