import { isOpen } from '../store';
import type { ClaimedArrival, Commands } from './commands';
import type { Desk } from './desk';
import { storeReadings } from './filing';
import { listOf } from './statements';

/** Ends of the server during which a message may be read, and is read again: most often it is not the message that ended it. */
const MOST_ENDS = 2;

/** What is read of a claimed arrival. */
const CLAIMED = `a.id, a.intake_id AS intakeId, a.received_at AS receivedAt, a.method, a.url, a.content_type AS contentType, a.headers,
  a.size, a.aside, b.body, i.pins, i.reading_revision AS revision
  FROM arrivals a JOIN arrival_bodies b ON b.arrival_id = a.id JOIN intakes i ON i.id = a.intake_id`;

interface ClaimedRow extends Omit<ClaimedArrival, 'headers' | 'pins' | 'aside' | 'body'> {
  headers: string;
  pins: string;
  aside: number;
  body: ArrayBuffer;
}

const claimed = ({ headers, pins, aside, body, ...row }: ClaimedRow): ClaimedArrival => ({
  ...row,
  headers: JSON.parse(headers) as ClaimedArrival['headers'],
  pins: JSON.parse(pins) as ClaimedArrival['pins'],
  aside: aside === 1,
  body: new Uint8Array(body),
});

/** How arrivals come to be read. */
export const reading = (
  desk: Desk,
): Pick<
  Commands,
  'claim' | 'read' | 'release' | 'setAside' | 'readAgain' | 'recover' | 'outdated' | 'leaveOutdated'
> => {
  const { sql } = desk;
  return {
    claim({ lane, most, bytes }) {
      const rows = sql.all<ClaimedRow>(
        `SELECT ${CLAIMED} JOIN (
           SELECT id AS next, size AS own, sum(size) OVER (ORDER BY received_at, id ROWS UNBOUNDED PRECEDING) AS total FROM (
             SELECT id, size, received_at FROM arrivals WHERE state = 'waiting' AND ${isOpen} AND lane = :lane
             ORDER BY received_at, id LIMIT :most)
         ) ON next = a.id AND (total <= :bytes OR total = own) ORDER BY a.received_at, a.id`,
        { lane, most, bytes },
      );
      if (rows.length > 0)
        sql.run(
          `UPDATE arrivals SET state = 'reading' WHERE +state = 'waiting' AND id IN (SELECT value FROM json_each(:ids))`,
          { ids: listOf(rows.map(each => each.id)) },
        );
      return rows.map(claimed);
    },

    read: readings => storeReadings(desk, readings),

    release({ ids, lane }) {
      sql.run(
        `UPDATE arrivals SET state = 'waiting', lane = coalesce(:lane, lane)
         WHERE +state = 'reading' AND id IN (SELECT value FROM json_each(:ids))`,
        { ids: listOf(ids), lane: lane ?? null },
      );
    },

    setAside({ id, trouble }) {
      sql.run(
        `UPDATE arrivals SET state = 'unread', trouble = :trouble, ended = 1 WHERE id = :id AND state = 'reading'`,
        { id, trouble },
      );
    },

    readAgain(id) {
      const rows = sql.all(
        `UPDATE arrivals SET state = 'waiting', lane = 'slow', tries = 0, trouble = NULL, ended = 0
         WHERE id = :id AND state = 'unread' RETURNING id`,
        { id },
      );
      return rows.length > 0;
    },

    recover() {
      const trouble =
        'It was being read each of three times when Grammata ended, and may have ended it. It is read again only when you ask.';
      const aside = sql.all(
        `UPDATE arrivals SET state = 'unread', trouble = :trouble, ended = 1 WHERE state = 'reading' AND ${isOpen} AND tries >= ${MOST_ENDS}
         RETURNING id`,
        { trouble },
      );
      sql.run(
        `UPDATE arrivals SET state = 'waiting', tries = tries + 1, lane = 'slow' WHERE state = 'reading' AND ${isOpen}`,
      );
      return aside.length;
    },

    outdated({ intakeId, most, after }) {
      return sql
        .all<ClaimedRow>(
          `SELECT ${CLAIMED} WHERE a.intake_id = :intakeId AND a.state IN ('read', 'unread')
             AND a.reading_revision < i.reading_revision
             AND (:after IS NULL OR (a.received_at, a.id) > (SELECT received_at, id FROM arrivals WHERE id = :after))
           ORDER BY a.received_at, a.id LIMIT :most`,
          { intakeId, most, after },
        )
        .map(claimed);
    },

    leaveOutdated({ intakeId, id }) {
      sql.run(
        `UPDATE arrivals SET reading_revision = (SELECT reading_revision FROM intakes WHERE id = :intakeId)
         WHERE intake_id = :intakeId AND state IN ('read', 'unread') AND (:id IS NULL OR id = :id)`,
        { intakeId, id: id ?? null },
      );
    },
  };
};
