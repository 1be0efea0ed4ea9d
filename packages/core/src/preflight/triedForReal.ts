import { defineCheck, fine, stop } from './check';

/** What came back is what was sent, maybe written otherwise. */
const kept = ['same', 'reformatted', 'rounded'];
const remedy = 'Try it for real under What, Run.';

/** Where that is asked for, the draft was tried for real as it stands, and read back without loss. */
export const triedForReal = defineCheck({
  id: 'trial',
  look({ definition, trial }) {
    if (!definition.terms.needsTrial || trial === undefined) return [];
    if (trial === null) return stop('It has to be tried for real as it stands.', remedy);
    if (trial.problems.length > 0) return stop(`The last real try failed: ${trial.problems[0]!.message}`, remedy);
    const compared = trial.done.flatMap(each => each.compared ?? []);
    if (compared.length === 0)
      return stop('The last real try read nothing back.', 'Have a call read back what it stored.');
    const lost = compared.filter(each => !kept.includes(each.verdict)).map(each => each.field);
    return lost.length > 0
      ? stop(`The target did not keep ${lost.join(', ')} as it was sent.`, remedy)
      : fine('It was tried for real as it stands, and read back without loss.');
  },
});
