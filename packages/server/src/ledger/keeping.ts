import { UNNAMED_FORM, type FormRow } from '../store';
import type { Commands, Removed } from './commands';
import type { Desk } from './desk';
import { listOf } from './statements';

/** Arrivals that may go: nothing of them is kept, named, or not yet delivered. */
const MAY_GO = `a.state NOT IN ('waiting', 'reading')
  AND NOT EXISTS (SELECT 1 FROM submissions s WHERE s.arrival_id = a.id AND (s.kept OR s.name IS NOT NULL))
  AND NOT EXISTS (SELECT 1 FROM submissions s JOIN deliveries d ON d.submission_id = s.id
    WHERE s.arrival_id = a.id AND d.state IN ('waiting', 'sending', 'held', 'dead'))`;

/** What is removed, forgotten and told of what is kept. */
export const keeping = (
  desk: Desk,
): Pick<Commands, 'removeBefore' | 'removeIntake' | 'describeSample' | 'tellSame' | 'putBack'> => {
  const { sql } = desk;
  const remove = (ids: readonly string[]): Removed => {
    const rows = sql.all<{ id: string; aside: number }>(
      `DELETE FROM arrivals WHERE id IN (SELECT value FROM json_each(:ids)) RETURNING id, aside`,
      { ids: listOf(ids) },
    );
    return { count: rows.length, asideIds: rows.filter(each => each.aside === 1).map(each => each.id) };
  };
  return {
    removeBefore({ intakeId, time, most }) {
      const rows = sql.all<{ id: string }>(
        `SELECT a.id FROM arrivals a WHERE a.intake_id = :intakeId AND a.received_at < :time AND ${MAY_GO} LIMIT :most`,
        { intakeId, time, most },
      );
      return remove(rows.map(each => each.id));
    },

    removeIntake({ intakeId, most }) {
      const rows = sql.all<{ id: string }>('SELECT id FROM arrivals WHERE intake_id = :intakeId LIMIT :most', {
        intakeId,
        most,
      });
      if (rows.length < most) desk.forget();
      const removed = remove(rows.map(each => each.id));
      if (rows.length < most) sql.run('DELETE FROM intakes WHERE id = :intakeId', { intakeId });
      return removed;
    },

    describeSample({ id, name, kept }) {
      const rows = sql.all(
        `UPDATE submissions SET name = iif(:named, :name, name), kept = coalesce(:kept, kept) WHERE id = :id RETURNING id`,
        {
          id,
          named: typeof name === 'string' ? 1 : 0,
          name: name?.trim() || null,
          kept: kept === undefined ? null : kept ? 1 : 0,
        },
      );
      return rows.length > 0;
    },

    tellSame({ formId, sameAs }) {
      const form = sql.get<Pick<FormRow, 'key' | 'sameAs'>>(
        'SELECT key, same_as AS sameAs FROM forms WHERE id = :formId',
        { formId },
      );
      if (!form) return;
      desk.forget();
      const given = { formId: form.sameAs ?? formId, to: sameAs ?? formId, key: form.key, unnamed: UNNAMED_FORM };
      const underKey = `coalesce(json_extract(data, '$.form.key'), :unnamed) = :key`;
      sql.run('UPDATE forms SET same_as = :sameAs WHERE id = :formId', { formId, sameAs });
      sql.run(
        `UPDATE arrivals SET form_id = :to WHERE form_id = :formId
         AND id IN (SELECT arrival_id FROM submissions WHERE form_id = :formId AND ${underKey} AND position = 0)`,
        given,
      );
      sql.run(`UPDATE submissions SET form_id = :to WHERE form_id = :formId AND ${underKey}`, given);
    },

    putBack(submissions) {
      const rows = submissions.map(({ id, receivedAt, took }) => [id, receivedAt, took]);
      sql.rows('UPDATE submissions SET received_at = column2 FROM (', rows, ') WHERE submissions.id = column1');
      // Each try stays as long after the first as it was.
      sql.rows(
        `UPDATE attempts SET started_at = started_at + at + 1000
           - (SELECT min(o.started_at) FROM attempts o WHERE o.delivery_id = attempts.delivery_id)
         FROM (SELECT d.id AS moved, column2 AS at FROM (`,
        rows,
        `) JOIN deliveries d ON d.submission_id = column1) WHERE attempts.delivery_id = moved`,
      );
      sql.rows(
        `UPDATE deliveries SET created_at = column2 + 1000, finished_at = iif(finished_at IS NULL, NULL, column2 + 1000 + column3)
         FROM (`,
        rows,
        ') WHERE deliveries.submission_id = column1',
      );
    },
  };
};
