import { answersThere } from './answersThere';
import { blanksOverwrite } from './blanksOverwrite';
import type { Finding, Seen } from './check';
import { conditionTells } from './conditionTells';
import { eitherWay } from './eitherWay';
import { filesHad } from './filesHad';
import { looseEnds } from './looseEnds';
import { madeOnce } from './madeOnce';
import { neverFilled } from './neverFilled';
import { nothingRequired } from './nothingRequired';
import { operationsOffered } from './operationsOffered';
import { personalMeant } from './personalMeant';
import { proofsHold } from './proofsHold';
import { recordedFare } from './recordedFare';
import { referencesHold } from './referencesHold';
import { kindsFit, lengthsFit, optionsKnown } from './refusals';
import { requiredFilled } from './requiredFilled';
import { sameSought } from './sameSought';
import { samplesFresh } from './samplesFresh';
import { secretsLast } from './secretsLast';
import { secretsThere } from './secretsThere';
import { somethingSent } from './somethingSent';
import { targetsReached } from './targetsReached';
import { twoForOne } from './twoForOne';
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
  optionsKnown,
  kindsFit,
  lengthsFit,
  blanksOverwrite,
  conditionTells,
  sameSought,
  madeOnce,
  personalMeant,
  secretsThere,
  secretsLast,
  samplesFresh,
  recordedFare,
  proofsHold,
  triedForReal,
  targetsReached,
  filesHad,
];

/** What must hold before a route goes live, and what is only to be known. */
export const preflight = (seen: Seen): Finding[] => checks.flatMap(check => check.look(seen));
