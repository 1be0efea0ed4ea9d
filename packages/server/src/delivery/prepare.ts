import { compileStages, foresee, type Stage } from '@grammata/core/perform';
import { bodyText, copiesIn } from '@grammata/core/request';
import { callName, targetsOf, type Call, type RouteDefinition } from '@grammata/core/route';
import { fileIndex, type Submission } from '@grammata/core/submission';
import { Problem, type TransformContext } from '@grammata/core/transform';
import { LRUCache } from 'lru-cache';
import type { DeliveryRow, Store, TargetRow, VersionRow } from '../store';

/** Which installation of a target is meant: the real one, or the one to try things on where there is one. */
export type Side = 'live' | 'try';

/** Where a target is and how it is shown who asks. */
export const sideOf = (
  row: TargetRow,
  side: Side,
): Pick<TargetRow, 'baseUrl' | 'auth' | 'secret' | 'patience'> & Partial<Pick<TargetRow, 'id'>> =>
  side === 'try' && row.trySide ? { ...row.trySide, secret: row.trySecret, patience: row.patience } : row;

/** A route compiled for its targets as they are now. */
export interface PreparedRoute {
  stages: Stage[];
  targets: Map<string, TargetRow>;
  /** Any target, for files that are had from it. */
  others: (id: string) => TargetRow | undefined;
  context: TransformContext;
}

/** A delivery ready to be made, or what keeps it. */
export interface Prepared {
  route: PreparedRoute | null;
  data: Submission | null;
  problems: Problem[];
}

/** Makes requests of deliveries: the same plan function that rehearsal uses, on the version the delivery belongs to. */
export class Preparation {
  readonly #routes = new LRUCache<string, PreparedRoute>({ max: 200 });

  constructor(private readonly store: Store) {}

  /** @param given the submission, where it is at hand */
  prepare(delivery: DeliveryRow, given?: Submission): Prepared {
    const version = this.store.routes.version(delivery.versionId);
    const data = given ?? this.store.arrivals.submission(delivery.submissionId)?.data ?? null;
    const route = version && data ? this.route(version.definition, 'live', version) : removed;
    return route instanceof Problem ? { route: null, data, problems: [route] } : { route, data, problems: [] };
  }

  /**
   * Compiles a route: a version for what its targets offered when it went live, once for each address of theirs; a draft for
   * what they offer now.
   */
  route(definition: RouteDefinition, side: Side, version?: VersionRow): PreparedRoute | Problem {
    const { calls, terms } = definition;
    const rows = targetsOf(definition).flatMap(id => this.store.targets.byId(id) ?? []);
    const key = version && `${version.id} ${rows.map(row => `${row.id} ${row.baseUrl}`).join(' ')}`;
    const known = key && this.#routes.get(key);
    if (known) return { ...known, targets: byId(rows) };
    const { snapshots } = this.store;
    const operationsOf = (row: TargetRow) => (version ? snapshots.operations(version.pins[row.id]) : row.operations);
    const stages = compileStages(
      calls,
      rows.map(row => ({
        id: row.id,
        name: row.name,
        baseUrl: sideOf(row, side).baseUrl,
        operations: operationsOf(row),
      })),
    );
    if (stages instanceof Problem) return stages;
    const others = (id: string) => this.store.targets.byId(id);
    const prepared = { stages, targets: byId(rows), others, context: { timeZone: terms.timeZone } };
    if (key) this.#routes.set(key, prepared);
    return prepared;
  }
}

const removed = new Problem('route.target', 'The route’s target was removed.', null);

const byId = (rows: TargetRow[]) => new Map(rows.map(row => [row.id, row]));

/** The places among a submission's files of those that go along with a route's requests, or are copied. */
export function filesNeeded(route: PreparedRoute, data: Submission): number[] {
  const plans = foresee(route.stages, data, route.context).requests.map(each => each.planned.request);
  const along = plans.flatMap(plan => plan.files.map(each => fileIndex(data, each.file)));
  return [
    ...new Set([...along.filter(each => each >= 0), ...plans.flatMap(plan => copiesIn(bodyText(plan) + plan.url))]),
  ];
}

/** The name of a call among others: as people call it, or what its operation does. */
export const callLabel = (call: Call, store: Store): { label: string; targetName: string; addresses: string[] } => {
  const target = store.targets.byId(call.targetId);
  return {
    label: callName(
      call,
      target?.operations.find(each => each.id === call.operationId),
    ),
    targetName: target?.name ?? 'a target that was removed',
    addresses: [target?.baseUrl, target?.trySide?.baseUrl].filter(each => each !== undefined),
  };
};
