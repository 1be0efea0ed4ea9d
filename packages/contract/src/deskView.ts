import type { RouteSummary } from './routeViews';
import type { ArrivalSummary, DeliveryState, StorageView } from './views';

/** What every place shows at its head and foot. */
export interface StripView {
  /** Intakes that take what comes. */
  listening: number;
  lastArrival: { at: string; formName: string | null; arrivalId: string } | null;
  /** Deliveries that wait or are being sent; and those that are held or dead letters. */
  waiting: number;
  troubled: number;
  /** Changes of forms and targets that somebody has to look at. */
  changes: number;
  /** Set while nothing can be stored. */
  storage: StorageView | null;
}

/** What the Desk tells: everything at a glance. */
export interface DeskView {
  /** Targets that are left alone for a while, since they failed time and again. */
  parked: { targetId: string; name: string; until: string; reason: string }[];
  arrivalsToday: number;
  counts: Record<DeliveryState, number>;
  /** Why deliveries are held or dead letters: what most are for first, a few of them. */
  troubles: {
    routeId: string;
    routeName: string;
    state: 'held' | 'dead';
    reason: string;
    count: number;
    /** An open change that this seems to come of. */
    changeId: string | null;
  }[];
  /** Per UTC day, oldest first, for the last 28 days. */
  days: { day: string; delivered: number; held: number; failed: number }[];
  routes: RouteSummary[];
  strays: number;
  /** Changes of forms and targets that somebody has to look at. */
  changes: number;
  /** Messages that nothing could be made of. */
  unread: number;
  /** The newest of them. */
  lastUnread: ArrivalSummary | null;
  /** Set while nothing can be stored. */
  storage: StorageView | null;
}

/** From when a delivery began to when it was done, in ms. */
export interface Spread {
  count: number;
  median: number;
  /** 95 % of them took no longer. */
  p95: number;
}

/** How quickly routes deliver, and how much intakes receive, today and as is usual. */
export interface PaceView {
  /** Live routes: what was delivered today and before, the newest of each; null where nothing was. */
  routes: { routeId: string; name: string; today: Spread | null; usual: Spread | null }[];
  /** Intakes that listen: messages since midnight (UTC), and up to the same time on this day of the weeks before; null where too little is known. */
  intakes: {
    intakeId: string;
    name: string;
    today: number;
    usual: { least: number; most: number } | null;
    silentSince: string | null;
  }[];
}
