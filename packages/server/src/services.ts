import type { Logger } from 'pino';
import type { Vault } from './access';
import type { Config } from './config';
import type { Courier, DeliveryQueue, Postman } from './delivery';
import type { Contents, Copies } from './files';
import type { ArrivalReader, Bodies, Feeds } from './intake';
import type { LiveHub } from './live';
import type { Authorizations, Outward } from './outward';
import type { Store } from './store';
import type { Workshop } from './work';

/** What the HTTP API works with. */
export interface Services {
  config: Config;
  store: Store;
  vault: Vault;
  outward: Outward;
  authorizations: Authorizations;
  postman: Postman;
  courier: Courier;
  contents: Contents;
  copies: Copies;
  live: LiveHub;
  queue: DeliveryQueue;
  reader: ArrivalReader;
  feeds: Feeds;
  workshop: Workshop;
  bodies: Bodies;
  log: Logger;
}
