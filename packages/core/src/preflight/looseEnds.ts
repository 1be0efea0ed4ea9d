import { defineCheck } from './check';
import { aboutLines, filledLines } from './lineFindings';

/** No line is left over whose field the target does not have any more: nothing would be sent of it. */
export const looseEnds = defineCheck({
  id: 'loose',
  look: seen =>
    aboutLines(
      'look',
      filledLines(seen).filter(({ operation, line }) => !operation.fields.some(field => field.key === line.to)),
      names => `${names}: no longer a field of the target, so not sent.`,
      'Move the line to another field, or remove it.',
    ),
});
