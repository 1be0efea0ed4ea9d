import { sql, type SQL } from 'drizzle-orm';
import type { SQLiteColumn } from 'drizzle-orm/sqlite-core';
import type { Database } from './database';
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

/** Submissions that hold the words of a search, so many at most are looked through for a list: the newest. */
export const MOST_SEARCHED = 5000;

/** The words of a search as the index has them: its tokenizer `unicode61` takes letters, marks and digits together. */
const indexed = (search: string): string[] => search.match(/[\p{L}\p{M}\p{N}\p{Co}]+/gu) ?? [];

/** What asks the full-text index for all words (SQLite FTS5, “Full-text Query Syntax”), or for what begins with them. */
const matchOf = (words: readonly string[], isBegun: boolean): string =>
  words.map(word => `"${word}"${isBegun ? '*' : ''}`).join(' AND ');

/** True where the submission that a column names says all words of a search, or what begins with them. */
export function says(column: typeof submissions.id | typeof deliveries.submissionId, search: string): SQL {
  const words = indexed(search);
  // A search without a letter finds nothing: the index has no such words.
  if (words.length === 0) return sql`0`;
  return sql`${column} in (select ${submissionNumbers.submissionId} from ${submissionNumbers}
    where ${submissionNumbers.number} in (select rowid from submission_words where submission_words match ${matchOf(words, true)}))`;
}

/** What a list looks through for a search. */
export interface Searched {
  /** Submissions that hold the words, the newest. */
  ids: string[];
  /** How many these are at most, where there are more; null where they are all. */
  searched: number | null;
}

/** The newest submissions that hold the words of a search. Where whole words are held by enough, what only begins with them is left out. */
export function newestThatSay(db: Database, search: string): Searched {
  const words = indexed(search);
  if (words.length === 0) return { ids: [], searched: null };
  // The index is kept in the order of its numbers: the newest are had without looking at the others.
  const ask = (isBegun: boolean) =>
    db
      .all<{ id: string }>(
        sql`select n.submission_id as id from (select rowid as number from submission_words
            where submission_words match ${matchOf(words, isBegun)} order by rowid desc limit ${MOST_SEARCHED + 1}) w
          join submission_numbers n on n.number = w.number`,
      )
      .map(row => row.id);
  const whole = ask(false);
  const ids = whole.length > MOST_SEARCHED ? whole : ask(true);
  return { ids: ids.slice(0, MOST_SEARCHED), searched: ids.length > MOST_SEARCHED ? MOST_SEARCHED : null };
}

/** True where a column holds one of these, however many they are. */
export const isOneOf = (column: SQLiteColumn, ids: readonly string[]): SQL =>
  sql`${column} in (select value from json_each(${JSON.stringify(ids)}))`;
