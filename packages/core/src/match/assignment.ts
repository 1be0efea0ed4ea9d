/**
 * One source for each target so that the sum is greatest (the assignment problem; Kuhn 1955, Munkres 1957, in the form
 * with potentials). Below `threshold` nothing is better; -1 stands for it.
 */
export function assigned(candidates: { score: number }[][], threshold: number): number[] {
  const rows = candidates.length;
  const columns = candidates[0]?.length ?? 0;
  if (rows === 0 || columns === 0) return candidates.map(() => -1);
  // A column of its own for each target stands for “nothing”.
  const width = columns + rows;
  const cost = (row: number, column: number) => {
    if (column >= columns) return -threshold;
    const { score } = candidates[row]![column]!;
    return score < threshold ? 1 : -score;
  };
  const u = new Float64Array(rows + 1);
  const v = new Float64Array(width + 1);
  const owner = new Int32Array(width + 1);
  const way = new Int32Array(width + 1);
  for (let row = 1; row <= rows; row++) {
    owner[0] = row;
    let column = 0;
    const least = new Float64Array(width + 1).fill(Infinity);
    const used = new Uint8Array(width + 1);
    do {
      used[column] = 1;
      const current = owner[column]!;
      let delta = Infinity;
      let next = 0;
      for (let at = 1; at <= width; at++) {
        if (used[at]) continue;
        const reduced = cost(current - 1, at - 1) - u[current]! - v[at]!;
        if (reduced < least[at]!) {
          least[at] = reduced;
          way[at] = column;
        }
        if (least[at]! < delta) {
          delta = least[at]!;
          next = at;
        }
      }
      for (let at = 0; at <= width; at++) {
        if (used[at]) {
          u[owner[at]!] = u[owner[at]!]! + delta;
          v[at] = v[at]! - delta;
        } else least[at] = least[at]! - delta;
      }
      column = next;
    } while (owner[column] !== 0);
    do {
      const previous = way[column]!;
      owner[column] = owner[previous]!;
      column = previous;
    } while (column !== 0);
  }
  const chosen = new Array<number>(rows).fill(-1);
  for (let at = 1; at <= columns; at++) if (owner[at]! > 0) chosen[owner[at]! - 1] = at - 1;
  return chosen;
}
