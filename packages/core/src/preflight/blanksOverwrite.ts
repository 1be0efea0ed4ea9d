import { defineCheck } from './check';
import { aboutLines, filledLines } from './lineFindings';

/** A blank does not empty what a record that was found has, unless somebody means it. */
export const blanksOverwrite = defineCheck({
  id: 'blanks',
  look: seen =>
    aboutLines(
      'look',
      filledLines(seen).filter(
        ({ call, line }) =>
          call.find?.update &&
          (line.writes ?? 'always') === 'always' &&
          (line.whenBlank === 'null' || line.whenBlank === 'empty'),
      ),
      names => `${names}: a blank answer overwrites the value of an existing record.`,
      'Leave blanks out, or fill only if blank.',
    ),
});
