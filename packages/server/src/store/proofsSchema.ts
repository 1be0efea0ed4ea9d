import type { Enacted, Loose, RecordedAnswers } from '@grammata/core/proof';
import type { Call } from '@grammata/core/route';
import type { Submission } from '@grammata/core/submission';
import { index, integer, sqliteTable, text } from 'drizzle-orm/sqlite-core';
import type { BatchView } from '@grammata/contract';
import { routes } from './schema';

/** Approved rehearsals: samples, what targets answered, and the requests they must give. */
export const proofs = sqliteTable(
  'proofs',
  {
    id: text().primaryKey(),
    routeId: text()
      .notNull()
      .references(() => routes.id, { onDelete: 'cascade' }),
    /** The sample it was made of; the submission itself is kept beside it, and outlives it. */
    sampleId: text().notNull(),
    name: text().notNull(),
    submission: text({ mode: 'json' }).$type<Submission>().notNull(),
    answers: text({ mode: 'json' }).$type<RecordedAnswers>().notNull(),
    approved: text({ mode: 'json' }).$type<Enacted>().notNull(),
    loose: text({ mode: 'json' }).$type<Loose[]>().notNull(),
    calls: text({ mode: 'json' }).$type<Call[]>().notNull(),
    at: integer().notNull(),
    by: text().notNull(),
  },
  table => [index('proofs_by_route').on(table.routeId, table.at)],
);

/** The last batch of samples that was tried with a route's draft. */
export const batches = sqliteTable('batches', {
  routeId: text()
    .primaryKey()
    .references(() => routes.id, { onDelete: 'cascade' }),
  report: text({ mode: 'json' }).$type<BatchView>().notNull(),
});
