import { createHash } from 'node:crypto';
import { aboutSubmission, asText, canonical, upToFirst, type Json, type Submission } from '@grammata/core/submission';
import type { ReadSubmission } from './tasks';

/** Characters of a submission that are looked through. */
const MOST_SEARCHED = 8000;

/** Everything a person may look for in a submission: its answers, the names of its files, its identifier. */
export const wordsOfSubmission = ({ id, fields, files }: Submission): string =>
  [id, ...fields.map(field => asText(field.value)), ...files.map(file => file.name)]
    .filter(Boolean)
    .join('\n')
    .slice(0, MOST_SEARCHED);

const digestOf = (text: string): string => createHash('sha256').update(text).digest('base64url').slice(0, 22);

/** A digest of what a submission says, its files too: the same for those that say the same, in whatever order. */
export const contentOf = ({ fields, files }: Pick<Submission, 'fields' | 'files'>): string =>
  digestOf(
    canonical([
      [...fields].sort((a, b) => (a.key < b.key ? -1 : 1)).map(({ key, value }) => [key, value]),
      files.map(({ field, name, size, url }) => [field, name, size, url && upToFirst(url, '?')]),
    ]),
  );

/** A submission as it is stored. @param item the item of a list that it was read from, where it is one of several */
export const readSubmission = (submission: Submission, item: Json | undefined): ReadSubmission => ({
  form: submission.form,
  id: submission.id,
  content: contentOf(submission),
  item: item === undefined ? null : digestOf(canonical(item)),
  about: aboutSubmission(submission),
  words: wordsOfSubmission(submission),
  data: JSON.stringify(submission),
});
