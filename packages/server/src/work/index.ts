import type { WorkView } from '@grammata/contract';
import { iso, now } from '../clock';
import { newId } from '../ids';
import type { LiveHub } from '../live';
import type { Timers } from '../timing';

/** How often at most the interface hears of progress, in ms. */
const TELLING = 200;
/** Finished work that is still shown. */
const MOST_FINISHED = 20;
/** Lines of a report that are kept. */
const MOST_LINES = 200;

/** One piece of long work, for the one who does it. */
export interface Work {
  readonly id: string;
  /** True when a person asked to stop it. */
  readonly isStopped: boolean;
  /** Says how far it is. */
  at(done: number, total?: number): void;
  /** Adds what went wrong on the way, in a line. */
  report(line: string): void;
  finish(summary: string): void;
  fail(message: string): void;
}

/** Does long work in the background. What breaks it ends it, is told with how far it was, and is logged. */
export function inBackground(
  timers: Timers,
  work: Work,
  act: () => Promise<void>,
  howFar: () => string,
): Promise<void> {
  return timers.run('long work', () =>
    act().catch((error: Error) => {
      work.fail(`It stopped ${howFar()}: ${error.message}`);
      throw error;
    }),
  );
}

/** Long work under way: what it is, how far, and whether somebody wants it stopped. Lost at a restart, unlike its results. */
export class Workshop {
  readonly #all = new Map<string, WorkView>();
  readonly #stopped = new Set<string>();
  readonly #told = new Map<string, number>();

  constructor(private readonly live: LiveHub) {}

  start(
    about: Pick<WorkView, 'kind' | 'title'> & Partial<Pick<WorkView, 'intakeId' | 'routeId'>>,
    total: number | null,
  ): Work {
    const id = newId();
    const view: WorkView = {
      intakeId: null,
      routeId: null,
      ...about,
      id,
      state: 'running',
      done: 0,
      total,
      summary: null,
      report: [],
      reported: 0,
      startedAt: iso(now()),
    };
    this.#all.set(id, view);
    this.#forgetOld();
    this.#tell(view, true);
    const end = (state: 'done' | 'stopped' | 'failed', summary: string) => {
      Object.assign(view, { state, summary });
      this.#stopped.delete(id);
      this.#tell(view, true);
    };
    const isStopped = () => this.#stopped.has(id);
    return {
      id,
      get isStopped() {
        return isStopped();
      },
      at: (done, all) => {
        view.done = done;
        view.total = all ?? view.total;
        this.#tell(view);
      },
      report: line => {
        view.reported += 1;
        if (view.report.length < MOST_LINES) view.report.push(line);
      },
      finish: summary => end(isStopped() ? 'stopped' : 'done', summary),
      fail: message => end('failed', message),
    };
  }

  /** Of one intake or route, or of all, newest first. */
  list({ intakeId, routeId }: { intakeId?: string; routeId?: string } = {}): WorkView[] {
    return [...this.#all.values()]
      .filter(each => (!intakeId || each.intakeId === intakeId) && (!routeId || each.routeId === routeId))
      .reverse();
  }

  /** Asks a running piece to stop; false when there is none. */
  stop(id: string): boolean {
    if (this.#all.get(id)?.state !== 'running') return false;
    this.#stopped.add(id);
    return true;
  }

  #tell(view: WorkView, always = false): void {
    const at = now();
    if (!always && at - (this.#told.get(view.id) ?? 0) < TELLING) return;
    this.#told.set(view.id, at);
    this.live.publish({ type: 'work', id: view.id, intakeId: view.intakeId, ended: view.state !== 'running' });
  }

  #forgetOld(): void {
    const finished = [...this.#all.values()].filter(each => each.state !== 'running');
    for (const { id } of finished.slice(0, Math.max(0, finished.length - MOST_FINISHED))) {
      this.#all.delete(id);
      this.#told.delete(id);
    }
  }
}
