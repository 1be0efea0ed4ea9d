import { aboutSubmission } from '@grammata/core/submission';
import { now } from '../clock';
import { newId } from '../ids';
import type { DeliveryRow } from '../store';
import type { Commands, LeasedDelivery, Settlement } from './commands';
import type { Desk } from './desk';
import { deliveryKey, enqueue, type Enqueued } from './queue';
import { listOf } from './statements';

const DELIVERY = `d.id, d.route_id AS routeId, d.version_id AS versionId, d.submission_id AS submissionId, d.state, d.run,
  d.idempotency_key AS idempotencyKey, d.created_at AS createdAt, d.finished_at AS finishedAt, d.next_attempt_at AS nextAttemptAt,
  d.attempts, d.reason, d.about, d.spent, d.tries, d.lease_owner AS leaseOwner, d.lease_until AS leaseUntil`;

/** What goes out. */
export const sending = (
  desk: Desk,
): Pick<
  Commands,
  | 'lease'
  | 'renew'
  | 'settle'
  | 'reclaim'
  | 'hasten'
  | 'shiftWaiting'
  | 'sendRecorded'
  | 'sendAgain'
  | 'sendAlike'
  | 'queue'
> => {
  const { sql } = desk;
  let turn = 0;
  /** None is always the first to be asked. */
  const inTurn = <T>(all: readonly T[]): T[] => {
    const from = all.length === 0 ? 0 : turn % all.length;
    return [...all.slice(from), ...all.slice(0, from)];
  };
  return {
    lease({ owner, wants, most, until, routeIds }) {
      const at = now();
      turn += 1;
      // Leased by another who did not renew in time. What is one's own is under way, however long that takes.
      sql.run(
        `UPDATE deliveries SET state = 'waiting', lease_owner = NULL, lease_until = NULL, next_attempt_at = :at
         WHERE lease_until IS NOT NULL AND lease_until <= :at AND lease_owner <> :owner`,
        { at, owner },
      );
      const ids: string[] = [];
      for (const { routeIds: of, room } of inTurn(wants)) {
        const wanted = Math.min(most - ids.length, room);
        if (wanted > 0) ids.push(...dueOf(desk, inTurn(of), wanted, at));
      }
      const deliveries = ids.length === 0 ? [] : leased(desk, ids, owner, until);
      return { deliveries, nextAt: nextDue(desk, routeIds) };
    },

    renew({ owner, until }) {
      sql.run(`UPDATE deliveries SET lease_until = :until WHERE lease_owner = :owner AND state = 'sending'`, {
        owner,
        until,
      });
    },

    settle(settlements) {
      const held = sql.rows<{ id: string }>(
        `UPDATE deliveries SET state = column3, reason = column4, attempts = column5, tries = column6, spent = column7,
           next_attempt_at = column8, finished_at = column9, lease_owner = iif(column3 = 'sending', lease_owner, NULL),
           lease_until = iif(column3 = 'sending', lease_until, NULL)
         FROM (`,
        settlements.map(({ id, owner, next }) => [
          id,
          owner,
          next.state,
          next.reason,
          next.attempts,
          next.tries,
          next.spent,
          next.nextAttemptAt,
          next.finishedAt,
        ]),
        `) WHERE deliveries.id = column1 AND deliveries.state = 'sending' AND lease_owner = column2
         RETURNING deliveries.id`,
      );
      const isHeld = new Set(held.map(each => each.id));
      keepAttempts(
        desk,
        settlements.filter(each => isHeld.has(each.id)),
      );
      return settlements.map(each => isHeld.has(each.id));
    },

    reclaim(owner) {
      sql.run(
        `UPDATE deliveries SET state = 'waiting', next_attempt_at = :at, lease_owner = NULL, lease_until = NULL
         WHERE state = 'sending' AND (lease_owner IS NULL OR lease_owner <> :owner)`,
        { owner, at: now() },
      );
    },

    hasten(routeIds) {
      sql.run(
        `UPDATE deliveries SET next_attempt_at = :at WHERE state = 'waiting' AND next_attempt_at > :at
         AND route_id IN (SELECT value FROM json_each(:routeIds))`,
        { at: now(), routeIds: listOf(routeIds) },
      );
    },

    shiftWaiting(by) {
      sql.run(
        `UPDATE deliveries SET next_attempt_at = next_attempt_at + :by WHERE state = 'waiting' AND next_attempt_at > :at`,
        { by, at: now() },
      );
    },

    sendRecorded({ routeId, selection, after, most, again }) {
      const route = desk.live(routeId);
      if (!route) return { isLive: false, looked: 0, before: 0, queued: [], last: after };
      const rows = desk.forms.selected(route.formId, selection, most, after ?? undefined);
      const known = desk.deliveries.lastOf(
        routeId,
        rows.map(each => each.id),
      );
      let before = 0;
      const wanted = rows.flatMap(({ id, data }): Enqueued[] => {
        const last = known.get(id);
        const goes = last ? again && last.state === 'delivered' : route.passes(data);
        if (!goes && last) before += 1;
        const about = aboutSubmission(data);
        return goes
          ? [{ routeId, versionId: route.versionId, submissionId: id, about, run: (last?.run ?? 0) + 1 }]
          : [];
      });
      const last = rows.at(-1);
      return {
        isLive: true,
        looked: rows.length,
        before,
        queued: enqueue(sql, wanted),
        last: last ? { id: last.id, receivedAt: last.receivedAt } : after,
      };
    },

    sendAgain({ ids, states, mapping }) {
      const decided = new Map(Object.entries(states ?? {}));
      const rows = sql.all<DeliveryRow>(
        `SELECT ${DELIVERY} FROM deliveries d WHERE d.id IN (SELECT value FROM json_each(:ids)) ORDER BY d.created_at, d.id`,
        { ids: listOf(ids) },
      );
      return again(
        desk,
        rows.filter(each => !states || decided.get(each.id) === each.state),
        mapping,
      );
    },

    sendAlike({ filter, mapping, after, most }) {
      const rows = desk.deliveries.alike(filter, most, after ?? undefined);
      const last = rows.at(-1);
      return {
        looked: rows.length,
        queued: again(desk, rows, mapping),
        last: last ? { id: last.id, createdAt: last.createdAt } : null,
      };
    },

    queue: deliveries => enqueue(sql, deliveries),
  };
};

