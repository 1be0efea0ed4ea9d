import { createHash } from 'node:crypto';
import type { Operation } from '@grammata/core/target';
import { eq, like, sql } from 'drizzle-orm';
import { LRUCache } from 'lru-cache';
import { now } from '../clock';
import type { Database } from './database';
import { snapshots, targets, versions } from './schema';

/** Snapshots whose operations are kept at hand, parsed. */
const AT_HAND = 100;

const hashOf = (text: string): string => createHash('sha256').update(text).digest('hex');

/** What targets offered, each state once, under the hash of it. Nothing in one ever changes. */
export class Snapshots {
  readonly #atHand = new LRUCache<string, readonly Operation[]>({ max: AT_HAND });

  constructor(private readonly db: Pick<Database, 'select' | 'insert' | 'delete'>) {}

  /** Keeps what a target offers; gives its hash, the same for the same. */
  keep(operations: readonly Operation[]): string {
    const text = JSON.stringify(operations);
    const hash = hashOf(text);
    this.db
      .insert(snapshots)
      .values({ hash, operations: [...operations], createdAt: now() })
      .onConflictDoNothing()
      .run();
    return hash;
  }

  /** The operations under a hash; none where there is no such snapshot. */
  operations(hash: string | null | undefined): readonly Operation[] {
    if (!hash) return [];
    const known = this.#atHand.get(hash);
    if (known) return known;
    const operations = this.db.select().from(snapshots).where(eq(snapshots.hash, hash)).get()?.operations ?? [];
    this.#atHand.set(hash, operations);
    return operations;
  }

  /** Forgets a snapshot that no target has and no version pins. */
  release(hash: string | null): void {
    if (hash === null) return;
    const isPinned = sql`EXISTS (SELECT 1 FROM ${versions}, json_each(${versions.pins}) pin WHERE pin.value = ${hash})`;
    const isOffered = sql`EXISTS (SELECT 1 FROM ${targets} WHERE ${targets.snapshot} = ${hash})`;
    this.db
      .delete(snapshots)
      .where(sql`${snapshots.hash} = ${hash} AND NOT ${isOffered} AND NOT ${isPinned}`)
      .run();
  }
}

/** What a migration gave to a snapshot in place of its hash, which SQLite has no function for. */
const UNHASHED = 'of target ';

/** Puts the snapshots that a migration made under their hashes. */
export function hashSnapshots(db: Database): void {
  const unhashed = db
    .select()
    .from(snapshots)
    .where(like(snapshots.hash, `${UNHASHED}%`))
    .all();
  if (unhashed.length === 0) return;
  db.transaction(tx => {
    const kept = new Snapshots(tx);
    for (const { hash: before, operations } of unhashed) {
      const hash = kept.keep(operations);
      tx.update(targets).set({ snapshot: hash }).where(eq(targets.snapshot, before)).run();
      for (const { id, pins } of tx.select({ id: versions.id, pins: versions.pins }).from(versions).all()) {
        const hashed = Object.entries(pins).map(([target, pin]) => [target, pin === before ? hash : pin]);
        tx.update(versions)
          .set({ pins: Object.fromEntries(hashed) as Record<string, string> })
          .where(eq(versions.id, id))
          .run();
      }
      tx.delete(snapshots).where(eq(snapshots.hash, before)).run();
    }
  });
}
