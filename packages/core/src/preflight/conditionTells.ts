import { testsOf } from '../condition';
import { defineCheck, look } from './check';

/** Enough submissions to say that a condition tells nothing apart. */
const ENOUGH = 10;

/** A condition lets some through and others not: one that lets all through may have been meant otherwise. */
export const conditionTells = defineCheck({
  id: 'condition',
  look({ definition, rehearsal }) {
    if (testsOf(definition.condition).length === 0) return [];
    if (!rehearsal || 'fault' in rehearsal || !rehearsal.summary || rehearsal.samples < ENOUGH) return [];
    const { going } = rehearsal.summary;
    return going === rehearsal.samples
      ? look(`All ${going.toLocaleString('en-GB')} past submissions pass the filter.`)
      : [];
  },
});
