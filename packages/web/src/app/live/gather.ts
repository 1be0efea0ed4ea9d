import type { QueryKey } from '@tanstack/react-query';

/** Events within this are one, in ms; and no thing is read again sooner than so long after the last time. */
const TOGETHER = 150;
const APART = 2000;

/**
 * Gathers what is to be read again: a burst of events causes one reading, and a stream of them one every two seconds, however
 * fast they come. The first is read at once, and nothing that was heard goes unread.
 */
export function gatherer(read: (key: QueryKey) => void, now: () => number = Date.now) {
  const waiting = new Map<string, { key: QueryKey; due: number }>();
  const readAt = new Map<string, number>();
  let timer: ReturnType<typeof setTimeout> | undefined;
  const plan = () => {
    clearTimeout(timer);
    if (waiting.size === 0) return;
    const next = Math.min(...[...waiting.values()].map(each => each.due));
    timer = setTimeout(flush, Math.max(0, next - now()));
  };
  const flush = () => {
    for (const [name, { key, due }] of waiting) {
      if (due > now()) continue;
      waiting.delete(name);
      readAt.set(name, now());
      read(key);
    }
    for (const [name, at] of readAt) if (at + APART <= now()) readAt.delete(name);
    plan();
  };
  return {
    add(keys: readonly QueryKey[]): void {
      for (const key of keys) {
        const name = key.join('\n');
        if (waiting.has(name)) continue;
        waiting.set(name, { key, due: Math.max(now() + TOGETHER, (readAt.get(name) ?? -Infinity) + APART) });
      }
      plan();
    },
    stop: () => clearTimeout(timer),
  };
}
