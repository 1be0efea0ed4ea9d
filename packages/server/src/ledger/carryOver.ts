import type { Submission } from '@grammata/core/submission';
import { contentOf } from '../decoding/content';
import type { ArrivalRow, OpenDatabase } from '../store';
import { printsOf } from './prints';
import { Statements } from './statements';

/** Submissions looked at together. */
const PORTION = 1000;

interface Row extends Pick<ArrivalRow, 'method' | 'digest' | 'intakeId'> {
  id: string;
  position: number;
  receivedAt: number;
  builderId: string | null;
  data: string;
}

/**
 * Makes the digests of what a version before has stored: SQL can't. How far it is stands in `ledger_state`, so that what is cut short goes
 * on at the next start.
 */
export function carryOver({ client }: Pick<OpenDatabase, 'client'>): void {
  const sql = new Statements(client);
  const state = sql.get<{ value: string }>(`SELECT value FROM ledger_state WHERE name = 'seen'`);
  if (!state) return;
  for (let after = state.value; ;) {
    const rows = sql.all<Row>(
      `SELECT s.id, s.position, s.received_at AS receivedAt, s.builder_id AS builderId, s.data, a.method, a.digest,
         a.intake_id AS intakeId FROM submissions s JOIN arrivals a ON a.id = s.arrival_id
       WHERE s.repeat_of IS NULL AND s.id > :after ORDER BY s.id LIMIT :most`,
      { after, most: PORTION },
    );
    const seen = rows.flatMap(({ id, intakeId, position, receivedAt, builderId, data, ...arrival }) => {
      const { form, ...said } = JSON.parse(data) as Submission;
      const content = contentOf(said);
      const own = builderId?.startsWith('same:') ? null : builderId;
      const submission = { form, id: own, content, item: null };
      const prints = printsOf(arrival, position, submission, true);
      return prints.map(({ print }) => [intakeId, print, id, receivedAt]);
    });
    client.exec('BEGIN IMMEDIATE');
    sql.rows('INSERT INTO seen (intake_id, print, submission_id, at)', seen, 'ON CONFLICT DO NOTHING');
    after = rows.at(-1)?.id ?? '';
    if (rows.length < PORTION) sql.run(`DELETE FROM ledger_state WHERE name = 'seen'`);
    else sql.run(`UPDATE ledger_state SET value = :after WHERE name = 'seen'`, { after });
    client.exec('COMMIT');
    if (rows.length < PORTION) return;
  }
}
