/** The worker that rehearses, begun before it is needed: its program is there by the time that a route and its samples are. */
let warm: Worker | null = null;

const begin = () => new Worker(new URL('./rehearsal.worker.ts', import.meta.url), { type: 'module' });

/** Begins one, where none waits. */
export function warmUp(): void {
  warm ??= begin();
}

/** The one that waits, or a new one. */
export function takeWorker(): Worker {
  const taken = warm ?? begin();
  warm = null;
  return taken;
}
