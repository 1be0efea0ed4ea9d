import type { RouteParts, RouteRehearsal } from '@grammata/core/rehearse';
import { useEffect, useRef } from 'react';
import { useAsker, type Replied } from '../../workers';
import type { ShelfState } from '../samples';
import { pagesToSend, type PagesSent } from './pagesToSend';
import type { Asked, RehearsalInput } from './rehearsal.worker';
import { takeWorker } from './warm';

/**
 * The rehearsal of a route over all samples, made off the main thread; null until the first is there. It says what it was made of:
 * `asked.route` is another than `route` while a newer one is under way. And a way to begin anew with another worker, where one failed.
 */
export function useRehearsal(
  route: RouteParts,
  shelf: ShelfState,
): [rehearsed: Replied<Asked, RouteRehearsal> | null, anew: () => void] {
  const { asker, reply, times, anew } = useAsker<RehearsalInput, Asked, RouteRehearsal>(takeWorker);
  const held = useRef<PagesSent & { times: number }>({ generation: -1, pages: 0, times: 0 });
  const { generation, pages } = shelf;
  useEffect(() => {
    const before = held.current.times === times ? held.current : { generation: -1, pages: 0 };
    for (const input of pagesToSend(before, { generation, pages })) asker.current?.tell(input);
    held.current = { generation, pages: pages.length, times };
  }, [asker, generation, pages, times]);
  useEffect(() => {
    if (generation > 0) asker.current?.ask({ route, generation });
  }, [asker, route, generation, pages, times]);
  // What was said of other samples is not said of these.
  return [reply?.asked.generation === generation ? reply : null, anew];
}
