import { useQueryClient, type QueryKey } from '@tanstack/react-query';
import type { LiveEvent } from '@grammata/contract';
import { createContext, useContext, useEffect, useState, type ReactNode } from 'react';
import { firstMark, keys } from '../../api';
import { useLatest } from '../../ui';
import { gatherer } from './gather';
import { listen } from './listen';
import { touched } from './touched';

/** Whether what is shown is kept up to date, and since when (ms since the epoch). */
export interface Connection {
  state: 'connecting' | 'open' | 'lost';
  since: number | null;
}

/** An event, or that some may have been missed. */
export type LiveMessage = LiveEvent | { type: 'missed' };

const ListenersContext = createContext<Set<(heard: LiveMessage) => void>>(new Set());

/** Hears of what happens while the calling component is shown. */
export function useLiveEvents(listener: (heard: LiveMessage) => void): void {
  const listeners = useContext(ListenersContext);
  const latest = useLatest(listener);
  useEffect(() => {
    const tell = (heard: LiveMessage) => latest.current(heard);
    listeners.add(tell);
    return () => void listeners.delete(tell);
  }, [listeners, latest]);
}

const ConnectionContext = createContext<Connection>({ state: 'connecting', since: null });
export const useConnection = () => useContext(ConnectionContext);

/** What is asked of others on the way (files, real lookups) is not asked again because of us. */
const isOurs = ({ queryKey: [what] }: { queryKey: QueryKey }) => what !== keys.asked.all[0];

/** Listens to what happens, has it read again where it is shown, and tells everyone below how the connection is. */
export function Live({ children }: { children: ReactNode }) {
  const client = useQueryClient();
  const [connection, setConnection] = useState<Connection>({ state: 'connecting', since: null });
  const [listeners] = useState(() => new Set<(heard: LiveMessage) => void>());
  useEffect(() => {
    const tell = (heard: LiveMessage) => listeners.forEach(listener => listener(heard));
    const gather = gatherer(queryKey => void client.invalidateQueries({ queryKey }));
    /** What is shown is as of this mark, or later. */
    let mark: string | null = null;
    const leave = listen(said => {
      if ('lost' in said) return setConnection({ state: 'lost', since: Date.now() });
      setConnection(before => (before.state === 'open' ? before : { state: 'open', since: Date.now() }));
      if ('event' in said) {
        gather.add(touched(said.event, key => client.getQueryData(key)));
        tell(said.event);
      }
      // What happened before the stream was there, or while it was lost, was not heard.
      else if ((mark ?? firstMark()) !== said.alive) {
        void client.invalidateQueries({ predicate: isOurs });
        tell({ type: 'missed' });
      }
      mark = 'event' in said ? said.mark : said.alive;
    });
    return () => {
      gather.stop();
      leave();
    };
  }, [client, listeners]);
  return (
    <ListenersContext value={listeners}>
      <ConnectionContext value={connection}>{children}</ConnectionContext>
    </ListenersContext>
  );
}
