import type { Pins } from '@grammata/core/decode';
import { asc, count, eq, max, sql } from 'drizzle-orm';
import { now } from '../clock';
import { newId, randomPart } from '../ids';
import type { Database } from './database';
import { arrivals, intakes } from './schema';

export type IntakeRow = typeof intakes.$inferSelect;
export type { FeedReading } from './schema';

/** 10 MB: what an intake takes unless told otherwise. */
export const DEFAULT_SIZE_LIMIT = 10_000_000;

/** Where submissions arrive. */
export class Intakes {
  readonly #bySlug = new Map<string, IntakeRow>();
  readonly #pins = new Map<string, Pins>();

  constructor(private readonly db: Database) {
    this.rememberAll();
  }

  /** Has at hand what is stored, and nothing else. */
  rememberAll(): void {
    this.#bySlug.clear();
    this.#pins.clear();
    for (const row of this.all()) this.#remember(row);
  }

  all(): IntakeRow[] {
    return this.db.select().from(intakes).orderBy(asc(intakes.createdAt)).all();
  }

  byId(id: string): IntakeRow | undefined {
    return this.db.select().from(intakes).where(eq(intakes.id, id)).get();
  }

  /** From memory: how its messages are read. */
  pinsOf(id: string): Pins {
    return this.#pins.get(id) ?? {};
  }

  #remember(row: IntakeRow): void {
    this.#bySlug.set(row.slug, row);
    this.#pins.set(row.id, row.pins);
  }

  /** From memory: the way of every arriving submission. */
  bySlug(slug: string): IntakeRow | undefined {
    return this.#bySlug.get(slug);
  }

  create(values: Partial<IntakeRow> & { name: string }): IntakeRow {
    const slug = [4, 4, 4].map(randomPart).join('-');
    const fresh = {
      id: newId(),
      slug,
      state: 'open' as const,
      sizeLimit: DEFAULT_SIZE_LIMIT,
      reply: 'accepted' as const,
      replyText: '',
      createdAt: now(),
    };
    const row = this.db
      .insert(intakes)
      .values({ ...fresh, ...values })
      .returning()
      .get();
    this.#remember(row);
    return row;
  }

  update(id: string, values: Partial<IntakeRow>): IntakeRow | undefined {
    const row = this.db.update(intakes).set(values).where(eq(intakes.id, id)).returning().get();
    if (row) this.#remember(row);
    return row;
  }

  /** Changes how its messages are read: what is read otherwise from then on does not count. */
  setPins(id: string, pins: Pins): IntakeRow | undefined {
    return this.update(id, { pins, readingRevision: sql`${intakes.readingRevision} + 1` as never });
  }

  /** Takes nothing any more: the ledger removes it with all that it has. */
  close(id: string): void {
    const row = this.update(id, { state: 'stopped' });
    if (row) this.#bySlug.delete(row.slug);
    this.#pins.delete(id);
  }

  /** Arrivals and the time of the last, by intake. */
  traffic(): Map<string, { arrivals: number; lastAt: number | null }> {
    const rows = this.db
      .select({ id: arrivals.intakeId, arrivals: count(), lastAt: max(arrivals.receivedAt) })
      .from(arrivals)
      .groupBy(arrivals.intakeId)
      .all();
    return new Map(rows.map(row => [row.id, row]));
  }

  /** Those that take requests. */
  atHand(): IntakeRow[] {
    return [...this.#bySlug.values()];
  }
}
