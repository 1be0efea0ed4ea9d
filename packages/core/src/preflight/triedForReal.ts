import { defineCheck, fine, stop } from './check';

/** What came back is what was sent, maybe written otherwise. */
const kept = ['same', 'reformatted', 'rounded'];
const remedy = 'Send a real test under Mapping, Requests.';

/** Where that is asked for, the draft was tried for real as it stands, and read back without loss. */
export const triedForReal = defineCheck({
  id: 'trial',
  look({ definition, trial }) {
    if (!definition.terms.needsTrial || trial === undefined) return [];
    if (trial === null) return stop('This draft needs a real test.', remedy);
    if (trial.problems.length > 0) return stop(`The last real try failed: ${trial.problems[0]!.message}`, remedy);
    const compared = trial.done.flatMap(each => each.compared ?? []);
    if (compared.length === 0) return stop('The last test read nothing back.', 'Switch on read-back for a call.');
    const lost = compared.filter(each => !kept.includes(each.verdict)).map(each => each.field);
    return lost.length > 0
      ? stop(`The target did not store ${lost.join(', ')} as sent.`, remedy)
      : fine('This draft was tested and read back without differences.');
  },
});
