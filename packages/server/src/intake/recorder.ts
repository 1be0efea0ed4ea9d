import { LedgerFault, type Ledger } from '../ledger';
import type { StorageHealth } from '../storage';
import type { ReceivedArrival } from '../store';

/** The intake of an arrival went while it was on its way. */
export class IntakeGone extends Error {}

/** Stores an arrival; resolves when it is on disk. Rejects with IntakeGone where its intake is not there any more. */
export type Recorder = (arrival: ReceivedArrival) => Promise<void>;

/** Arrivals that come at once are stored at once: under load, many share the cost of one flush to disk. */
export const recorderOn =
  (ledger: Pick<Ledger, 'takeIn'>, health: StorageHealth): Recorder =>
  async arrival => {
    let isStored: boolean | undefined;
    try {
      [isStored] = await ledger.takeIn([arrival]);
      health.fine();
    } catch (error) {
      if (error instanceof LedgerFault) health.failed(error);
      throw error;
    }
    if (!isStored) throw new IntakeGone('This intake is gone.');
  };
