import type { ConnectionView } from '@grammata/contract';
import { now } from '../clock';
import type { Services } from '../services';
import type { TargetRow } from '../store';
import { connect } from './connection';

/** Reads a target's tables and columns and keeps them; a failed reading keeps the old ones and says why. */
export async function readTarget(
  { store, outward, authorizations, postman, live }: Services,
  row: TargetRow,
): Promise<{ view: ConnectionView; stored: TargetRow }> {
  const { view, operations } = await connect(row, outward, authorizations, postman);
  const fault = view.ok ? null : `${view.verdict} ${view.advice ?? ''}`.trim();
  const stored = store.targets.update(row.id, operations ? { operations, readAt: now(), fault } : { fault })!;
  live.publish({ type: 'changed', what: 'target', id: row.id });
  return { view, stored };
}
