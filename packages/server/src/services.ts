import type { Logger } from 'pino';
import type { Vault } from './access';
import type { Config } from './config';
import type { DeliveryQueue } from './delivery';
import type { ArrivalReader, Bodies, Feeds } from './intake';
import type { LiveHub } from './live';
import type { Outward } from './outward';
import type { Store } from './store';
import type { Workshop } from './work';

/** What the HTTP API works with. */
export interface Services {
  config: Config;
  store: Store;
  vault: Vault;
  outward: Outward;
  live: LiveHub;
  queue: DeliveryQueue;
  reader: ArrivalReader;
  feeds: Feeds;
  workshop: Workshop;
  bodies: Bodies;
  log: Logger;
}
