import { operationChanges, operationName } from '@grammata/core/drift';
import { operationsUsed } from '@grammata/core/route';
import type { Json } from '@grammata/core/submission';
import { schemesMet, schemeWords } from '@grammata/core/target';
import { iso, now } from '../clock';
import type { Services } from '../services';
import type { TargetRow } from '../store';

/** Keeps what a target offers otherwise than when it was read before; the snapshots are kept beside it. */
export function keepTargetChanges(
  { store, live, log }: Pick<Services, 'store' | 'live' | 'log'>,
  before: TargetRow,
  after: TargetRow,
): void {
  if (before.snapshot === null || before.snapshot === after.snapshot) return;
  const operationDifferences = operationChanges(before.operations, after.operations);
  const ids = store.routes
    .all()
    .flatMap(route => [route.draft, store.routes.doing(route).definition])
    .flatMap(definition => operationsUsed(definition, after.id));
  const used = new Set(before.operations.filter(each => ids.includes(each.id)).map(operationName));
  // What is seen at one reading has one time.
  const at = now();
  // A document of hundreds changes all the time: once routes use some of it, what becomes of the others is not told.
  const seen = operationDifferences
    .filter(each => used.has(each.operation) || (used.size === 0 && each.change !== 'operation-added'))
    .map(what => ({
      subject: 'target' as const,
      subjectId: after.id,
      what,
      before: operationNamed(before, what.operation),
      after: null,
      at,
      asBeforeAt: before.readAt,
    }));
  const fresh = store.changes.keep(seen);
  if (fresh.length === 0) return;
  log.info({ target: after.id, changes: fresh.map(each => each.what.change) }, 'a target changed');
  live.publish({ type: 'drift' });
}

/**
 * Keeps that a target's document asks for other credentials than those that it asked for, and that the target has; that is over once the target
 * has what is asked for.
 */
export function keepSchemeChange(
  { store, live, log }: Pick<Services, 'store' | 'live' | 'log'>,
  { id, auth, asksFor }: Pick<TargetRow, 'id' | 'auth' | 'asksFor'>,
  after: Pick<TargetRow, 'asksFor'>,
): void {
  const met = schemesMet(asksFor ?? [], auth);
  const asked = after.asksFor ?? [];
  if (schemesMet(asked, auth).length > 0) {
    const told = store.changes.openOf('target', id).filter(each => each.what.change === 'scheme');
    if (store.changes.over(told.map(each => each.id)).length > 0) live.publish({ type: 'drift' });
    return;
  }
  if (met.length === 0 || asked.length === 0) return;
  const what = { change: 'scheme' as const, operation: null, was: schemeWords(met), now: schemeWords(asked) };
  const seen = { subject: 'target' as const, subjectId: id, what, before: null, after: null, at: now() };
  if (store.changes.keep([seen]).length === 0) return;
  log.info({ target: id }, 'a target asks for other credentials');
  live.publish({ type: 'drift' });
}

/** Keeps that a target does not take its credentials any more, where it took them when it was read before. */
export function keepCredentialsLost(
  { store, live, log }: Pick<Services, 'store' | 'live' | 'log'>,
  { id, readAt, fault }: Pick<TargetRow, 'id' | 'readAt' | 'fault'>,
  status: number | null,
): void {
  if ((status !== 401 && status !== 403) || readAt === null || fault !== null) return;
  const what = { change: 'credentials' as const, operation: null, was: iso(readAt), now: status };
  const seen = { subject: 'target' as const, subjectId: id, what, before: null, after: null, at: now() };
  if (store.changes.keep([seen]).length === 0) return;
  log.info({ target: id, status }, 'a target does not take its credentials any more');
  live.publish({ type: 'drift' });
}

/** Whether it is told of a target that its credentials are rejected. */
export const isRejecting = ({ store }: Pick<Services, 'store'>, { id }: Pick<TargetRow, 'id'>): boolean =>
  rejectionsOf({ store }, id).length > 0;

/** A read was answered with the credentials alone: that they are rejected is over. */
export function keepCredentialsWork(
  { store, live }: Pick<Services, 'store' | 'live'>,
  { id }: Pick<TargetRow, 'id'>,
): void {
  const over = store.changes.over(rejectionsOf({ store }, id).map(each => each.id));
  if (over.length > 0) live.publish({ type: 'drift' });
}

const rejectionsOf = ({ store }: Pick<Services, 'store'>, id: string) =>
  store.changes.openOf('target', id).filter(each => each.what.change === 'credentials');

/** The operation as it was: what lines wrote to, and where, is told by it. */
const operationNamed = ({ operations }: TargetRow, name: string): Json =>
  JSON.parse(JSON.stringify(operations.find(each => operationName(each) === name) ?? null)) as Json;
