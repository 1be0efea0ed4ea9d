import type { ChangeTouch, ChangeView } from '@grammata/contract';
import { placeChanged } from '@grammata/core/drift';

/** A change with all that it touches, and the identifiers of those that are one with it. */
export interface CauseView extends ChangeView {
  ids: string[];
}

const order: ChangeTouch['touch'][] = ['breaks', 'risks', 'harmless'];

/**
 * Changes as they are listed: those that are one cause are one entry, with all operations and routes, and are settled at once. It stands where the first
 * of them stood.
 */
export function causesOf(changes: readonly ChangeView[]): CauseView[] {
  const found = new Map<string, ChangeView[]>();
  for (const each of changes) found.set(each.cause, [...(found.get(each.cause) ?? []), each]);
  return [...found.values()].map(all => {
    const worst = all.toSorted((one, other) => order.indexOf(one.touch) - order.indexOf(other.touch))[0]!;
    if (all.length === 1) return { ...worst, ids: [worst.id] };
    const operations = [...new Set(all.flatMap(each => each.operation ?? []))];
    return {
      ...worst,
      ...placeOf(all),
      ids: all.map(each => each.id),
      operation: operations.join(', '),
      touches: touchesOf([worst, ...all.filter(each => each !== worst)]),
    };
  });
}

/** Of operations that moved the path that they have in common; of fields that were renamed with the one that they stand in, that one. */
function placeOf(all: readonly ChangeView[]): Partial<ChangeView> {
  const [first] = all;
  const place = placeChanged({ ...first!, was: first!.was, now: first!.now });
  if (!place) return {};
  if (first!.field === null) return { was: place.was, now: place.now };
  return all.every(each => each.field === first!.field) ? {} : { field: place.was, now: place.now };
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
