import { readFileSync } from 'node:fs';

/** Ticks of the processor's clock in a second, as Linux tells them to programs (proc(5): USER_HZ). */
const TICKS = 100;

/** The thread's identifier and its processor time in ticks, out of a line of `/proc/…/stat` (proc(5): fields 1, 14 and 15). */
function readStat(file: string): [thread: number, ticks: number] | null {
  try {
    const line = readFileSync(file, 'utf8');
    const fields = line.slice(line.lastIndexOf(')') + 2).split(' ');
    const [thread, ticks] = [Number.parseInt(line, 10), Number(fields[11]) + Number(fields[12])];
    return thread > 0 && Number.isFinite(ticks) ? [thread, ticks] : null;
  } catch {
    return null;
  }
}

/**
 * Measures how much processor time a thread spends on a task, seen from another thread. A busy machine gives a thread less of it, so
 * the time by the clock says little. Only Linux tells it.
 */
export class Meter {
  readonly #kept: Int32Array;

  constructor(readonly memory: SharedArrayBuffer = new SharedArrayBuffer(8)) {
    this.#kept = new Int32Array(memory);
  }

  /** To be called in the thread, as the task begins. */
  begin(): void {
    const [thread, ticks] = readStat('/proc/thread-self/stat') ?? [-1, 0];
    Atomics.store(this.#kept, 1, ticks);
    Atomics.store(this.#kept, 0, thread);
  }

  /** Seconds spent on the task so far; 0 before it begins, null where they can't be told. */
  seconds(): number | null {
    const thread = Atomics.load(this.#kept, 0);
    if (thread === 0) return 0;
    const stat = thread < 0 ? null : readStat(`/proc/self/task/${thread}/stat`);
    return stat && (stat[1] - Atomics.load(this.#kept, 1)) / TICKS;
  }
}
