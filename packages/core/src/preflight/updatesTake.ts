import { untakenLines } from '../perform';
import { defineCheck, operationOf } from './check';
import { aboutLines, filledLines } from './lineFindings';

/** What is to be written into a record that is found is taken by the operation that updates it. */
export const updatesTake = defineCheck({
  id: 'updates',
  look: seen =>
    seen.definition.calls.flatMap(call => {
      const { find } = call;
      const update = find?.update && operationOf(seen, call, find.update.operationId);
      const main = operationOf(seen, call, call.operationId);
      if (!find || !main || !update) return [];
      const untaken = new Set(untakenLines(call, find, main, update));
      return aboutLines(
        'look',
        filledLines(seen).filter(each => untaken.has(each.line)),
        names => `${names}: not written to an existing record; “${update.label}” has no such field.`,
        'Set them to “do not change” for existing records, or choose another update.',
      );
    }),
});
