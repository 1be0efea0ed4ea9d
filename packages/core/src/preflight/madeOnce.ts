import { callName } from '../route';
import { isWriting } from '../target';
import { defineCheck, operationOf, tell } from './check';

/** Methods of which the same request twice is the same as once (RFC 9110 §9.2.2). */
const idempotent = new Set(['PUT', 'DELETE']);

/** A request whose answer is lost is made again: whoever takes it has to know that it is the same one. */
export const madeOnce = defineCheck({
  id: 'once',
  look(seen) {
    const open = seen.definition.calls.flatMap(call => {
      const operation = operationOf(seen, call, call.operationId);
      if (!operation || !isWriting(operation) || operation.body === 'mail' || operation.grows !== undefined) return [];
      if (
        call.find ||
        idempotent.has(operation.method) ||
        seen.targets.find(each => each.id === call.targetId)?.knowsKeys !== false
      )
        return [];
      return [`“${callName(call, operation)}”`];
    });
    return open.length > 0
      ? tell(
          `${open.join(', ')} may create a record twice if a response is lost: the target is not known to support idempotency keys.`,
          'Find an existing record first, or tick idempotency keys on the target’s page.',
        )
      : [];
  },
});
