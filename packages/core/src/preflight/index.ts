import { answersThere } from './answersThere';
import { blanksOverwrite } from './blanksOverwrite';
import type { Finding, Seen } from './check';
import { constantsValid } from './constantsValid';
import { conditionTells } from './conditionTells';
import { eitherWay } from './eitherWay';
import { filesReachable } from './filesReachable';
import { looseEnds } from './looseEnds';
import { madeOnce } from './madeOnce';
import { neverFilled } from './neverFilled';
import { nothingRequired } from './nothingRequired';
import { operationsOffered } from './operationsOffered';
import { personalDataAllowed } from './personalDataAllowed';
import { proofsHold } from './proofsHold';
import { recordedFare } from './recordedFare';
import { referencesHold } from './referencesHold';
import { kindsFit, lengthsFit, optionsListed } from './refusals';
import { requiredFilled } from './requiredFilled';
import { lookUpsDistinct } from './lookUpsDistinct';
import { samplesFresh } from './samplesFresh';
import { secretsLast } from './secretsLast';
import { secretsThere } from './secretsThere';
import { somethingSent } from './somethingSent';
import { targetsReached } from './targetsReached';
import { twoForOne } from './twoForOne';
import { updatesTake } from './updatesTake';
import { triedForReal } from './triedForReal';

export * from './access';
export * from './check';
export * from './sought';

/** Every check, in the order in which they are told. */
export const checks = [
  operationsOffered,
  referencesHold,
  eitherWay,
  answersThere,
  requiredFilled,
  nothingRequired,
  somethingSent,
  twoForOne,
  looseEnds,
  neverFilled,
  constantsValid,
  optionsListed,
  kindsFit,
  lengthsFit,
  blanksOverwrite,
  updatesTake,
  conditionTells,
  lookUpsDistinct,
  madeOnce,
  personalDataAllowed,
  secretsThere,
  secretsLast,
  samplesFresh,
  recordedFare,
  proofsHold,
  triedForReal,
  targetsReached,
  filesReachable,
];

/** What must hold before a route goes live, and what is only to be known. */
export const preflight = (seen: Seen): Finding[] => checks.flatMap(check => check.look(seen));
