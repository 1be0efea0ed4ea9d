import type { RawConnection } from '../store';

type Given = Record<string, string | number | Uint8Array | null>;

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

  #of(text: string) {
    const known = this.#made.get(text) ?? this.client.prepare(text);
    this.#made.set(text, known);
    return known;
  }
}

/** Rows as one parameter: a statement reads them with `json_each`. */
export const rowsOf = (rows: readonly unknown[]): string => JSON.stringify(rows);
