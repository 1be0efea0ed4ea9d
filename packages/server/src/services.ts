import type { Logger } from 'pino';
import type { Entrance, SetupToken, Vault } from './access';
import type { Config } from './config';
import type { Decoders } from './decoding';
import type { Breakers, Courier, DeliveryDriver, Postman } from './delivery';
import type { Contents, Copies } from './files';
import type { ArrivalReader, Bodies, Feeds, Rereading, Strays } from './intake';
import type { Ledger } from './ledger';
import type { LiveHub } from './live';
import type { Authorizations, Consents, Outward } from './outward';
import type { StorageHealth } from './storage';
import type { Store } from './store';
import type { Timers } from './timing';
import type { Workshop } from './work';

/** What the HTTP API works with. */
export interface Services {
  config: Config;
  store: Store;
  vault: Vault;
  outward: Outward;
  authorizations: Authorizations;
  consents: Consents;
  postman: Postman;
  courier: Courier;
  contents: Contents;
  copies: Copies;
  live: LiveHub;
  health: StorageHealth;
  timers: Timers;
  entrance: Entrance;
  setupToken: SetupToken;
  decoders: Decoders;
  ledger: Ledger;
  rereading: Rereading;
  breakers: Breakers;
  deliveries: DeliveryDriver;
  reader: ArrivalReader;
  feeds: Feeds;
  workshop: Workshop;
  bodies: Bodies;
  strays: Strays;
  log: Logger;
}
