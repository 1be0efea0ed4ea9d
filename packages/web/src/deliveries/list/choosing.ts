import type { DeliverySummary } from '@grammata/contract';

/** A row as it was listed when it was chosen. */
export type Row = Pick<DeliverySummary, 'id' | 'state'>;

/** Which rows are chosen: each by itself, or all that match, listed or not. */
export interface Chosen {
  rows: ReadonlyMap<string, Row>;
  isAll: boolean;
}

export const none: Chosen = { rows: new Map(), isAll: false };

/** Takes a row in or out. Out of all that match, the others that are listed stay. */
export function choose(before: Chosen, listed: readonly Row[], row: Row): Chosen {
  const rows = new Map(before.isAll ? listed.map(each => [each.id, each] as const) : before.rows);
  if (!rows.delete(row.id)) rows.set(row.id, row);
  return { rows, isAll: false };
}

/** Takes all of a range in. */
export const chooseRange = (before: Chosen, range: readonly Row[]): Chosen => ({
  rows: new Map([...before.rows, ...range.map(each => [each.id, each] as const)]),
  isAll: false,
});

/** All that are listed; a second time, none. */
export const chooseListed = (before: Chosen, listed: readonly Row[]): Chosen =>
  before.isAll || before.rows.size > 0 ? none : chooseRange(none, listed);
