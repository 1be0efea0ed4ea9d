import { operationsUsed } from '../route';
import { defineCheck, operationOf, stop } from './check';

/** Every operation that a call names is offered by its target. */
export const operationsOffered = defineCheck({
  id: 'operations',
  look(seen) {
    for (const call of seen.definition.calls) {
      const target = seen.targets.find(each => each.id === call.targetId);
      if (!target) return stop('A target of this route was removed.', 'Choose another operation, or remove the call.');
      const gone = operationsUsed({ calls: [call] }, call.targetId).find(id => !operationOf(seen, call, id));
      if (gone !== undefined)
        return stop(
          `${target.name} no longer offers “${gone}”.`,
          'Read the target again, or choose another operation.',
        );
    }
    return [];
  },
});
