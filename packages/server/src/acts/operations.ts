import type { OperationInput } from '@grammata/contract';
import {
  offered,
  operationFaults,
  sourceOf,
  withSource,
  type Operation,
  type OwnOperation,
} from '@grammata/core/target';
import { operationsUsed } from '@grammata/core/route';
import { labelFromKey } from '@grammata/core/submission';
import { fieldFault, fieldFaults, HttpProblem, notFound } from '../problems';
import { newId } from '../ids';
import type { Services } from '../services';
import type { TargetRow } from '../store';
import type { Actor } from './actor';

type Parts = Pick<Services, 'store' | 'live' | 'log'>;

/** Most operations that people may set on one target. */
const MOST_OWN = 500;

/** Names of the routes whose calls use an operation. */
export const routesUsing = ({ store }: Pick<Services, 'store'>, target: TargetRow, operationId: string): string[] =>
  store.routes
    .all()
    .filter(({ draft }) => operationsUsed(draft, target.id).includes(operationId))
    .map(({ draft }) => draft.name);

/** Sets an operation of a target, or adds one where it has no identifier yet. Throws HttpProblem where it can't be used by a call. */
export function setOperation(parts: Parts, actor: Actor, row: TargetRow, given: OperationInput): Operation {
  if (row.reads === 'mail' || row.reads === 'files')
    throw new HttpProblem(409, 'The operations of this target are fixed.');
  const known = row.operations.find(each => each.id === given.id);
  if (given.id !== '' && !known) throw notFound('operation');
  const operation: Operation = { ...plain(given), id: given.id || `own ${newId()}` };
  const faults = operationFaults(operation);
  if (faults.length > 0) throw fieldFaults(faults.map(({ at, message }) => ({ field: at, message })));
  const before = row.own.find(each => each.id === operation.id);
  const was = before ? before.was : (known ?? null);
  store(parts, actor, row, [...row.own.filter(each => each !== before), { id: operation.id, operation, was }]);
  // Whoever takes away what it answers means what was learned, too.
  if ((operation.answer ?? []).length === 0) parts.store.targets.keepAnswer(row.id, operation.id, undefined);
  return operation;
}

/** Adds the operations that examples show, those that are there already left as they are; gives the new ones. */
export function addOperations(parts: Parts, actor: Actor, row: TargetRow, shown: readonly Operation[]): Operation[] {
  const taken = new Set(row.operations.map(({ method, path }) => `${method} ${path}`));
  const fresh = shown.filter(({ method, path }) => !taken.has(`${method} ${path}`));
  if (fresh.length === 0) throw fieldFault('text', 'All its operations exist already.');
  const added = fresh.map(each => ({ ...each, id: `own ${newId()}` }));
  store(parts, actor, row, [...row.own, ...added.map(operation => ({ id: operation.id, operation, was: null }))]);
  return added;
}

/** Takes an operation away. Throws HttpProblem while a call uses it. */
export function takeAway(parts: Parts, actor: Actor, row: TargetRow, id: string): void {
  const known = row.operations.find(each => each.id === id);
  if (!known) throw notFound('operation');
  const [route] = routesUsing(parts, row, id);
  if (route) throw new HttpProblem(409, `The route “${route}” uses it.`, 'Remove the call from the route first.');
  const before = row.own.find(each => each.id === id);
  const was = before ? before.was : known;
  const others = row.own.filter(each => each !== before);
  store(parts, actor, row, was ? [...others, { id, operation: null, was }] : others);
}

/** Takes an operation as the source says it again. Throws HttpProblem where the source says nothing of it. */
export function asTheSourceSays(parts: Parts, actor: Actor, row: TargetRow, id: string): void {
  if (!row.own.find(each => each.id === id)?.was) throw notFound('operation');
  store(
    parts,
    actor,
    row,
    row.own.filter(each => each.id !== id),
  );
}

function store({ store: { targets }, live, log }: Parts, actor: Actor, row: TargetRow, own: OwnOperation[]): void {
  if (own.length > MOST_OWN) throw new HttpProblem(422, `At most ${MOST_OWN} operations can be added by hand.`);
  const read = sourceOf(row.operations, row.own);
  const set = withSource(own, read);
  targets.update(row.id, { own: set, operations: offered(read, set) });
  live.publish({ type: 'changed', what: 'target', id: row.id });
  log.info({ actor: actor.id, target: row.id }, 'operations of a target were set');
}

/** The same without its class, and without what was left out; a field without a label has that of its name. */
function plain(input: OperationInput): Operation {
  const operation = JSON.parse(JSON.stringify(input)) as Operation;
  return {
    ...operation,
    fields: operation.fields.map(each => ({ ...each, label: each.label.trim() || labelFromKey(each.key) })),
  };
}
