import type { LiveEvent } from '@grammata/contract';
import { useQueryClient, type QueryClient } from '@tanstack/react-query';
import { createContext, useContext, useEffect, useState, type ReactNode } from 'react';

/** Whether what is shown is kept up to date, and since when (ms since the epoch). */
export interface Connection {
  state: 'connecting' | 'open' | 'lost';
  since: number | null;
}

const ConnectionContext = createContext<Connection>({ state: 'connecting', since: null });
export const useConnection = () => useContext(ConnectionContext);

/** A stream that was silent for longer than this is taken for dead, in ms. The server says something every 5 s. */
const SILENCE = 12_000;

/** What has to be read again after an event. */
function touched(event: LiveEvent): string[][] {
  if (event.type === 'arrival')
    return [['intakes'], ['arrivals', event.intakeId], ['arrival', event.arrivalId], ['forms'], ['samples'], ['desk']];
  if (event.type === 'stray') return [['strays'], ['desk']];
  if (event.type === 'storage') return [['desk']];
  if (event.type === 'signedOut') return [['session']];
  if (event.type === 'delivery')
    return [['deliveries'], ['delivery', event.deliveryId], ['arrival'], ['desk'], ['routes']];
  if (event.type === 'work')
    return event.ended
      ? [
          ['work'],
          ['intakes'],
          ['arrivals', ...(event.intakeId ? [event.intakeId] : [])],
          ['arrival'],
          ['forms'],
          ['samples'],
          ['deliveries'],
          ['routes'],
          ['desk'],
        ]
      : [['work']];
  if (event.type === 'form') return [['forms'], ['samples'], ['intakes'], ['arrival']];
  const places = { intake: ['intakes'], target: ['targets'], route: ['routes'] };
  return [places[event.what], ['desk']];
}

/** Gathers what to read again, so that a burst of events causes one reading. */
function gatherer(client: QueryClient) {
  const waiting = new Map<string, string[]>();
  let timer: ReturnType<typeof setTimeout> | null = null;
  return (keys: string[][]) => {
    for (const key of keys) waiting.set(key.join('\n'), key);
    timer ??= setTimeout(() => {
      timer = null;
      const all = [...waiting.values()];
      waiting.clear();
      for (const queryKey of all) void client.invalidateQueries({ queryKey });
    }, 150);
  };
}

/** Keeps one stream of server-sent events open and tells everyone below how it is. */
export function Live({ children }: { children: ReactNode }) {
  const client = useQueryClient();
  const [connection, setConnection] = useState<Connection>({ state: 'connecting', since: null });

  useEffect(() => {
    const gather = gatherer(client);
    let silence: ReturnType<typeof setTimeout>;
    let source: EventSource;
    // What happened before the stream was there was not heard.
    let isBehind = true;
    const lost = () => {
      isBehind = true;
      setConnection({ state: 'lost', since: Date.now() });
    };
    const heard = () => {
      clearTimeout(silence);
      silence = setTimeout(() => {
        lost();
        source.close();
        open();
      }, SILENCE);
      setConnection(before => (before.state === 'open' ? before : { state: 'open', since: Date.now() }));
      if (isBehind) void client.invalidateQueries();
      isBehind = false;
    };
    const open = () => {
      source = new EventSource('/api/live');
      source.addEventListener('beat', heard);
      source.onmessage = message => {
        heard();
        gather(touched(JSON.parse(message.data as string) as LiveEvent));
      };
      source.onerror = lost;
    };
    open();
    return () => {
      clearTimeout(silence);
      source.close();
    };
  }, [client]);

  return <ConnectionContext value={connection}>{children}</ConnectionContext>;
}
