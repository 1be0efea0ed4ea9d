import type { Done } from '@grammata/core/perform';
import type { AttemptRow, DeliveryRow } from '../store';

/** A delivery to be made. */
export interface NewDelivery {
  routeId: string;
  versionId: string;
  submissionId: string;
  /** A few answers, to be known by. */
  about: string;
  /** 1 unless it is a deliberate second one. */
  run?: number;
  /** ms since the epoch; now unless it says otherwise. */
  createdAt?: number;
}

/** What became of a delivery that is leased; without a state it goes on under the same lease. */
export interface Settlement {
  id: string;
  /** The request that was made; null where none was. */
  attempt: Omit<AttemptRow, 'id'> | null;
  /** Calls that are done with it. */
  done: Done[];
  next: Next;
}

/** How a delivery goes on. Times are ms since the epoch. */
export type Next = Pick<
  DeliveryRow,
  'state' | 'reason' | 'attempts' | 'tries' | 'tryUntil' | 'nextAttemptAt' | 'finishedAt'
>;

/** Of which routes how many are wanted, together. */
export interface Want {
  routeIds: string[];
  room: number;
}

/**
 * What is due to be sent, whoever keeps it. A delivery that is leased belongs to its owner until a time; an owner that
 * lives renews in time, what one that died held is leased again.
 */
export interface DueDeliveries {
  /**
   * Takes deliveries up, each once: what was there already is left out. To be called in the transaction that stores what
   * it is about, so that either both are there or neither.
   */
  enqueue(deliveries: readonly NewDelivery[]): DeliveryRow[];
  /** Takes what is due, so many at most in all, of each route the longest due first. */
  lease(owner: string, wants: readonly Want[], most: number, until: number): Promise<DeliveryRow[]>;
  /** Holds what is leased for longer. */
  renew(owner: string, until: number): Promise<void>;
  /** Keeps what became of leased deliveries. Those whose lease is lost to another owner are not touched. */
  settle(owner: string, settlements: readonly Settlement[]): Promise<void>;
  /** Has all that waits of these routes due now. */
  hasten(routeIds: readonly string[]): Promise<void>;
  /** When something of these routes falls due; null when nothing waits. */
  nextDue(routeIds: readonly string[]): Promise<number | null>;
  /** Lets go of all leases but an owner's: the others are known to be gone. */
  reclaim(owner: string): Promise<void>;
}
