import { asText, type Submission } from '../../submission';
import type { FormChange } from './forms';
import { groupOf } from './writing';

/** How often it has to be seen again, at least. */
const LEAST_AGAIN = 2;
/** Least share of how often it was seen before with which it is seen since it came back: stragglers of an earlier form are fewer. */
const SHARE_AGAIN = 0.5;

/** Whether a submission shows what a change says is not there any more; null where it says nothing of that, or such a change is never taken back. */
function shows({ change, question, was }: FormChange, { questions, fields, files }: Submission): boolean | null {
  const field = fields.find(each => each.key === question);
  switch (change) {
    case 'gone':
      return (
        field !== undefined ||
        questions.some(each => each.key === question) ||
        files.some(each => each.field === question)
      );
    case 'option-gone':
    case 'option-renamed': {
      const stated = questions.find(each => each.key === question)?.options;
      if (stated?.some(each => each.label === asText(was ?? null))) return true;
      if (!field) return null;
      const chosen = Array.isArray(field.value) ? field.value : [field.value];
      return chosen.some(each => asText(each).trim() === asText(was ?? null));
    }
    case 'kind':
      return field ? groupOf(field.kind, field.value) === was : null;
    default:
      return null;
  }
}

/**
 * Whether a form does again what a change says it does not any more: a question is asked again, an option is chosen again, answers are of the
 * kind that they were.
 * @param before submissions from before the change
 * @param since those since then, the newest first
 */
export function isTakenBack(change: FormChange, before: readonly Submission[], since: readonly Submission[]): boolean {
  const seenIn = (of: readonly Submission[]) => of.map(each => shows(change, each)).filter(each => each !== null);
  const all = seenIn(since);
  const again = all.slice(0, all.lastIndexOf(true) + 1);
  const usual = seenIn(before);
  const rateOf = (of: readonly boolean[]) => of.filter(Boolean).length / of.length;
  if (again.filter(Boolean).length < LEAST_AGAIN) return false;
  return rateOf(again) >= SHARE_AGAIN * (usual.length > 0 ? rateOf(usual) : 1);
}
