import { sha256 } from 'js-sha256';
import type { Scope } from '../scope';
import { canonical } from '../submission';

/** Stands for the one thing that a call which does not repeat is made for. */
export const ONCE = '0';

/**
 * Names what a call is made for, by what it is: `2-` and a print of the second item, so that the same item is known again
 * where others came or went before it. Equal items are told apart by how many of them came before.
 */
export function itemNames(scopes: readonly Scope[]): string[] {
  const seen = new Map<string, number>();
  return scopes.map(({ item }) => {
    if (item === null) return ONCE;
    const print = sha256(canonical(item.value)).slice(0, 16);
    const before = seen.get(print) ?? 0;
    seen.set(print, before + 1);
    return `${item.number}-${print}${before > 0 ? `+${before}` : ''}`;
  });
}

/** What tells an item from others, wherever it stands among them. Names without a print are those of older deliveries. */
export const printOf = (name: string): string => name.slice(name.indexOf('-') + 1);

/** The place of an item among others, from 1; 0 for {@link ONCE}. */
export const numberOf = (name: string): number => Number.parseInt(name, 10);

/** True when two names mean the same item. What stands behind a dot names one of several records that were found for it. */
export const isSameItem = (a: string, b: string): boolean =>
  a === b ||
  (!a.includes('.') &&
    !b.includes('.') &&
    (a.includes('-') && b.includes('-') ? printOf(a) === printOf(b) : numberOf(a) === numberOf(b)));
