import type { Finding, Seen } from './check';
import { eitherWay } from './eitherWay';
import { filesHad } from './filesHad';
import { operationsOffered } from './operationsOffered';
import { proofsHold } from './proofsHold';
import { recordedFare } from './recordedFare';
import { referencesHold } from './referencesHold';
import { requiredFilled } from './requiredFilled';
import { somethingSent } from './somethingSent';
import { targetsReached } from './targetsReached';
import { triedForReal } from './triedForReal';

export * from './check';

/** Every check, in the order in which they are told. */
export const checks = [
  operationsOffered,
  referencesHold,
  eitherWay,
  requiredFilled,
  somethingSent,
  recordedFare,
  proofsHold,
  triedForReal,
  targetsReached,
  filesHad,
];

/** What must hold before a route goes live, and what is only to be known. */
export const preflight = (seen: Seen): Finding[] => checks.flatMap(check => check.look(seen));
