import type { PaceView, Spread } from '@grammata/contract';
import { iso, now } from '../clock';
import type { Services } from '../services';

const DAY = 24 * 3600 * 1000;
const WEEK = 7 * DAY;
/** Weeks whose same day says what is usual, and fewest of them. */
const WEEKS = 4;
const LEAST_WEEKS = 3;
/** Newest deliveries of a route that are looked at, of today and of before. */
const LOOKED = 500;

/** How quickly routes deliver, and how much intakes receive, against what is usual. Days are UTC, as everywhere on the Desk. */
export function paceView({ store }: Pick<Services, 'store'>): PaceView {
  const at = now();
  const today = Math.floor(at / DAY) * DAY;
  const silent = silentIntakes({ store });
  return {
    routes: store.routes
      .all()
      .filter(each => each.state === 'live')
      .map(({ id, draft }) => ({
        routeId: id,
        name: draft.name,
        today: spreadOf(store.deliveries.durations(id, today, today + DAY, LOOKED)),
        usual: spreadOf(store.deliveries.durations(id, 0, today, LOOKED)),
      })),
    intakes: store.intakes
      .all()
      .filter(each => each.state === 'open')
      .map(({ id, name }) => {
        const first = store.arrivals.firstAt(id);
        const before = Array.from({ length: WEEKS }, (_, index) => today - (index + 1) * WEEK)
          .filter(day => first !== null && first <= day)
          .map(day => store.arrivals.countBetween(id, day, day + (at - today)));
        const isKnown = before.length >= LEAST_WEEKS;
        return {
          intakeId: id,
          name,
          today: store.arrivals.countBetween(id, today, today + DAY),
          usual: isKnown ? { least: Math.min(...before), most: Math.max(...before) } : null,
          silentSince: silent.get(id) ?? null,
        };
      }),
  };
}

/** Median and 95th percentile of durations: the smallest value that so many do not exceed; null for none. */
export function spreadOf(durations: readonly number[]): Spread | null {
  if (durations.length === 0) return null;
  // A clock that was set back while it was sent.
  const sorted = durations.map(each => Math.max(0, each)).sort((one, other) => one - other);
  const rank = (share: number) => sorted[Math.ceil(share * sorted.length) - 1]!;
  return { count: sorted.length, median: rank(0.5), p95: rank(0.95) };
}

/** Intakes with a form that fell silent, and since when. */
function silentIntakes({ store }: Pick<Services, 'store'>): Map<string, string> {
  const found = new Map<string, string>();
  for (const { form } of store.forms.heads())
    for (const { what, firstAt } of store.changes.openOf('form', form.id))
      if (what.change === 'silent') found.set(form.intakeId, typeof what.was === 'string' ? what.was : iso(firstAt));
  return found;
}
