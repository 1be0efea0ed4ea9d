import { blanksOverwrite } from './blanksOverwrite';
import type { Finding, Seen } from './check';
import { conditionTells } from './conditionTells';
import { eitherWay } from './eitherWay';
import { filesHad } from './filesHad';
import { looseEnds } from './looseEnds';
import { neverFilled } from './neverFilled';
import { nothingRequired } from './nothingRequired';
import { operationsOffered } from './operationsOffered';
import { proofsHold } from './proofsHold';
import { recordedFare } from './recordedFare';
import { referencesHold } from './referencesHold';
import { requiredFilled } from './requiredFilled';
import { secretsThere } from './secretsThere';
import { somethingSent } from './somethingSent';
import { targetsReached } from './targetsReached';
import { twoForOne } from './twoForOne';
import { triedForReal } from './triedForReal';

export * from './access';
export * from './check';

/** Every check, in the order in which they are told. */
export const checks = [
  operationsOffered,
  referencesHold,
  eitherWay,
  requiredFilled,
  nothingRequired,
  somethingSent,
  twoForOne,
  looseEnds,
  neverFilled,
  blanksOverwrite,
  conditionTells,
  secretsThere,
  recordedFare,
  proofsHold,
  triedForReal,
  targetsReached,
  filesHad,
];

/** What must hold before a route goes live, and what is only to be known. */
export const preflight = (seen: Seen): Finding[] => checks.flatMap(check => check.look(seen));
