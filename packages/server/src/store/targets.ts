import type { Json } from '@grammata/core/submission';
import type { Consent, Operation } from '@grammata/core/target';
import { and, asc, eq, isNull } from 'drizzle-orm';
import { now } from '../clock';
import { newId } from '../ids';
import type { Database } from './database';
import { targets } from './schema';
import type { Snapshots } from './snapshots';

/** A downstream system with what it offers now. */
export type TargetRow = typeof targets.$inferSelect & { readonly operations: readonly Operation[] };

type Values = Partial<Omit<typeof targets.$inferSelect, 'id' | 'snapshot'>> & { operations?: readonly Operation[] };

/** Downstream systems. They are few and asked for at each delivery: all are kept at hand. */
export class Targets {
  readonly #atHand = new Map<string, TargetRow>();

  constructor(
    private readonly db: Database,
    private readonly snapshots: Snapshots,
  ) {}

  /** What is at hand may not be what is stored: after a transaction that failed. */
  forgetAtHand(): void {
    this.#atHand.clear();
  }

  all(): TargetRow[] {
    const ids = this.db.select({ id: targets.id }).from(targets).orderBy(asc(targets.name)).all();
    return ids.flatMap(({ id }) => this.byId(id) ?? []);
  }

  byId(id: string): TargetRow | undefined {
    const known = this.#atHand.get(id);
    if (known) return known;
    const row = this.db.select().from(targets).where(eq(targets.id, id)).get();
    if (!row) return undefined;
    const target = { ...row, operations: this.snapshots.operations(row.snapshot) };
    this.#atHand.set(id, target);
    return target;
  }

  create(
    values: Pick<TargetRow, 'name' | 'baseUrl' | 'discoveryPath' | 'secret'> &
      Partial<
        Pick<
          TargetRow,
          | 'reads'
          | 'auth'
          | 'document'
          | 'recipe'
          | 'patience'
          | 'pace'
          | 'trySide'
          | 'trySecret'
          | 'takesPersonal'
          | 'knowsKeys'
          | 'takesNames'
        >
      >,
  ): TargetRow {
    const id = newId();
    this.db
      .insert(targets)
      .values({ ...values, id, createdAt: now() })
      .run();
    return this.byId(id)!;
  }

  update(id: string, { operations, ...values }: Values): TargetRow | undefined {
    const before = this.byId(id);
    if (!before) return undefined;
    this.db.transaction(tx => {
      const snapshot = operations ? this.snapshots.keep(operations) : before.snapshot;
      tx.update(targets)
        .set({ ...values, snapshot })
        .where(eq(targets.id, id))
        .run();
      if (snapshot !== before.snapshot) this.snapshots.release(before.snapshot);
    });
    this.#atHand.delete(id);
    return this.byId(id);
  }

  /** Keeps what an operation answered, to be shown where the answer is used; undefined forgets it. */
  keepAnswer(id: string, operationId: string, answer: Json | undefined): void {
    const before = this.byId(id)?.answers;
    if (!before || JSON.stringify(before[operationId]) === JSON.stringify(answer)) return;
    const { [operationId]: _before, ...others } = before;
    this.update(id, { answers: answer === undefined ? others : { ...others, [operationId]: answer } });
  }

  /** Keeps a consent where its tokens are still those that were read; false where they are others. */
  keepConsent(id: string, consent: Consent, tokens: Buffer, was: Buffer | null): boolean {
    const isAsRead = was === null ? isNull(targets.consentTokens) : eq(targets.consentTokens, was);
    const kept = this.db
      .update(targets)
      .set({ consent, consentTokens: tokens })
      .where(and(eq(targets.id, id), isAsRead))
      .returning({ id: targets.id })
      .all();
    this.#atHand.delete(id);
    return kept.length > 0;
  }

  remove(id: string): void {
    const before = this.byId(id);
    this.db.delete(targets).where(eq(targets.id, id)).run();
    this.#atHand.delete(id);
    if (before) this.snapshots.release(before.snapshot);
  }
}
