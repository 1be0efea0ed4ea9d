import type { Done } from '../perform';
import type { RouteRehearsal } from '../rehearse';
import type { Call, RouteDefinition } from '../route';
import type { FieldKind } from '../submission';
import type { Operation } from '../target';

/** A downstream system that a route goes to. */
export interface SeenTarget {
  id: string;
  name: string;
  operations: readonly Operation[];
  /** What it lacks to be shown who asks; left out where it lacks nothing, or that was not looked at. */
  access?: 'missing' | 'consent';
  /** When its secret ends, in ms since the epoch; left out where that is not known. */
  endsAt?: number;
  /** Whether somebody said that what tells who people are may go there; left out where that was not looked at. */
  takesPersonal?: boolean;
  /** Whether somebody said that it knows idempotency keys, by which what is sent twice is made once; left out where that was not looked at. */
  knowsKeys?: boolean;
}

/** What is known of a route that is to go live. What was not looked at is undefined: checks that need it say nothing of it. */
export interface Seen {
  definition: RouteDefinition;
  targets: readonly SeenTarget[];
  /** How it fares over so many recorded submissions; null while that is being found out. What can't be found out says why. */
  rehearsal?: { summary: RouteRehearsal | null; samples: number } | { fault: string };
  /** Whether each target answers, and what it says; untested where its credentials could not be; null while it is being asked. */
  reached?: { id?: string; name: string; answer: { ok: boolean; words: string; isUntested?: boolean } | null }[];
  /** Files of the newest submissions that were looked at, and why some can't be had. */
  files?: { looked: number; faults: readonly string[] } | { fault: string };
  /** Approved rehearsals, and how many of them the draft does not give any more. */
  proofs?: { total: number; differing: number };
  /** Questions of the form. */
  questions?: readonly { key: string; kind: FieldKind }[];
  /** For each look-up: samples that look, and how many of them look for what another looks for. */
  sought?: readonly { where: string; samples: number; same: number; example: string; isOverwritten: boolean }[];
  /** When the newest sample came (ms since the epoch); null where there is none. */
  newestAt?: number | null;
  /** ms since the epoch; left out, nothing is said of time. */
  now?: number;
  /** The last real try of the draft as it stands; null where there was none. */
  trial?: { problems: readonly { message: string }[]; done: readonly Done[] } | null;
}

/** One thing that a check has to say. */
export interface Finding {
  /** goes: only tells. */
  tone: 'fine' | 'look' | 'trouble' | 'goes';
  words: string;
  /** True when the route can't go live because of it. */
  stops: boolean;
  /** What to do about it. */
  remedy?: string;
  /** The line it is about, where it is about one. */
  at?: { callId: string; lineId: string };
  /** The target that it is about, where somebody has to do something there. */
  targetId?: string;
}

/** One thing that has to hold before a route goes live, or is to be known. Adding one means adding a file with one of these. */
export interface Check {
  id: string;
  look(seen: Seen): Finding[];
}

export const defineCheck = (check: Check): Check => check;

export const fine = (words: string): Finding[] => [{ tone: 'fine', words, stops: false }];
export const look = (words: string): Finding[] => [{ tone: 'look', words, stops: false }];
export const tell = (words: string, remedy?: string): Finding[] => [
  { tone: 'goes', words, stops: false, ...(remedy !== undefined && { remedy }) },
];
export const stop = (words: string, remedy: string): Finding[] => [{ tone: 'trouble', words, stops: true, remedy }];
/** What is not known yet, and has to be. */
export const pending = (words: string): Finding[] => [{ tone: 'look', words, stops: true }];

/** The operation of a call, or of one of its steps; undefined where the target does not offer it. */
export const operationOf = (
  { targets }: Seen,
  { targetId }: Pick<Call, 'targetId'>,
  id: string,
): Operation | undefined => targets.find(each => each.id === targetId)?.operations.find(each => each.id === id);
