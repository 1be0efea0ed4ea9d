import { missingFrom } from '../request';
import { defineCheck, fine, operationOf, stop } from './check';

/** Every field that a target requires has a line that fills it. */
export const requiredFilled = defineCheck({
  id: 'required',
  look(seen) {
    const missing = seen.definition.calls.flatMap(call => {
      const operation = operationOf(seen, call, call.operationId);
      return operation ? missingFrom(call, operation).map(field => field.key) : [];
    });
    return missing.length > 0
      ? stop(`Required fields missing: ${missing.join(', ')}.`, 'Choose a source for each under Mapping.')
      : fine('All required fields have a source.');
  },
});
