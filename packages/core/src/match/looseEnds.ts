import { distance } from 'fastest-levenshtein';
import type { FieldSchema } from '../schema';
import type { TargetField } from '../target';
import { transforms } from '../transform';
import { match } from './match';

/** How many of the newest submissions must not ask a question for it to count as gone. */
const NEWEST = 10;

/**
 * True for a question that was asked once and that none of the newest submissions asks any more.
 * @param times when those came, in ms since the epoch, the newest first
 */
export const isGone = ({ lastAt }: Pick<FieldSchema, 'lastAt'>, times: readonly number[]): boolean =>
  times.length > NEWEST && lastAt < times[NEWEST - 1]!;

/** Where a line for a field that is gone could go: the likeliest of the fields that nothing fills, or null. */
export function homeForField(to: string, free: TargetField[]): TargetField | null {
  const [line] = match(
    free.map(({ key, label }) => ({ key, label })),
    [{ key: to }],
  );
  return free.find(each => each.key === line?.from) ?? nearest(to, free, field => field.key);
}

/** The question that most likely took the place of one that is gone, among those that nothing uses; or null. */
export function homeForQuestion(key: string, label: string, free: FieldSchema[]): FieldSchema | null {
  const [line] = match(free, [{ key, ...(label === key ? {} : { label }) }]);
  return free.find(each => each.key === line?.from) ?? nearest(label, free, field => field.label);
}

/** The step whose identifier is most like one that is not known, or null. */
export const homeForStep = (id: string): string | null => nearest(id, transforms, each => each.id)?.id ?? null;

/** Most of the letters the same: what is left of a name after a small change. */
function nearest<T>(name: string, candidates: readonly T[], nameOf: (candidate: T) => string): T | null {
  const plain = (text: string) => text.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, '');
  const ranked = candidates
    .map(candidate => {
      const [a, b] = [plain(name), plain(nameOf(candidate))];
      return { candidate, alike: 1 - distance(a, b) / Math.max(1, a.length, b.length) };
    })
    .sort((a, b) => b.alike - a.alike);
  return ranked[0] && ranked[0].alike >= 0.7 ? ranked[0].candidate : null;
}
