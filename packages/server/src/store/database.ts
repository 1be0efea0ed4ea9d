import { BetterSQLiteSession } from 'drizzle-orm/better-sqlite3/session';
import { extractTablesRelationalConfig, createTableRelationsHelpers } from 'drizzle-orm/relations';
import { readMigrationFiles } from 'drizzle-orm/migrator';
import { BaseSQLiteDatabase } from 'drizzle-orm/sqlite-core/db';
import { SQLiteSyncDialect } from 'drizzle-orm/sqlite-core/dialect';
import { sql } from 'drizzle-orm';
import Libsql from 'libsql';
import * as schema from './schema';

export type Database = BaseSQLiteDatabase<'sync', unknown, typeof schema>;

/**
 * A transaction that need not be on disk when it returns. What it stores can be made again from what is: a crash of the
 * machine may take it back as a whole, and any later durable transaction makes it last.
 */
export function unhurried<T>(
  db: Database,
  work: (tx: Pick<Database, 'select' | 'insert' | 'update' | 'delete'>) => T,
): T {
  db.run(sql`PRAGMA synchronous = NORMAL`);
  try {
    return db.transaction(work);
  } finally {
    db.run(sql`PRAGMA synchronous = FULL`);
  }
}

export interface OpenDatabase {
  db: Database;
  close(): void;
}

/**
 * Gives a connection transactions that tell what went wrong. SQLite rolls back by itself when the disk is full or can't be
 * read (“Response To Errors Within A Transaction”); rolling back once more then fails, and would hide why.
 */
function withPlainTransactions(client: Libsql.Database): Libsql.Database {
  const run =
    (begin: string, work: (...args: unknown[]) => unknown) =>
    (...args: unknown[]): unknown => {
      // One in another is a part of it, that fails on its own.
      const isPart = client.inTransaction;
      client.exec(isPart ? 'SAVEPOINT part' : begin);
      try {
        const result = work(...args);
        client.exec(isPart ? 'RELEASE part' : 'COMMIT');
        return result;
      } catch (error) {
        if (client.inTransaction) client.exec(isPart ? 'ROLLBACK TO part; RELEASE part' : 'ROLLBACK');
        throw error;
      }
    };
  const transaction = (work: (...args: unknown[]) => unknown) =>
    Object.assign(run('BEGIN', work), {
      deferred: run('BEGIN DEFERRED', work),
      immediate: run('BEGIN IMMEDIATE', work),
      exclusive: run('BEGIN EXCLUSIVE', work),
    });
  return Object.assign(client, { transaction });
}

/**
 * Opens the database file, making it and bringing it up to date when needed. Durable: what a transaction committed
 * outlives a crash of the machine.
 * @param file path, or `:memory:`
 * @param migrations folder of the generated migrations
 */
export function openDatabase(file: string, migrations: string): OpenDatabase {
  const client = withPlainTransactions(new Libsql(file));
  for (const pragma of ['journal_mode = WAL', 'synchronous = FULL', 'foreign_keys = ON', 'busy_timeout = 5000'])
    client.pragma(pragma);
  const dialect = new SQLiteSyncDialect({ casing: 'snake_case' });
  const tables = extractTablesRelationalConfig(schema, createTableRelationsHelpers);
  const relational = { fullSchema: schema, schema: tables.tables, tableNamesMap: tables.tableNamesMap };
  const session = new BetterSQLiteSession(client as never, dialect, relational as never, {});
  const db = new BaseSQLiteDatabase('sync', dialect, session as never, relational as never) as unknown as Database;
  dialect.migrate(readMigrationFiles({ migrationsFolder: migrations }), session as never);
  return { db, close: () => client.close() };
}
