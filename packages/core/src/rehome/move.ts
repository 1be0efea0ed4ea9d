import type { RouteDefinition } from '../route';

/** What becomes of one thing that a route hangs on, when it hangs on another form or target. */
export interface Move {
  what: 'question' | 'operation' | 'field';
  /** The call that it is in; null for a question, which any of them may use. */
  callId: string | null;
  /** Its key, and what people call it. */
  was: string;
  label: string;
  /** The key in whose place it goes; null for a loose end: what hung on it is kept, and nothing is sent of it. */
  now: string | null;
}

/** A route as it would hang on something else. */
export interface Rehomed {
  definition: RouteDefinition;
  moves: Move[];
}

/** What somebody chose instead of what was proposed: the key, or null for a loose end. */
export type Chosen = ReadonlyMap<string, string | null>;

/** What was chosen, else what is proposed. */
export const settled = (chosen: Chosen, was: string, proposed: string | null): string | null =>
  chosen.has(was) ? chosen.get(was)! : proposed;
