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
      names => `${names}: a blank answer empties what a record that is found has there.`,
      'Leave blanks out, or fill only what is blank.',
    ),
});
