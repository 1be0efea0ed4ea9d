import { BetterSQLiteSession } from 'drizzle-orm/better-sqlite3/session';
import { extractTablesRelationalConfig, createTableRelationsHelpers } from 'drizzle-orm/relations';
import { readMigrationFiles } from 'drizzle-orm/migrator';
import { BaseSQLiteDatabase } from 'drizzle-orm/sqlite-core/db';
import { SQLiteSyncDialect } from 'drizzle-orm/sqlite-core/dialect';
import Libsql from 'libsql';
import * as schema from './schema';

export type Database = BaseSQLiteDatabase<'sync', unknown, typeof schema>;

/** A connection without Drizzle, for statements that it can't write. */
export type RawConnection = Pick<Libsql.Database, 'prepare' | 'exec' | 'pragma' | 'inTransaction'>;

/** Lets one connection have the database before another (see `ledger/gate`). */
export interface Turnstile {
  enter(): void;
  leave(): void;
}

export interface OpenDatabase {
  db: Database;
  client: RawConnection;
  close(): void;
}

const writes = /^\s*(insert|update|delete|replace)\b/i;

/**
 * Gives a connection transactions that tell what went wrong. SQLite rolls back by itself when the disk is full or can't be
 * read (“Response To Errors Within A Transaction”); rolling back once more then fails, and would hide why. A transaction is
 * one that writes from its beginning: another connection can't come between what it reads and what it writes.
 */
function withPlainTransactions(client: Libsql.Database, turnstile: Turnstile): Libsql.Database {
  const run =
    (begin: string, work: (...args: unknown[]) => unknown) =>
    (...args: unknown[]): unknown => {
      // One in another is a part of it, that fails on its own.
      const isPart = client.inTransaction;
      if (!isPart) turnstile.enter();
      try {
        client.exec(isPart ? 'SAVEPOINT part' : begin);
        const result = work(...args);
        client.exec(isPart ? 'RELEASE part' : 'COMMIT');
        return result;
      } catch (error) {
        if (client.inTransaction) client.exec(isPart ? 'ROLLBACK TO part; RELEASE part' : 'ROLLBACK');
        throw error;
      } finally {
        if (!isPart) turnstile.leave();
      }
    };
  const transaction = (work: (...args: unknown[]) => unknown) =>
    Object.assign(run('BEGIN IMMEDIATE', work), {
      deferred: run('BEGIN IMMEDIATE', work),
      immediate: run('BEGIN IMMEDIATE', work),
      exclusive: run('BEGIN EXCLUSIVE', work),
    });
  const plain = client.prepare.bind(client);
  const prepare = (text: string) => {
    const statement = plain(text);
    if (!writes.test(text)) return statement;
    for (const name of ['run', 'get', 'all'] as const) {
      const act = statement[name].bind(statement) as (...args: unknown[]) => unknown;
      const inTurn = (...args: unknown[]) => {
        if (client.inTransaction) return act(...args);
        turnstile.enter();
        try {
          return act(...args);
        } finally {
          turnstile.leave();
        }
      };
      Object.assign(statement, { [name]: inTurn });
    }
    return statement;
  };
  return Object.assign(client, { transaction, prepare });
}

const open: Turnstile = { enter: () => undefined, leave: () => undefined };

/**
 * Opens the database file, making it and bringing it up to date when needed. Durable: what a transaction committed
 * outlives a crash of the machine.
 * @param file path, or `:memory:`
 * @param migrations folder of the generated migrations; null where another connection has seen to them
 * @param turnstile passed before each write
 */
export function openDatabase(file: string, migrations: string | null, turnstile: Turnstile = open): OpenDatabase {
  const client = withPlainTransactions(new Libsql(file), turnstile);
  for (const pragma of ['journal_mode = WAL', 'synchronous = FULL', 'foreign_keys = ON', 'busy_timeout = 5000'])
    client.pragma(pragma);
  const dialect = new SQLiteSyncDialect({ casing: 'snake_case' });
  const tables = extractTablesRelationalConfig(schema, createTableRelationsHelpers);
  const relational = { fullSchema: schema, schema: tables.tables, tableNamesMap: tables.tableNamesMap };
  const session = new BetterSQLiteSession(client as never, dialect, relational as never, {});
  const db = new BaseSQLiteDatabase('sync', dialect, session as never, relational as never) as unknown as Database;
  if (migrations !== null) dialect.migrate(readMigrationFiles({ migrationsFolder: migrations }), session as never);
  return { db, client, close: () => client.close() };
}
