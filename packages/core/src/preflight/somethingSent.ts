import { callName } from '../route';
import { isWriting, writable } from '../target';
import { defineCheck, operationOf, stop } from './check';

/** Every call that stores something sends something: an example marks nothing as required, and `{}` would be stored as a record. */
export const somethingSent = defineCheck({
  id: 'something',
  look(seen) {
    const empty = seen.definition.calls.flatMap(call => {
      const operation = operationOf(seen, call, call.operationId);
      if (!operation || !isWriting(operation)) return [];
      const inBody = writable(operation).filter(field => !field.in);
      const filled = new Set(call.lines.filter(line => line.source !== null).map(line => line.to));
      const isEmpty = inBody.length > 0 && !inBody.some(field => filled.has(field.key) || field.fixed !== undefined);
      return isEmpty ? [`“${callName(call, operation)}”`] : [];
    });
    return empty.length > 0
      ? stop(
          `${empty.join(', ')} would send nothing: no line has a source.`,
          'Choose a source under Mapping, or remove the call.',
        )
      : [];
  },
});
