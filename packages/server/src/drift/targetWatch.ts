import { operationChanges } from '@grammata/core/drift';
import type { Json } from '@grammata/core/submission';
import type { Operation } from '@grammata/core/target';
import { now } from '../clock';
import type { Services } from '../services';
import type { TargetRow } from '../store';

/** Keeps what a target offers otherwise than when it was read before; the snapshots are kept beside it. */
export function keepTargetChanges(
  { store, live, log }: Pick<Services, 'store' | 'live' | 'log'>,
  before: TargetRow,
  after: TargetRow,
): void {
  if (before.snapshot === null || before.snapshot === after.snapshot) return;
  const told = operationChanges(before.operations, after.operations);
  const used = new Set(
    store.routes
      .all()
      .flatMap(({ draft }) => draft.calls.flatMap(call => (call.targetId === after.id ? namesOf(before, call) : []))),
  );
  // Of operations that no route uses only what goes is told: a document of hundreds changes all the time.
  const seen = told
    .filter(each => used.has(each.operation) || (used.size === 0 && each.change !== 'operation-added'))
    .map(what => ({
      subject: 'target' as const,
      subjectId: after.id,
      what,
      before: operationNamed(before, what.operation),
      after: null,
      at: now(),
    }));
  const fresh = store.changes.keep(seen);
  if (fresh.length === 0) return;
  log.info({ target: after.id, changes: fresh.map(each => each.what.change) }, 'a target changed');
  live.publish({ type: 'drift' });
}

/** The operation as it was: what lines wrote to, and where, is told by it. */
const operationNamed = ({ operations }: TargetRow, name: string): Json =>
  JSON.parse(JSON.stringify(operations.find(each => `${each.method} ${each.path}` === name) ?? null)) as Json;

/** The operations that a call uses, as changes name them. */
const namesOf = (
  { operations }: TargetRow,
  {
    operationId,
    find,
    readBack,
  }: {
    operationId: string;
    find?: { operationId: string; update: { operationId: string } | null } | null;
    readBack?: { operationId: string } | null;
  },
): string[] =>
  [operationId, find?.operationId, find?.update?.operationId, readBack?.operationId].flatMap(id => {
    const operation: Operation | undefined = operations.find(each => each.id === id);
    return operation ? [`${operation.method} ${operation.path}`] : [];
  });
