import type { ConnectionView } from '@grammata/contract';
import { now } from '../clock';
import { offered, sourceOf, withKnownIds, withSource, type Operation } from '@grammata/core/target';
import { keepCredentialsLost, keepTargetChanges } from '../drift';
import type { Services } from '../services';
import type { TargetRow } from '../store';
import { connect } from './connection';

/** Reads a target's tables and columns and keeps them; a failed reading keeps the old ones and says why. */
export async function readTarget(
  services: Services,
  row: TargetRow,
  reaches = false,
): Promise<{ view: ConnectionView; stored: TargetRow }> {
  const { store, outward, authorizations, postman, decoders, live, config } = services;
  const { view, operations, recipe } = await connect(row, outward, authorizations, postman, decoders, reaches);
  const fault = view.ok ? null : `${view.verdict} ${view.advice ?? ''}`.trim();
  const stored = store.targets.update(
    row.id,
    operations
      ? { ...kept(store.targets.byId(row.id) ?? row, operations), readAt: now(), fault, ...(recipe && { recipe }) }
      : { fault },
  )!;
  if (config.changesAfter !== null) {
    if (operations) keepTargetChanges(services, row, stored);
    else keepCredentialsLost(services, row, view.status);
  }
  live.publish({ type: 'changed', what: 'target', id: row.id });
  return { view, stored };
}

/** What was read, under the identifiers that calls know, with what people set of it. */
function kept({ operations, own }: TargetRow, read: readonly Operation[]) {
  const known = withKnownIds(sourceOf(operations, own), read);
  const set = withSource(own, known);
  return { operations: offered(known, set), own: set };
}
