import { Accounts } from './accounts';
import { Arrivals } from './arrivals';
import { Changes } from './changes';
import { Copies } from './copies';
import type { Database } from './database';
import { Deliveries } from './deliveries';
import { Forms } from './forms';
import { Intakes } from './intakes';
import { Proofs } from './proofs';
import { Questions } from './questions';
import { Routes } from './routes';
import { hashSnapshots, Snapshots } from './snapshots';
import { Targets } from './targets';
import { newestThatSay, type Searched } from './texts';

export * from './accounts';
export * from './arrivals';
export * from './changes';
export * from './copies';
export * from './database';
export * from './deliveries';
export * from './forms';
export * from './intakes';
export * from './lock';
export * from './proofs';
export * from './questions';
export * from './routes';
export * from './snapshots';
export * from './targets';
export * from './texts';

/** Everything that is kept, a repository for each family of tables. */
export interface Store {
  accounts: Accounts;
  intakes: Intakes;
  arrivals: Arrivals;
  forms: Forms;
  snapshots: Snapshots;
  targets: Targets;
  routes: Routes;
  proofs: Proofs;
  deliveries: Deliveries;
  copies: Copies;
  changes: Changes;
  /** Does all of it or none: what several repositories store goes together, and what they have at hand is what is stored. */
  whole<T>(work: () => T): T;
  /** See {@link newestThatSay}. */
  newestThatSay(search: string): Searched;
}

export function storeOn(db: Database): Store {
  hashSnapshots(db);
  const snapshots = new Snapshots(db);
  const targets = new Targets(db, snapshots);
  const intakes = new Intakes(db);
  const questions = new Questions(db);
  return {
    accounts: new Accounts(db),
    intakes,
    arrivals: new Arrivals(db),
    forms: new Forms(db, questions),
    snapshots,
    targets,
    routes: new Routes(db, targets),
    proofs: new Proofs(db),
    deliveries: new Deliveries(db),
    copies: new Copies(db),
    changes: new Changes(db),
    newestThatSay: search => newestThatSay(db, search),
    whole: work => {
      try {
        return db.transaction(work);
      } catch (error) {
        targets.forgetAtHand();
        intakes.rememberAll();
        throw error;
      }
    },
  };
}
