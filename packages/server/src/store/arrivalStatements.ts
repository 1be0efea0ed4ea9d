import { and, asc, eq, getTableColumns, isNull, sql, type Table } from 'drizzle-orm';
import type { Database } from './database';
import { arrivals, forms, submissions } from './schema';

/** A placeholder for every column, by the column's name. */
const allOf = <T extends Table>(table: T) =>
  Object.fromEntries(Object.keys(getTableColumns(table)).map(name => [name, sql.placeholder(name)])) as never;

const given = (name: string) => sql`${sql.placeholder(name)}`;

/** The statements that run for every request that comes, made once. On one connection they belong to whatever transaction is open. */
export const arrivalStatements = (db: Database) => ({
  insertArrival: db.insert(arrivals).values(allOf(arrivals)).prepare(),
  unread: db
    .select()
    .from(arrivals)
    .where(eq(arrivals.state, 'waiting'))
    .orderBy(asc(arrivals.receivedAt))
    .limit(sql.placeholder('limit'))
    .prepare(),
  setReading: db
    .update(arrivals)
    .set({ state: given('state') as never, trouble: given('trouble') })
    .where(eq(arrivals.id, sql.placeholder('id')))
    .prepare(),
  formByKey: db
    .select()
    .from(forms)
    .where(and(eq(forms.intakeId, sql.placeholder('intakeId')), eq(forms.key, sql.placeholder('key'))))
    .prepare(),
  setSchema: db
    .update(forms)
    .set({ schema: given('schema') as never, lastAt: given('lastAt') })
    .where(eq(forms.id, sql.placeholder('id')))
    .prepare(),
  firstByBuilderId: db
    .select({ id: submissions.id })
    .from(submissions)
    .where(
      and(
        eq(submissions.formId, sql.placeholder('formId')),
        eq(submissions.builderId, sql.placeholder('builderId')),
        isNull(submissions.repeatOf),
      ),
    )
    .prepare(),
  insertSubmission: db.insert(submissions).values(allOf(submissions)).prepare(),
});
