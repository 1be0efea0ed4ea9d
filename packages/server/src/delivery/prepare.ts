import type { DraftInput } from '@grammata/contract';
import { compileCall, stoppers, wireText, type CompiledCall, type Planned } from '@grammata/core/request';
import { asText, type Submission } from '@grammata/core/submission';
import type { Credentials } from '@grammata/core/target';
import { Problem } from '@grammata/core/transform';
import type { DeliveryRow, Store, TargetRow } from '../store';

/** A delivery ready to be sent, or what keeps it. */
export interface Prepared {
  target: TargetRow | null;
  planned: Planned | null;
  problems: Problem[];
}

/** Makes requests of deliveries: the same plan function that rehearsal uses, on the version the delivery belongs to. */
export class Preparation {
  readonly #calls = new Map<string, CompiledCall>();

  constructor(private readonly store: Store) {}

  prepare(delivery: DeliveryRow): Prepared {
    const definition = this.store.routes.version(delivery.versionId)?.definition;
    const submission = this.store.arrivals.submission(delivery.submissionId)?.data;
    const target = definition ? this.store.targets.byId(definition.call.targetId) : undefined;
    if (!definition || !submission || !target)
      return {
        target: target ?? null,
        planned: null,
        problems: [new Problem('route.target', 'The route’s target was removed.', null)],
      };
    const call = this.#callFor(delivery.versionId, definition, target);
    if (!call)
      return {
        target,
        planned: null,
        problems: [
          new Problem(
            'route.operation',
            `${target.name} does not offer “${definition.call.operationId}” any more.`,
            null,
          ),
        ],
      };
    const planned = call.plan(submission, { timeZone: definition.terms.timeZone });
    return { target, planned, problems: planned.sendable ? [] : stoppers(planned) };
  }

  /** Compiled once for each version and each reading of the target. */
  #callFor(versionId: string, definition: DraftInput, target: TargetRow): CompiledCall | null {
    const key = `${versionId} ${target.id} ${target.baseUrl} ${target.readAt}`;
    const known = this.#calls.get(key);
    if (known) return known;
    const operation = target.operations.find(each => each.id === definition.call.operationId);
    if (!operation) return null;
    const call = compileCall(definition.call, operation, target.baseUrl);
    if (this.#calls.size > 200) this.#calls.clear();
    this.#calls.set(key, call);
    return call;
  }
}

/** The request as it is recorded: on the wire, with its credentials masked. */
export const recordedRequest = (planned: Planned, idempotencyKey: string, masked: Credentials): string =>
  wireText(planned.request, [...masked.headers, ['idempotency-key', idempotencyKey]], masked.query);

/** A few answers in a line, to tell submissions apart in lists. */
export function aboutSubmission({ fields }: Submission): string {
  const short = fields.map(field => asText(field.value)).filter(text => text.length > 0 && text.length <= 40);
  return short.slice(0, 3).join(' · ') || 'no answers';
}
