import type { RawConnection } from '../store';

type Value = string | number | boolean | Uint8Array | null;
type Given = Record<string, string | number | null>;

/** Rows that go into one statement; more go in several. */
const TOGETHER = 64;

const bound = (value: Value | undefined): string | number | Uint8Array | null =>
  value === undefined ? null : typeof value === 'boolean' ? Number(value) : value;

/** Statements of a connection, each made once. */
export class Statements {
  readonly #made = new Map<string, ReturnType<RawConnection['prepare']>>();

  constructor(private readonly client: RawConnection) {}

  all<Row>(text: string, given: Given = {}): Row[] {
    return this.#of(text).all(given) as Row[];
  }

  get<Row>(text: string, given: Given = {}): Row | undefined {
    return this.#of(text).get(given) as Row | undefined;
  }

  run(text: string, given: Given = {}): void {
    this.#of(text).run(given);
  }

  /**
   * Runs a statement over rows: what stands before and after `VALUES (…), (…)`. A row is a list of values.
   * @example rows('INSERT INTO seen (print, at)', [['a', 1]], 'ON CONFLICT DO NOTHING RETURNING print')
   */
  rows<Row>(before: string, rows: readonly (readonly (Value | undefined)[])[], after = ''): Row[] {
    const found: Row[] = [];
    for (let from = 0; from < rows.length; from += TOGETHER) {
      const portion = rows.slice(from, from + TOGETHER);
      const row = `(${Array(portion[0]!.length).fill('?').join(', ')})`;
      const text = `${before} VALUES ${Array(portion.length).fill(row).join(', ')} ${after}`;
      for (const each of this.#of(text).all(portion.flat().map(bound)) as Row[]) found.push(each);
    }
    return found;
  }

  #of(text: string) {
    const known = this.#made.get(text) ?? this.client.prepare(text);
    this.#made.set(text, known);
    return known;
  }
}

/** A list as one parameter: a statement reads it with `json_each`. */
export const listOf = (list: readonly string[]): string => JSON.stringify(list);
