import { Accounts } from './accounts';
import { Arrivals } from './arrivals';
import { Copies } from './copies';
import type { Database } from './database';
import { Deliveries } from './deliveries';
import { Forms } from './forms';
import { Intakes } from './intakes';
import { Readings } from './readings';
import { Routes } from './routes';
import { Targets } from './targets';

export * from './accounts';
export * from './arrivals';
export * from './copies';
export * from './database';
export * from './deliveries';
export * from './forms';
export * from './intakes';
export * from './readings';
export * from './routes';
export * from './targets';

/** Everything that is kept, a repository for each family of tables. */
export interface Store {
  accounts: Accounts;
  intakes: Intakes;
  arrivals: Arrivals;
  readings: Readings;
  forms: Forms;
  targets: Targets;
  routes: Routes;
  deliveries: Deliveries;
  copies: Copies;
}

export const storeOn = (db: Database): Store => ({
  accounts: new Accounts(db),
  intakes: new Intakes(db),
  arrivals: new Arrivals(db),
  readings: new Readings(db),
  forms: new Forms(db),
  targets: new Targets(db),
  routes: new Routes(db),
  deliveries: new Deliveries(db),
  copies: new Copies(db),
});
