import { Cron } from 'croner';
import type { Logger } from 'pino';

/** Something that was set to happen, and can be called off. */
export interface Timer {
  stop(): void;
}

/** A timer that follows a schedule. */
export interface Schedule extends Timer {
  /** The next time it falls due; null when it never does again. */
  nextRun(): Date | null;
}

type Work = () => void | Promise<unknown>;

/**
 * The one place that starts timers. Whatever their work throws or rejects is logged here and ends neither the process nor
 * the timer; none of them keeps the process alive.
 */
export class Timers {
  constructor(private readonly log: Logger) {}

  /** Does work that may fail: what is thrown, at once or later, is logged under its name. */
  run(name: string, work: Work): Promise<void> {
    return new Promise(done => {
      const failed = (error: unknown) => {
        this.log.error({ err: error, work: name }, 'something that runs by itself failed');
        done();
      };
      try {
        Promise.resolve(work()).then(() => done(), failed);
      } catch (error) {
        failed(error);
      }
    });
  }

  /** In the next turn of the event loop. */
  soon(name: string, work: Work): Timer {
    const handle = setImmediate(() => void this.run(name, work));
    return { stop: () => clearImmediate(handle) };
  }

  /** Once, after so many ms. */
  later(name: string, milliseconds: number, work: Work): Timer {
    const handle = setTimeout(() => void this.run(name, work), milliseconds);
    handle.unref();
    return { stop: () => clearTimeout(handle) };
  }

  /** Waits so many ms. */
  pause(milliseconds: number): Promise<void> {
    return new Promise(done => void this.later('a pause', milliseconds, done));
  }

  /** Waits until whatever else is due had its turn. */
  turn(): Promise<void> {
    return new Promise(done => void this.soon('a turn', done));
  }

  /** Again and again, every so many ms. */
  every(name: string, milliseconds: number, work: Work): Timer {
    const handle = setInterval(() => void this.run(name, work), milliseconds);
    handle.unref();
    return { stop: () => clearInterval(handle) };
  }

  /** By a schedule of five fields as in crontab(5), in UTC; one at a time. Throws on what is no schedule. */
  schedule(name: string, every: string, work: Work): Schedule {
    const cron = new Cron(every, { timezone: 'UTC', unref: true, protect: true }, () => this.run(name, work));
    return { stop: () => cron.stop(), nextRun: () => cron.nextRun() };
  }
}

/** The next time a schedule falls due, or why it is none. Five fields as in crontab(5), in UTC. */
export function nextTime(every: string): Date | null | { fault: string } {
  try {
    return new Cron(every, { timezone: 'UTC', paused: true }).nextRun();
  } catch (error) {
    return { fault: (error as Error).message };
  }
}
