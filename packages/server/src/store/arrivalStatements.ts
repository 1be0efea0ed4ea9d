import { and, asc, eq, gt, isNull, sql } from 'drizzle-orm';
import type { Database } from './database';
import { allOf, given } from './placeholders';
import { arrivals, forms, submissions, submissionTexts } from './schema';

/** Submissions of one identifier that a new one is held against. */
const MOST_ALIKE = 50;

/** The statements that run for every request that comes, made once. On one connection they belong to whatever transaction is open. */
export const arrivalStatements = (db: Database) => ({
  insertArrival: db.insert(arrivals).values(allOf(arrivals)).prepare(),
  unread: db
    .select()
    .from(arrivals)
    .where(and(eq(arrivals.state, 'waiting'), eq(arrivals.tries, 0)))
    .orderBy(asc(arrivals.receivedAt))
    .limit(sql.placeholder('limit'))
    .prepare(),
  suspect: db
    .select()
    .from(arrivals)
    .where(and(eq(arrivals.state, 'waiting'), gt(arrivals.tries, 0)))
    .orderBy(asc(arrivals.receivedAt))
    .limit(1)
    .prepare(),
  setState: db
    .update(arrivals)
    .set({ state: given('state') })
    .where(eq(arrivals.id, sql.placeholder('id')))
    .prepare(),
  setSummary: db
    .update(arrivals)
    .set({
      found: given('found'),
      repeats: given('repeats'),
      formId: given('formId'),
      about: given('about'),
    })
    .where(eq(arrivals.id, sql.placeholder('id')))
    .prepare(),
  addToSummary: db
    .update(arrivals)
    .set({ found: sql`found + ${sql.placeholder('found')}`, repeats: sql`repeats + ${sql.placeholder('repeats')}` })
    .where(eq(arrivals.id, sql.placeholder('id')))
    .prepare(),
  setReading: db
    .update(arrivals)
    .set({ state: given('state'), trouble: given('trouble'), unsure: given('unsure'), way: given('way') })
    .where(eq(arrivals.id, sql.placeholder('id')))
    .prepare(),
  formByKey: db
    .select()
    .from(forms)
    .where(and(eq(forms.intakeId, sql.placeholder('intakeId')), eq(forms.key, sql.placeholder('key'))))
    .prepare(),
  formById: db
    .select()
    .from(forms)
    .where(eq(forms.id, sql.placeholder('id')))
    .prepare(),
  setLastAt: db
    .update(forms)
    .set({ lastAt: given('lastAt') })
    .where(eq(forms.id, sql.placeholder('id')))
    .prepare(),
  /** Those that came first under an identifier: several, where it tells submissions apart that say something else. */
  firstByBuilderId: db
    .select({ id: submissions.id, arrivalId: submissions.arrivalId, data: submissions.data })
    .from(submissions)
    .where(
      and(
        eq(submissions.formId, sql.placeholder('formId')),
        eq(submissions.builderId, sql.placeholder('builderId')),
        isNull(submissions.repeatOf),
      ),
    )
    .orderBy(asc(submissions.receivedAt), asc(submissions.position))
    .limit(MOST_ALIKE)
    .prepare(),
  submission: db
    .select()
    .from(submissions)
    .where(eq(submissions.id, sql.placeholder('id')))
    .prepare(),
  setText: db
    .insert(submissionTexts)
    .values(allOf(submissionTexts))
    .onConflictDoUpdate({ target: submissionTexts.submissionId, set: { text: sql`excluded.text` } })
    .prepare(),
  insertSubmission: db.insert(submissions).values(allOf(submissions)).prepare(),
});
