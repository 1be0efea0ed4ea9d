import type { Pins, Way } from '@grammata/core/decode';
import type { ReadSubmission } from '../decoding/tasks';
import type {
  ArrivalRow,
  AttemptRow,
  DeliveryFilter,
  DeliveryRow,
  StoredDone,
  ReceivedArrival,
  Selection,
} from '../store';

// Times are ms since the epoch unless a name says otherwise.

/** An arrival that is taken up to be read, with how its intake's messages are read now. */
export interface ClaimedArrival extends Pick<
  ArrivalRow,
  'id' | 'intakeId' | 'receivedAt' | 'method' | 'url' | 'contentType' | 'headers' | 'size' | 'aside'
> {
  body: Uint8Array;
  pins: Pins;
  /** The intake's `readingRevision` that these pins belong to. */
  revision: number;
}

/** What is taken up at once. */
export interface Claim {
  lane: ArrivalRow['lane'];
  most: number;
  /** Bytes of all together; one alone may be larger. */
  bytes: number;
}

/** How a reading ended. */
export interface ReadingEnd {
  state: 'read' | 'unread';
  trouble: string | null;
  /** False where a person should look at it. */
  isSure: boolean;
  /** How it was read, where that is sure. */
  way: Way | null;
}

/** What an arrival was read as, or a portion of it. */
export interface ArrivalReading {
  arrivalId: string;
  /** The revision of the pins that it was read with: holds only while the intake has it. */
  revision: number;
  /** True for one that was read before: then its new submissions are samples and are not delivered. */
  isAgain: boolean;
  /** The place of the first of these submissions. */
  from: number;
  submissions: ReadSubmission[];
  /** Null where more portions follow. */
  end: ReadingEnd | null;
}

export interface QueuedDelivery {
  id: string;
  routeId: string;
}

/** What became of a reading. */
export interface ReadingOutcome {
  arrivalId: string;
  /** False where it was read with pins that are no longer those of its intake, or was not to be read: nothing was stored. */
  isStored: boolean;
  formIds: string[];
  /** Submissions that were stored. */
  stored: number;
  queued: QueuedDelivery[];
}

/** A page of a feed with what it was read as. */
export interface FeedPage {
  arrival: ReceivedArrival;
  revision: number;
  submissions: ReadSubmission[];
  end: ReadingEnd;
  /** True for a page without a single entry. */
  isEmpty: boolean;
}

export interface FeedOutcome extends Omit<ReadingOutcome, 'arrivalId'> {
  /** Entries that had not been seen. */
  fresh: number;
}

/** For each target: of which routes how many are wanted. */
export interface Want {
  routeIds: string[];
  room: number;
}

export interface Lease {
  owner: string;
  wants: Want[];
  most: number;
  until: number;
  /** Routes whose next due time is asked for. */
  routeIds: string[];
}

/** A delivery that is leased, with what it is made from. */
export interface LeasedDelivery extends DeliveryRow {
  /** The submission, as JSON. */
  data: string;
  /** Calls that were done in a try before, each as JSON. */
  done: string[];
}

export interface Leased {
  deliveries: LeasedDelivery[];
  /** When the next of the routes' deliveries falls due; null when none waits. */
  nextAt: number | null;
}

/** How a delivery goes on. */
export type Next = Pick<
  DeliveryRow,
  'state' | 'reason' | 'attempts' | 'tries' | 'spent' | 'nextAttemptAt' | 'finishedAt'
>;

/** What became of a delivery that is leased. In the state `sending` it goes on under the same lease. */
export interface Settlement {
  id: string;
  owner: string;
  /** The request that was made; null where none was. */
  attempt: Omit<AttemptRow, 'id'> | null;
  /** Calls that are done with it. */
  done: StoredDone[];
  next: Next;
}

/** A portion of a form's recorded submissions that a route is to send. */
export interface SendRecorded {
  routeId: string;
  selection: Selection;
  /** The last one of the portion before. */
  after: (Pick<DeliveryRow, 'id'> & { receivedAt: number }) | null;
  most: number;
  /** True where what was delivered goes once more, under a key of its own. */
  again: boolean;
}

export interface SentRecorded {
  /** False where the route is not live any more. */
  isLive: boolean;
  looked: number;
  /** Those that had gone before. */
  before: number;
  queued: QueuedDelivery[];
  last: SendRecorded['after'];
}

/** Which mapping a delivery goes out with: that of its day, or that of now. */
export type Mapping = 'then' | 'now';

export interface SendAgain {
  ids: string[];
  /** The state that each was decided on in, by its identifier: one that is in another by now is left. */
  states?: Record<string, string>;
  mapping: Mapping;
}

