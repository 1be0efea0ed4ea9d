import type { Json } from './json';
import { answerOf, type Submission } from './submission';

/** What can be said about a submission beside its answers. The key is stored, the label is shown. */
export const aboutSubmission = [
  { key: '@id', label: 'Submission id' },
  { key: '@submittedAt', label: 'Sent at' },
  { key: '@form', label: 'Form' },
  { key: '@formName', label: 'Form name' },
] as const;

const META = '@meta/';

/** The key under which a submission's envelope value of this name is referred to. */
export const metaKey = (name: string): string => META + name;

/** How a reference reads to people, when it is none to a question; undefined for a question's key. */
export const aboutLabel = (key: string): string | undefined =>
  aboutSubmission.find(each => each.key === key)?.label ??
  (key.startsWith(META) ? `${key.slice(META.length)} (envelope)` : undefined);

/**
 * What a stored reference stands for: the answer to the question of this key, or one of {@link aboutSubmission} or an
 * envelope value. A question whose key looks like one of these goes before it. Undefined where nothing was said.
 */
export function referredTo(submission: Submission, key: string): Json | undefined {
  const answer = answerOf(submission, key);
  if (answer !== undefined || !key.startsWith('@')) return answer;
  if (key.startsWith(META)) return submission.meta[key.slice(META.length)];
  const about: Record<string, Json> = {
    '@id': submission.id,
    '@submittedAt': submission.submittedAt,
    '@form': submission.form?.key ?? null,
    '@formName': submission.form?.name ?? null,
  };
  return about[key];
}
