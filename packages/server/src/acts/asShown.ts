import { createHash } from 'node:crypto';
import { isDeepStrictEqual } from 'node:util';
import type { ShownDraftInput } from '@grammata/contract';
import { HttpProblem } from '../problems';
import type { RouteRow } from '../store';

// What is done is done with what was shown: what somebody else changed meanwhile is not overwritten, sent or made live unseen.

const isObject = (value: unknown): value is object => typeof value === 'object' && value !== null;

/** Parts of a setting that change by themselves, and that nobody set. A map: whoever asks may name anything. */
const byThemselves = new Map([['feed', ['nextAt', 'reading']]]);

function setIn(name: string, value: unknown): unknown {
  const parts = byThemselves.get(name);
  return parts && isObject(value)
    ? Object.fromEntries(Object.entries(value).filter(([part]) => !parts.includes(part)))
    : value;
}

/**
 * Refuses a change of settings that are not as they were shown any more.
 * @param now the settings as they would be shown now
 * @param shown those of them that are changed, as they were shown; left out by who was shown none
 */
export function settingsMustBeAsShown(now: object, shown: unknown): void {
  if (!isObject(shown)) return;
  const current = new Map<string, unknown>(Object.entries(JSON.parse(JSON.stringify(now)) as object));
  const errors = Object.entries(shown).flatMap(([field, value]) => {
    const is = current.get(field);
    if (isDeepStrictEqual(setIn(field, is), setIn(field, value))) return [];
    const words = typeof is === 'string' || typeof is === 'number' ? `: it is now “${is}”` : '';
    return [{ field, message: `Somebody else changed it${words}. Save again to overwrite.` }];
  });
  if (errors.length === 0) return;
  throw new HttpProblem(409, 'Somebody else changed this.', 'Save again to overwrite.', errors);
}

/** Tells what was shown from anything else: the same for the same, in a few characters. */
export const markOf = (shown: unknown): string =>
  createHash('sha256').update(JSON.stringify(shown)).digest('base64url').slice(0, 22);

/**
 * Refuses what is done with something that is not as it was shown any more.
 * @param now what tells it from others: a mark, a version, a time
 * @param shown the same as it was shown; left out by who was shown none
 */
export function mustBeAsShown(now: string | number, shown: string | number | undefined, words: string): void {
  if (shown !== undefined && shown !== now) throw new HttpProblem(409, words, 'Check it, then try again.');
}

/** Refuses what is done with a draft that is not as it was shown any more. */
export function draftMustBeAsShown(route: RouteRow, { revision }: ShownDraftInput): void {
  mustBeAsShown(route.revision, revision, 'This route was edited elsewhere.');
}
