import { isBlank, type Json } from '../../submission';
import { filesOf } from '../files';

/** Whether a question asks for files, by its key: what all of its answers say together. Left out where they do not tell. */
export type FilesAsked = Readonly<Record<string, boolean>>;

/** How many answers to a question are files, links that may be some, and anything else. */
export interface FilesSeen {
  files: number;
  links: number;
  others: number;
}

/** What all answers to a question say of whether it asks for files; null where they do not tell. */
export function asksForFiles({ files, links, others }: FilesSeen): boolean | null {
  if (files > 0 && files >= others) return true;
  return files > 0 && others > 2 * (files + links) ? false : null;
}

/** Submissions of a message whose answers are looked at. */
const MOST_LOOKED_AT = 200;

interface Answered {
  key: string;
  value: Json;
  /** What a value is plainly told to be; null where it may be either. */
  isFile: boolean | null;
}

/** What the submissions of one message say of their questions, each over all of its answers. */
export function filesAskedIn<Answer>(
  submissions: readonly (readonly Answer[])[],
  look: (answer: Answer) => Answered | null,
): FilesAsked {
  if (submissions.length < 2) return {};
  const seen = new Map<string, FilesSeen>();
  for (const answers of submissions.slice(0, MOST_LOOKED_AT))
    for (const answer of answers) {
      const told = look(answer);
      if (!told || isBlank(told.value)) continue;
      const counts = seen.get(told.key) ?? { files: 0, links: 0, others: 0 };
      seen.set(told.key, counts);
      if (told.isFile === true) counts.files += 1;
      else if (told.isFile === null && filesOf(told.key, told.value, true)) counts.links += 1;
      else counts.others += 1;
    }
  const asked: Record<string, boolean> = {};
  for (const [key, counts] of seen) {
    const verdict = asksForFiles(counts);
    if (verdict !== null) asked[key] = verdict;
  }
  return asked;
}
