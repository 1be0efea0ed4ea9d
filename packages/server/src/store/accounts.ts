import { createHash, randomBytes } from 'node:crypto';
import { and, count, eq, gt, lte, sql } from 'drizzle-orm';
import { now } from '../clock';
import { newId } from '../ids';
import type { Database } from './database';
import { sessions, users } from './schema';

export type Account = typeof users.$inferSelect;

const hashOf = (token: string) => createHash('sha256').update(token).digest('hex');

/** Every request asks for it. */
const bySession = (db: Database) =>
  db
    .select({ user: users })
    .from(sessions)
    .innerJoin(users, eq(users.id, sessions.userId))
    .where(and(eq(sessions.tokenHash, sql.placeholder('tokenHash')), gt(sessions.expiresAt, sql.placeholder('at'))))
    .prepare();

/** People and their sessions. */
export class Accounts {
  readonly #bySession: ReturnType<typeof bySession>;

  constructor(private readonly db: Database) {
    this.#bySession = bySession(db);
  }

  isEmpty(): boolean {
    return this.db.select({ n: count() }).from(users).get()!.n === 0;
  }

  owner(): Account | undefined {
    return this.db.select().from(users).where(eq(users.role, 'owner')).get();
  }

  /** Makes the owner's account. Null when there is one already. */
  createOwner(name: string, passwordHash: string): Account | null {
    return this.db.transaction(tx => {
      if (tx.select({ n: count() }).from(users).get()!.n > 0) return null;
      return tx
        .insert(users)
        .values({ id: newId(), name, role: 'owner', passwordHash, createdAt: now() })
        .returning()
        .get();
    });
  }

  /** Opens a session and gives back its token, which is kept only as a hash. */
  openSession(userId: string, lifetime: number): string {
    const token = randomBytes(32).toString('base64url');
    this.db
      .insert(sessions)
      .values({ tokenHash: hashOf(token), userId, expiresAt: now() + lifetime })
      .run();
    return token;
  }

  bySession(token: string): Account | null {
    return this.#bySession.get({ tokenHash: hashOf(token), at: now() })?.user ?? null;
  }

  /** Forgets sessions whose time is over. */
  purgeSessions(): void {
    this.db.delete(sessions).where(lte(sessions.expiresAt, now())).run();
  }

  closeSession(token: string): void {
    this.db
      .delete(sessions)
      .where(eq(sessions.tokenHash, hashOf(token)))
      .run();
  }
}
