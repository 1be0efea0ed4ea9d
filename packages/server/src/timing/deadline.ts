import type { Timer } from './timers';

/** Does something that can't fail after so many ms, unless it is called off: for what has a deadline each, thousands of times a second. */
export function deadline(milliseconds: number, act: () => void): Timer {
  const handle = setTimeout(act, milliseconds);
  handle.unref();
  return { stop: () => clearTimeout(handle) };
}
