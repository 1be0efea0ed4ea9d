import type { ChangeTouch, ChangeView } from '@grammata/contract';
import { asText } from '@grammata/core/submission';

/** A change with all that it touches, and the identifiers of those that are one with it. */
export interface CauseView extends ChangeView {
  ids: string[];
}

const order: ChangeTouch['touch'][] = ['breaks', 'risks', 'harmless'];

/**
 * Changes as they are listed: what a target changed of one field in several operations at once, or of the path of several, is one entry, with all
 * operations and routes, and is settled at once. It stands where the first of them stood.
 */
export function causesOf(changes: readonly ChangeView[]): CauseView[] {
  const found = new Map<string, ChangeView[]>();
  for (const each of changes) {
    const key = causeOf(each);
    found.set(key, [...(found.get(key) ?? []), each]);
  }
  return [...found.values()].map(all => {
    const worst = all.toSorted((one, other) => order.indexOf(one.touch) - order.indexOf(other.touch))[0]!;
    if (all.length === 1) return { ...worst, ids: [worst.id] };
    const operations = [...new Set(all.flatMap(each => each.operation ?? []))];
    const path = pathOf(worst);
    return {
      ...worst,
      ...(path && { was: path.was, now: path.now }),
      ids: all.map(each => each.id),
      operation: operations.join(', '),
      touches: touchesOf([worst, ...all.filter(each => each !== worst)]),
    };
  });
}

/** The same for what is one cause: one edit of a field, told of each operation that has it, or one path under which several stand. */
function causeOf(each: ChangeView): string {
  const { id, subject, subjectId, change, field, was, now, state, firstAt } = each;
  const path = pathOf(each);
  const told = path ? [path.was, path.now] : [was, now];
  return subject !== 'target' || (field === null && !path)
    ? id
    : JSON.stringify([subjectId, change, field, ...told, state, firstAt.slice(0, 16)]);
}

/** What of the path of an operation that moved is otherwise, up to where both go on alike; null for another method, and for other changes. */
function pathOf({ change, was, now }: ChangeView): { was: string; now: string } | null {
  if (change !== 'operation-moved') return null;
  const [[method, before], [newMethod, after]] = [was, now].map(each => asText(each).split(' ')) as [
    string[],
    string[],
  ];
  if (method !== newMethod || before === undefined || after === undefined) return null;
  const [one, other] = [before.split('/'), after.split('/')];
  while (one.length > 1 && other.length > 1 && one.at(-1) === other.at(-1)) [one.pop(), other.pop()];
  return { was: one.join('/') || '/', now: other.join('/') || '/' };
}

/** What several changes do to each route: as the one does that does the most to it, with what is held for any of them. */
function touchesOf(all: readonly ChangeView[]): ChangeTouch[] {
  const byRoute = new Map<string, ChangeTouch[]>();
  for (const touch of all.flatMap(each => each.touches))
    byRoute.set(touch.routeId, [...(byRoute.get(touch.routeId) ?? []), touch]);
  return [...byRoute.values()].map(touches => ({
    ...touches.toSorted((one, other) => order.indexOf(one.touch) - order.indexOf(other.touch))[0]!,
    deliveries: [...new Set(touches.flatMap(each => each.deliveries))],
    failed: [...new Set(touches.flatMap(each => each.failed))],
  }));
}
