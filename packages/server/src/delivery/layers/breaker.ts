import { parkedFor } from '@grammata/core/perform';
import { now } from '../../clock';
import { isFault, type OutwardFault } from '../../outward';
import type { Layer, Outgoing, Result } from './send';

/** A target that is left alone for a while. Times are ms since the epoch. */
export interface Parked {
  since: number;
  /** When it is asked again, with one request. */
  until: number;
  /** What it failed with last. */
  reason: string;
}

interface State {
  /** Failures in a row. */
  failures: number;
  /** How many times in a row it was parked. */
  times: number;
  parked: Parked | null;
  isProbed: boolean;
}

/** What says that a target is in trouble of its own, and not that a request is wrong. */
const troubles: readonly OutwardFault['code'][] = ['refused', 'timeout', 'name', 'tls', 'dropped', 'other'];

/** What a result says of its target: that it is well, that it is in trouble, that it does not know who asks; null where it says nothing. */
function signOf(result: Result, { readsBack }: Pick<Outgoing, 'readsBack'>): 'well' | 'trouble' | 'unknown' | null {
  if (isFault(result)) return result.code === 'token' ? 'unknown' : troubles.includes(result.code) ? 'trouble' : null;
  if (readsBack && (result.status === 401 || result.status === 403)) return null;
  if (result.status === 401) return 'unknown';
  return result.status === 403 || result.status === 429 || result.status >= 500 ? 'trouble' : 'well';
}

/** ms after which those that were turned away while it is probed ask again. */
const WHILE_PROBED = 5000;

/**
 * Leaves targets alone that fail time and again: they are parked, then probed with one request, and asked as before once
 * that goes well. What is turned away meanwhile was not tried.
 */
export class Breakers {
  readonly #states = new Map<string, State>();

  /** @param changed hears of each target that was parked or is asked again */
  constructor(private readonly changed: (targetId: string) => void) {}

  /** Null for a target that is asked. */
  parked(targetId: string): Parked | null {
    return this.#states.get(targetId)?.parked ?? null;
  }

  /** How many requests may go to a target now: none, one as a probe, or any number. */
  room(targetId: string): number {
    const state = this.#states.get(targetId);
    if (!state?.parked) return Infinity;
    return state.parked.until <= now() && !state.isProbed ? 1 : 0;
  }

  /** Has a parked target probed at once. */
  probe(targetId: string): void {
    const state = this.#states.get(targetId);
    if (!state?.parked) return;
    state.parked = { ...state.parked, until: now() };
    this.changed(targetId);
  }

  /** Asks a target as before: somebody has changed what it is, or how it is asked. */
  forget(targetId: string): void {
    const wasParked = this.parked(targetId) !== null;
    this.#states.delete(targetId);
    if (wasParked) this.changed(targetId);
  }

  /** When the next of those that are still left alone may be probed; null where there is none. */
  nextProbe(): number | null {
    const times = [...this.#states.values()].flatMap(({ parked }) =>
      parked && parked.until > now() ? [parked.until] : [],
    );
    return times.length === 0 ? null : Math.min(...times);
  }

  readonly layer: Layer = next => async outgoing => {
    const { target } = outgoing;
    if (target.pace.parkAfter === 0) return next(outgoing);
    const state = this.#stateOf(target.id);
    if (state.parked) {
      if (this.room(target.id) === 0) return turnedAway(target, state.parked);
      state.isProbed = true;
    }
    const isProbe = state.isProbed && state.parked !== null;
    const result = await next(outgoing).finally(() => {
      if (isProbe) state.isProbed = false;
    });
    const sign = signOf(result, outgoing);
    if (sign === 'well') this.#went(target.id, state);
    else if (sign !== null) this.#failed(target, state, isProbe, sign, wordsOf(result));
    return result;
  };

  #stateOf(id: string): State {
    const known = this.#states.get(id) ?? { failures: 0, times: 0, parked: null, isProbed: false };
    this.#states.set(id, known);
    return known;
  }

  #failed(
    { id, pace }: Outgoing['target'],
    state: State,
    isProbe: boolean,
    sign: 'trouble' | 'unknown',
    reason: string,
  ): void {
    // Where credentials are not known, one answer says it for all that wait.
    state.failures = sign === 'unknown' ? Math.max(state.failures + 1, pace.parkAfter) : state.failures + 1;
    // Those that were under way when it was parked say nothing new.
    if (state.failures < pace.parkAfter || (state.parked && !isProbe)) return;
    state.times += 1;
    state.parked = { since: state.parked?.since ?? now(), until: now() + parkedFor(state.times), reason };
    this.changed(id);
  }

  #went(id: string, state: State): void {
    const wasParked = state.parked !== null;
    Object.assign(state, { failures: 0, times: 0, parked: null });
    if (wasParked) this.changed(id);
  }
}

const wordsOf = (result: Result): string =>
  isFault(result)
    ? result.message
    : result.status === 401
      ? 'Credentials rejected (401).'
      : result.status === 403
        ? 'Not allowed with these credentials (403).'
        : `Status ${result.status}.`;

const turnedAway = ({ name }: Outgoing['target'], { until, reason }: Parked): OutwardFault => ({
  code: 'parked',
  message: `${name} is paused. ${reason}`,
  milliseconds: 0,
  until: Math.max(until, now() + WHILE_PROBED),
});
