import { blob, integer, primaryKey, sqliteTable, text, type AnySQLiteColumn } from 'drizzle-orm/sqlite-core';
import { arrivals, intakes, submissions } from './schema';

// Tables that the ledger alone writes, beside those of arrivals, submissions and deliveries.

/** Bodies of arrivals, apart from the rows that are listed. */
export const arrivalBodies = sqliteTable('arrival_bodies', {
  arrivalId: text()
    .primaryKey()
    .references((): AnySQLiteColumn => arrivals.id, { onDelete: 'cascade' }),
  body: blob({ mode: 'buffer' }).notNull(),
});

/**
 * Digests of what was seen at an intake, with the submission that came first. They stay when its content is deleted, so that
 * what was seen is not delivered again.
 */
export const seen = sqliteTable(
  'seen',
  {
    intakeId: text()
      .notNull()
      .references((): AnySQLiteColumn => intakes.id, { onDelete: 'cascade' }),
    print: text().notNull(),
    submissionId: text().notNull(),
    at: integer().notNull(),
  },
  table => [primaryKey({ columns: [table.intakeId, table.print] })],
);

/** What the ledger keeps of its own state: which data of an earlier version is carried over. */
export const ledgerState = sqliteTable('ledger_state', { name: text().primaryKey(), value: text().notNull() });

/**
 * The number under which a submission's words stand in the full-text index `submission_words` (FTS5). Numbers grow: the newest
 * are found first.
 */
export const submissionNumbers = sqliteTable('submission_numbers', {
  number: integer().primaryKey({ autoIncrement: true }),
  submissionId: text()
    .notNull()
    .unique()
    .references((): AnySQLiteColumn => submissions.id, { onDelete: 'cascade' }),
});
