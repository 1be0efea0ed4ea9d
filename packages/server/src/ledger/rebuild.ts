import { addedUp, emptySchema, mergeSchema, weeklyFill, type Week } from '@grammata/core/schema';
import type { RawConnection, SubmissionRow } from '../store';
import type { Desk } from './desk';

/** Submissions read at once when all of a form are gone through. */
const PORTION = 200;

/**
 * Makes a form's schema and its weeks anew out of its submissions, a portion a step; a form that nothing belongs to any more goes. What is
 * counted while others go on is counted again at the end: the last portion and the writing are one transaction.
 */
export function* rebuildPortions(client: RawConnection, desk: Desk, formId: string): Generator<void, void> {
  const { sql, forms, questions } = desk;
  let schema = emptySchema;
  let last: SubmissionRow | undefined;
  const weeks = new Map<string, Week>();
  for (;;) {
    const rows = forms.samplesFromOldest(formId, PORTION, last);
    const learned = rows.map(row => ({ submission: row.data, receivedAt: row.receivedAt }));
    schema = mergeSchema(schema, learned);
    for (const each of learned) {
      const [week] = weeklyFill([each]);
      weeks.set(week!.monday, addedUp(weeks.get(week!.monday), week!));
    }
    last = rows.at(-1) ?? last;
    if (rows.length < PORTION) break;
    yield;
  }
  client.exec('BEGIN IMMEDIATE');
  try {
    // What came since the last portion is in here: nothing else writes submissions.
    const isEmpty =
      last === undefined &&
      !sql.get(
        `SELECT 1 FROM forms WHERE (id = :formId AND same_as IS NOT NULL) OR same_as = :formId
         UNION ALL SELECT 1 FROM submissions WHERE form_id = :formId
         UNION ALL SELECT 1 FROM routes WHERE form_id = :formId
         UNION ALL SELECT 1 FROM variants WHERE form_id = :formId LIMIT 1`,
        { formId },
      );
    if (isEmpty) {
      sql.run('DELETE FROM forms WHERE id = :formId', { formId });
      desk.forget();
    } else {
      sql.run('UPDATE forms SET last_at = :lastAt WHERE id = :formId', { formId, lastAt: last?.receivedAt ?? null });
      questions.replace(formId, schema, [...weeks.values()]);
    }
    client.exec('COMMIT');
  } catch (error) {
    if (client.inTransaction) client.exec('ROLLBACK');
    throw error;
  }
}
