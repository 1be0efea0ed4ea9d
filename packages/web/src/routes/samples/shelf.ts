import type { PackedSample, SamplePage } from '@grammata/contract';
import type { Sample } from '@grammata/core/rehearse';
import { unpack } from '@grammata/core/sample';
import type { Submission } from '@grammata/core/submission';

/** Samples of the first page, which is there almost at once, of the others, and of all that are taken. */
const FIRST = 100;
const FURTHER = 1000;
/** What is asked first. */
export const FIRST_PAGE = `limit=${FIRST}`;
const MOST = 10_000;

/** One sample on the shelf. It is packed; what it holds is unpacked when it is looked at. */
export class Shelved implements Sample {
  constructor(
    /** Its place on the shelf, which never changes: by it the rehearsal is asked about this sample. */
    readonly place: number,
    private readonly page: Pick<SamplePage, 'columns'>,
    private readonly row: PackedSample,
  ) {}

  get id(): string {
    return this.row.sampleId;
  }

  get receivedAt(): string {
    return this.row.receivedAt;
  }

  get name(): string | null {
    return this.row.name;
  }

  get isVariant(): boolean {
    return this.row.isVariant;
  }

  get submission(): Submission {
    return unpack(this.page, this.row);
  }
}

export interface ShelfState {
  /** Grows with every samples-anew: what is known of those before is not of these. */
  generation: number;
  /** In the order in which they are walked: the newest first, variants last. */
  samples: readonly Shelved[];
  /** The pages so far, in the order of the places. */
  pages: readonly SamplePage[];
  /** Recorded submissions in all, on the shelf or not. */
  total: number;
  /** loading: there are more to come. all: what is there is all that is wanted. failed: it could not be had. */
  state: 'loading' | 'all' | 'failed';
  fault: unknown;
}

const empty: ShelfState = { generation: 0, samples: [], pages: [], total: 0, state: 'loading', fault: null };

/** Has the samples of a form brought page by page, the newest first, and those that come later put to them. */
export class SampleShelf {
  #state = empty;
  #newest: string | null = null;
  #isAsking = false;
  #wants: 'nothing' | 'newer' | 'all' = 'nothing';
  #isClosed = false;
  readonly #listeners = new Set<() => void>();

  /**
   * @param get asks the server for a page: `limit=…`, with `&before=…` or `&since=…`
   * @param isShown resolves once the first page is seen, so that bringing the others does not hold that up
   */
  constructor(
    private readonly get: (query: string) => Promise<SamplePage>,
    private readonly isShown: () => Promise<void> = () => Promise.resolve(),
  ) {}

  readonly state = (): ShelfState => this.#state;

  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };

  /** Brings all of them, or all anew. */
  readonly load = (): void => {
    this.#isClosed = false;
    this.#want('all');
  };

  /** Something came: brings what is newer. */
  readonly more = (): void => this.#want('newer');

  readonly close = (): void => {
    this.#isClosed = true;
  };

  #want(what: 'newer' | 'all'): void {
    if (this.#wants !== 'all') this.#wants = what;
    if (!this.#isAsking) void this.#bring();
  }

  async #bring(): Promise<void> {
    this.#isAsking = true;
    while (this.#wants !== 'nothing' && !this.#isClosed) {
      // Where some could not be had there is a gap that nothing newer fills.
      const isAnew = this.#wants === 'all' || this.#newest === null || this.#state.state === 'failed';
      this.#wants = 'nothing';
      try {
        await (isAnew ? this.#bringAll() : this.#bringNewer());
      } catch (fault) {
        if (!this.#isClosed) this.#set({ state: 'failed', fault });
      }
    }
    this.#isAsking = false;
  }

  async #bringAll(): Promise<void> {
    const first = await this.get(FIRST_PAGE);
    if (this.#isClosed) return;
    this.#newest = first.newest;
    this.#set({ ...empty, generation: this.#state.generation + 1 });
    this.#put(first);
    await this.isShown();
    let next = first.next;
    for (let room = MOST - first.rows.length; next !== null && room > 0;) {
      const page: SamplePage = await this.get(`limit=${Math.min(FURTHER, room)}&before=${next}`);
      if (this.#isClosed) return;
      // What is brought anew in a moment is not finished first.
      if (this.#wants === 'all') return;
      this.#put(page);
      next = page.next;
      room -= page.rows.length;
    }
    this.#set({ state: 'all' });
  }

  async #bringNewer(): Promise<void> {
    for (let isMore = true; isMore;) {
      const page = await this.get(`limit=${FURTHER}&since=${this.#newest}`);
      if (this.#isClosed) return;
      this.#newest = page.newest ?? this.#newest;
      this.#put(page);
      isMore = page.next !== null;
    }
    this.#set({ state: 'all', fault: null });
  }

  #put(page: SamplePage): void {
    const { samples, pages } = this.#state;
    // Where nothing came, what is here stays as it is.
    if (page.rows.length === 0 && pages.length > 0) return this.#set({ total: page.total });
    const fresh = page.rows.map((row, at) => new Shelved(samples.length + at, page, row));
    this.#set({ samples: inOrder([...samples, ...fresh]), pages: [...pages, page], total: page.total });
  }

  #set(change: Partial<ShelfState>): void {
    this.#state = { ...this.#state, ...change };
    for (const listener of this.#listeners) listener();
  }
}

/** The newest first, variants last; those of one moment as they were. */
const inOrder = (samples: Shelved[]): Shelved[] =>
  samples.sort(
    (a, b) =>
      Number(a.isVariant) - Number(b.isVariant) ||
      (a.receivedAt < b.receivedAt ? 1 : a.receivedAt > b.receivedAt ? -1 : 0),
  );
