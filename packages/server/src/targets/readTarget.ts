import type { ConnectionView } from '@grammata/contract';
import { now } from '../clock';
import { offered, sourceOf, takingNames, withEarlierIds, withSource, type Operation } from '@grammata/core/target';
import { isRejecting, keepCredentialsLost, keepCredentialsWork, keepSchemeChange, keepTargetChanges } from '../drift';
import type { Services } from '../services';
import type { TargetRow } from '../store';
import { connect } from './connection';
import { testCredentials } from './testCredentials';

/** Reads a target's tables and columns and keeps them; a failed reading keeps the old ones and says why. */
export async function readTarget(
  services: Services,
  row: TargetRow,
  /** Whether its credentials are tested, too, by a read. */
  tests = false,
): Promise<{ view: ConnectionView; stored: TargetRow }> {
  const { store, outward, authorizations, postman, decoders, live, config } = services;
  const read = await connect(row, outward, authorizations, postman, decoders);
  // Where they were rejected, whether they work now is tested with every reading.
  const tells = config.changesAfter !== null;
  const isTested =
    (tests || (tells && isRejecting(services, row))) && read.view.ok && row.reads !== 'mail' && row.reads !== 'files';
  const { view, operations, recipe } = isTested ? await testCredentials(read, row, outward, authorizations) : read;
  const fault = view.ok ? null : `${view.verdict} ${view.advice ?? ''}`.trim();
  const before = store.targets.byId(row.id) ?? row;
  const stored = store.targets.update(
    row.id,
    operations
      ? {
          ...kept(before, operations),
          servers: read.servers ?? [],
          asksFor: read.asksFor ?? null,
          readAt: now(),
          fault,
          ...(recipe && { recipe }),
        }
      : { fault },
  )!;
  if (tells) {
    if (operations) {
      keepTargetChanges(services, row, stored);
      keepSchemeChange(services, row, stored);
      if (isTested && view.ok && !view.isUntested) keepCredentialsWork(services, row);
    }
    if (!view.ok) keepCredentialsLost(services, row, view.status);
  }
  // That it was read again alone changes nothing for whoever works with it.
  const isOther = before.readAt === null || stored.snapshot !== before.snapshot || stored.fault !== before.fault;
  if (isOther) live.publish({ type: 'changed', what: 'target', id: row.id });
  return { view, stored };
}

/** What was read, under the identifiers that calls know, with what people set of it. */
function kept({ operations, own, takesNames }: TargetRow, read: readonly Operation[]) {
  const meant = takesNames ? read.map(each => ({ ...each, fields: each.fields.map(takingNames) })) : read;
  const known = withEarlierIds(sourceOf(operations, own), meant);
  const set = withSource(own, known);
  return { operations: offered(known, set), own: set };
}
