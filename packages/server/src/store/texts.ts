import { sql, type SQL } from 'drizzle-orm';
import { submissionNumbers } from './ledgerSchema';
import type { deliveries, submissions } from './schema';

/** The words that are looked for: each has to be there, in any order. */
export const wordsIn = (search: string | undefined): string[] => (search ?? '').split(/\s+/).filter(Boolean);

/** A pattern for `LIKE … ESCAPE '\\'` that matches what holds a text as it stands. */
export const likePattern = (search: string): string =>
  `%${search
    .trim()
    .toLowerCase()
    .replace(/[\\%_]/g, '\\$&')}%`;

/**
 * A search as the full-text index takes it (SQLite FTS5, “Full-text Query Syntax”): every word begins one of the submission's. Words are
 * what its tokenizer `unicode61` makes of a text: letters, marks and digits together.
 */
const matchOf = (search: string): string =>
  (search.match(/[\p{L}\p{M}\p{N}\p{Co}]+/gu) ?? []).map(word => `"${word}"*`).join(' AND ');

/** True where the submission that a column names says all words of a search. */
export function says(column: typeof submissions.id | typeof deliveries.submissionId, search: string): SQL {
  const match = matchOf(search);
  // A search without a letter finds nothing: the index has no such words.
  if (match === '') return sql`0`;
  return sql`${column} in (select ${submissionNumbers.submissionId} from ${submissionNumbers}
    where ${submissionNumbers.number} in (select rowid from submission_words where submission_words match ${match}))`;
}
