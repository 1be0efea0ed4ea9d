import { asText, type Submission } from '@grammata/core/submission';
import { sql, type SQL } from 'drizzle-orm';
import { submissionTexts, type deliveries, type submissions } from './schema';

/** Characters of a submission that are looked through. */
const MOST_SEARCHED = 8000;

/** Everything a person may look for in a submission: its answers, the names of its files, its identifier; in small letters. */
export const textOfSubmission = ({ id, fields, files }: Submission): string =>
  [id, ...fields.map(field => asText(field.value)), ...files.map(file => file.name)]
    .filter(Boolean)
    .join('\n')
    .toLowerCase()
    .slice(0, MOST_SEARCHED);

/** The words that are looked for: each has to be there, in any order. */
export const wordsIn = (search: string | undefined): string[] => (search ?? '').split(/\s+/).filter(Boolean);

/** A pattern for `LIKE … ESCAPE '\\'` that matches what holds a text as it stands. */
export const likePattern = (search: string): string =>
  `%${search
    .trim()
    .toLowerCase()
    .replace(/[\\%_]/g, '\\$&')}%`;

/** True where the submission that a column names says a word. */
export const says = (column: typeof submissions.id | typeof deliveries.submissionId, word: string): SQL =>
  sql`${column} in (
    select ${submissionTexts.submissionId} from ${submissionTexts} where ${submissionTexts.text} like ${likePattern(word)} escape '\\')`;
