import { nameWords, speaksOnlyOf, type Role } from './roles';

/** Words between others that say nothing of what is named. */
const between = new Set(
  'of from the de la le du des da do der die das van het el los a an and und et y am um im vom den op aan w z i do in d l'.split(
    ' ',
  ),
);

/** The words of a name that tell something. */
export const tellingWords = (name: string): string[] => nameWords(name).filter(word => !between.has(word));

/** True when all that a name tells belongs to the roles: `Date of the submission` to time and submission. */
export function tellsOnlyOf(name: string, ...roles: Role[]): boolean {
  const words = tellingWords(name);
  return words.length > 0 && speaksOnlyOf(words.join(' '), ...roles);
}