/** A portion of the deliveries that match. */
export interface SendAlike {
  /** With `upTo`: those that are delivered a second time by it are not taken again. */
  filter: DeliveryFilter;
  mapping: Mapping;
  after: Pick<DeliveryRow, 'id' | 'createdAt'> | null;
  most: number;
}

export interface SentAlike {
  looked: number;
  queued: QueuedDelivery[];
  /** Null where nothing is left. */
  last: SendAlike['after'];
}

/** A delivery as it is queued by hand: for what a demo begins with. */
export interface NewDelivery extends Pick<DeliveryRow, 'routeId' | 'versionId' | 'submissionId' | 'about'> {
  createdAt: number;
}

/** Arrivals that went, and which of them have a body in a file of its own. */
export interface Removed {
  count: number;
  asideIds: string[];
}

/**
 * Every way in which a submission's life changes. Each command is one transaction of a fixed number of statements, however
 * much it is about, and holds only from the state that it was decided on.
 */
export interface Commands {
  /** Stores what arrived; durable. In their order: false for one whose intake is gone. */
  takeIn(arrivals: ReceivedArrival[]): boolean[];
  /** Stores a feed's page with what is new in it; durable. Null where nothing is. */
  takeInFeed(page: FeedPage): FeedOutcome | null;
  /** Takes up arrivals that wait to be read, oldest first. */
  claim(claim: Claim): ClaimedArrival[];
  /** Stores what arrivals were read as, and queues the submissions for the routes that are live. */
  read(readings: ArrivalReading[]): ReadingOutcome[];
  /** Has arrivals that are being read wait again, in a lane. */
  release(which: { ids: string[]; lane?: ArrivalRow['lane'] }): void;
  /** Sets an arrival aside that can't be read. */
  setAside(which: { id: string; trouble: string }): void;
  /** Has a message wait that could not be read, because a person asks; false where it could. */
  readAgain(id: string): boolean;
  /** What was being read when the server ended waits again; what was so three times is set aside. Gives how many were. */
  recover(): number;
  /** Recorded arrivals that were read with pins of before, oldest first. */
  outdated(which: { intakeId: string; most: number; after: string | null }): ClaimedArrival[];
  /** Leaves what was read with pins of before as it is. */
  leaveOutdated(which: { intakeId: string; id?: string }): void;

  /** Takes what is due, the longest due first; durable, and with it all that it comes from. */
  lease(lease: Lease): Leased;
  renew(lease: { owner: string; until: number }): void;
  /** Keeps what became of leased deliveries; durable. In their order: false where the lease was lost. */
  settle(settlements: Settlement[]): boolean[];
  /** Lets go of all leases but an owner's. */
  reclaim(owner: string): void;
  /** Has all that waits of these routes due now. */
  hasten(routeIds: string[]): void;
  /** Moves all that waits by so many ms, as the clock was moved. */
  shiftWaiting(by: number): void;
  /** Queues recorded submissions for a live route; durable. */
  sendRecorded(portion: SendRecorded): SentRecorded;
  /** Sends deliveries again: what failed under its key, what was delivered under another; durable. */
  sendAgain(which: SendAgain): QueuedDelivery[];
  sendAlike(portion: SendAlike): SentAlike;
  queue(deliveries: NewDelivery[]): QueuedDelivery[];

  /** Deletes what arrived before a time, but for what is kept, named, or not yet delivered; so many at most. */
  removeBefore(which: { intakeId: string; time: number; most: number }): Removed;
  /** Deletes arrivals of an intake, so many at most; the intake with the last of them. */
  removeIntake(which: { intakeId: string; most: number }): Removed;
  /** Names a recorded sample, or says that it is kept; false when there is none. */
  describeSample(sample: { id: string; name?: string | null; kept?: boolean }): boolean;
  /** Says that a form is the same as another, or one of its own again: what came under its key belongs there. */
  tellSame(which: { formId: string; sameAs: string | null }): void;
  /** Moves a submission, and what was made of it, to the time at which it came, delivered so many ms after it began: a demo has a past. */
  putBack(submissions: { id: string; receivedAt: number; took: number }[]): void;
}

/** The commands whose outcome is on disk when they are answered. */
export const durable: ReadonlySet<keyof Commands> = new Set([
  'takeIn',
  'takeInFeed',
  'lease',
  'settle',
  'sendRecorded',
  'sendAgain',
  'sendAlike',
  'removeBefore',
  'removeIntake',
  'readAgain',
  'describeSample',
  'tellSame',
  'leaveOutdated',
]);

export type Command = keyof Commands;

/** The ledger as others use it, wherever its thread is. */
export type Ledger = {
  [Name in Command]: (...input: Parameters<Commands[Name]>) => Promise<ReturnType<Commands[Name]>>;
} & {
  /** Makes what is known of a form's questions anew out of its submissions; a form that nothing belongs to any more goes. */
  rebuild(formId: string): Promise<void>;
  close(): Promise<void>;
};
