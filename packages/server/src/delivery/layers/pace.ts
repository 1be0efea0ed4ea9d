import type { Pace } from '@grammata/core/perform';
import PQueue from 'p-queue';
import type { Layer, Result } from './send';

/** Holds requests back until their target takes them: so many at once, so many a second. */
export function keepsPace(): Layer {
  const queues = new Map<string, { asked: string; queue: PQueue }>();
  const queueOf = (id: string, pace: Pace): PQueue => {
    const asked = JSON.stringify(pace);
    const known = queues.get(id);
    if (known?.asked === asked) return known.queue;
    const queue = new PQueue(optionsOf(pace));
    queues.set(id, { asked, queue });
    return queue;
  };
  return next => outgoing =>
    queueOf(outgoing.target.id, outgoing.target.pace).add(() => next(outgoing)) as Promise<Result>;
}

/** Less than one a second is one in more than a second. */
function optionsOf({ concurrency, perSecond }: Pace) {
  if (perSecond === null) return { concurrency };
  const intervalCap = Math.max(1, Math.floor(perSecond));
  return { concurrency, intervalCap, interval: Math.round((1000 * intervalCap) / perSecond) };
}
