/** Which rows are chosen: each by itself, or all that match, seen here or not. */
export interface Chosen {
  ids: ReadonlySet<string>;
  isAll: boolean;
}

export const none: Chosen = { ids: new Set(), isAll: false };

/** Takes a row in or out; with a range, all from the row that was chosen last up to it are taken in. */
export function choose(before: Chosen, rows: readonly { id: string }[], index: number, from: number | null): Chosen {
  const row = rows[index];
  if (!row) return before;
  const ids = new Set(before.isAll ? rows.map(each => each.id) : before.ids);
  if (from !== null) for (const each of rows.slice(Math.min(from, index), Math.max(from, index) + 1)) ids.add(each.id);
  else if (!ids.delete(row.id)) ids.add(row.id);
  return { ids, isAll: false };
}

/** All that are listed; a second time, none. */
export const chooseListed = (before: Chosen, rows: readonly { id: string }[]): Chosen =>
  before.isAll || before.ids.size > 0 ? none : { ids: new Set(rows.map(each => each.id)), isAll: false };
