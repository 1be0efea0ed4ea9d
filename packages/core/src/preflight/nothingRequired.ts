import { callName } from '../route';
import { isWriting, writable } from '../target';
import { defineCheck, look, operationOf } from './check';

/** From so many fields on it is unlikely that a target needs none of them. */
const SEVERAL = 3;

/** An operation says what it needs: one that was described by an example knows no such thing. */
export const nothingRequired = defineCheck({
  id: 'described',
  look(seen) {
    const loose = seen.definition.calls.flatMap(call => {
      const operation = operationOf(seen, call, call.operationId);
      if (!operation || !isWriting(operation) || operation.body === 'mail' || operation.grows !== undefined) return [];
      const fields = writable(operation);
      return fields.length >= SEVERAL && !fields.some(each => each.required) ? [`“${callName(call, operation)}”`] : [];
    });
    return loose.length > 0
      ? look(`Required fields of ${loose.join(', ')} are unknown, so missing values are not noticed.`)
      : [];
  },
});
