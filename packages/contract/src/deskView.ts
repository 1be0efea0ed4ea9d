import type { RouteSummary } from './routeViews';
import type { ArrivalSummary, DeliveryState, StorageView } from './views';

/** What the Desk tells: everything at a glance. */
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

export interface DeskView {
  /** Targets that are left alone for a while, since they failed time and again. */
  parked: { targetId: string; name: string; until: string; reason: string }[];
  intakes: number;
  arrivalsToday: number;
  counts: Record<DeliveryState, number>;
  /** Why deliveries are held or dead letters: what most are for first, a few of them. */
  troubles: { routeId: string; routeName: string; state: 'held' | 'dead'; reason: string; count: number }[];
  /** Per UTC day, oldest first, for the last 28 days. */
  days: { day: string; delivered: number; troubled: number }[];
  routes: RouteSummary[];
  recent: ArrivalSummary[];
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