/** What is due of some routes, the longest due first. */
function dueOf({ sql }: Desk, routeIds: readonly string[], room: number, at: number): string[] {
  const ids: string[] = [];
  for (const routeId of routeIds) {
    if (ids.length >= room) break;
    const rows = sql.all<{ id: string }>(
      `SELECT id FROM deliveries WHERE route_id = :routeId AND state = 'waiting' AND next_attempt_at <= :at
       ORDER BY next_attempt_at, rowid LIMIT :room`,
      { routeId, at, room: room - ids.length },
    );
    ids.push(...rows.map(each => each.id));
  }
  return ids;
}

function leased({ sql }: Desk, ids: readonly string[], owner: string, until: number): LeasedDelivery[] {
  const given = { ids: listOf(ids) };
  sql.run(
    `UPDATE deliveries SET state = 'sending', lease_owner = :owner, lease_until = :until
     WHERE +state = 'waiting' AND id IN (SELECT value FROM json_each(:ids))`,
    { ...given, owner, until },
  );
  const done = new Map<string, string[]>();
  for (const row of sql.all<{ deliveryId: string; done: string }>(
    `SELECT c.delivery_id AS deliveryId, c.done FROM json_each(:ids) j JOIN calls_done c ON c.delivery_id = j.value ORDER BY c.rowid`,
    given,
  ))
    done.set(row.deliveryId, [...(done.get(row.deliveryId) ?? []), row.done]);
  return sql
    .all<DeliveryRow & { data: string }>(
      `SELECT ${DELIVERY}, s.data FROM json_each(:ids) j JOIN deliveries d ON d.id = j.value
       JOIN submissions s ON s.id = d.submission_id ORDER BY d.next_attempt_at, d.id`,
      given,
    )
    .map(row => ({ ...row, done: done.get(row.id) ?? [] }));
}

