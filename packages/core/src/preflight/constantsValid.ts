import { isBrokenJson } from '../submission';
import { defineCheck } from './check';
import { aboutLines, filledLines } from './lineFindings';

/** A fixed value that begins like an object or a list is one. */
export const constantsValid = defineCheck({
  id: 'constants',
  look: seen =>
    aboutLines(
      'trouble',
      filledLines(seen).filter(
        ({ line: { source, to }, operation }) =>
          source?.from === 'constant' &&
          typeof source.value === 'string' &&
          operation.fields.find(each => each.key === to)?.type === 'json' &&
          isBrokenJson(source.value),
      ),
      names => `${names}: the fixed value is not valid JSON.`,
      'Close every bracket and quote, or write plain words.',
    ),
});
