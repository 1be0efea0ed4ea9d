import type { Pace } from '@grammata/core/perform';
import type { OutwardAnswer, OutwardFault, Sealed } from '../../outward';

/** What came of a request. */
export type Result = OutwardAnswer | OutwardFault;

/** A request on its way out, as the layers see it: for whom it is, and how it is carried once. */
export interface Outgoing {
  target: { id: string; name: string; side: Sealed; pace: Pace };
  /** True where it only reads what was written: a key that may write need not be able to. */
  readsBack?: boolean;
  /** Makes the request once more, from the beginning. */
  carry(): Promise<Result>;
}

/** Sends a request. Never throws. */
export type Send = (outgoing: Outgoing) => Promise<Result>;

/** Wraps what sends with a concern of its own. */
export type Layer = (next: Send) => Send;

/** The first layer is the outermost: it sees a request first and its answer last. */
export const layered = (...layers: Layer[]): Send =>
  layers.reduceRight<Send>(
    (next, layer) => layer(next),
    outgoing => outgoing.carry(),
  );