function nextDue({ sql }: Desk, routeIds: readonly string[]): number | null {
  return sql.get<{ at: number | null }>(
    `SELECT min(at) AS at FROM (
       SELECT (SELECT min(next_attempt_at) FROM deliveries WHERE route_id = value AND state = 'waiting') AS at
       FROM json_each(:routeIds))`,
    { routeIds: listOf(routeIds) },
  )!.at;
}

function keepAttempts({ sql }: Desk, settlements: readonly Settlement[]): void {
  const attempts = settlements.flatMap(({ attempt }) => attempt ?? []);
  sql.rows(
    `INSERT INTO attempts (id, delivery_id, number, started_at, milliseconds, request, status, response, outcome, message, call_id, item,
       purpose, complaints)`,
    attempts.map(each => [
      newId(each.startedAt),
      each.deliveryId,
      each.number,
      each.startedAt,
      each.milliseconds,
      each.request,
      each.status,
      each.response,
      each.outcome,
      each.message,
      each.callId,
      each.item,
      each.purpose,
      JSON.stringify(each.complaints),
    ]),
  );
  sql.rows(
    'INSERT INTO calls_done (delivery_id, call_id, item, done)',
    settlements.flatMap(({ id, done }) => done.map(each => [id, each.callId, each.item, JSON.stringify(each)])),
    'ON CONFLICT DO UPDATE SET done = excluded.done',
  );
}

/**
 * Sends deliveries again that have ended: what failed waits again at once under its old key, what was delivered goes as a deliberate second
 * one under a key of its own.
 */
function again({ sql }: Desk, rows: readonly DeliveryRow[], mapping: 'then' | 'now') {
  const at = now();
  const routeIds = listOf([...new Set(rows.map(each => each.routeId))]);
  const latest = new Map(
    mapping === 'then'
      ? []
      : sql
          .all<{ routeId: string; id: string }>(
            `SELECT v.route_id AS routeId, v.id FROM json_each(:routeIds) j JOIN versions v ON v.route_id = j.value
               AND v.number = (SELECT max(number) FROM versions WHERE route_id = j.value)`,
            { routeIds },
          )
          .map(row => [row.routeId, row.id] as const),
  );
  const versionOf = (row: DeliveryRow) => latest.get(row.routeId) ?? row.versionId;
  const failed = rows.filter(each => each.state === 'held' || each.state === 'dead');
  sql.rows(
    `UPDATE deliveries SET state = 'waiting', version_id = column3, next_attempt_at = column4, finished_at = NULL, reason = NULL,
       tries = 0, spent = 0
     FROM (`,
    failed.map(row => [row.id, row.state, versionOf(row), at]),
    `) WHERE deliveries.id = column1 AND deliveries.state = column2`,
  );
  const delivered = rows.filter(each => each.state === 'delivered');
  const runs = new Map(
    sql
      .all<{ id: string; run: number }>(
        `SELECT d.id, max(o.run) AS run FROM json_each(:ids) j JOIN deliveries d ON d.id = j.value
         JOIN deliveries o ON o.route_id = d.route_id AND o.submission_id = d.submission_id GROUP BY d.id`,
        { ids: listOf(delivered.map(each => each.id)) },
      )
      .map(row => [row.id, row.run]),
  );
  const once = new Map(
    delivered.map(row => [
      deliveryKey(row.submissionId, row.routeId, 0),
      {
        routeId: row.routeId,
        submissionId: row.submissionId,
        about: row.about,
        versionId: versionOf(row),
        run: (runs.get(row.id) ?? row.run) + 1,
      },
    ]),
  );
  return [...failed.map(({ id, routeId }) => ({ id, routeId })), ...enqueue(sql, [...once.values()])];
}
