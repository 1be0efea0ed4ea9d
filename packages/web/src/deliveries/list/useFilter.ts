import type { DeliveryState } from '@grammata/contract';
import { useMemo } from 'react';
import { useAddress } from '../../address';
import { midnight } from '../../ui';

/** Which deliveries are looked at; empty for all. */
export interface Filter {
  state: DeliveryState | '';
  route: string;
  target: string;
  /** Days, such as 2026-11-04, in this browser's zone. */
  from: string;
  to: string;
  /** Those of one message. */
  arrival: string;
  search: string;
}

const names = ['state', 'route', 'target', 'from', 'to', 'arrival', 'search'] as const;
const states = new Set(['waiting', 'sending', 'delivered', 'held', 'dead']);

/** The filter as an address says it; what is none is left out. */
export function filterIn(params: URLSearchParams): Filter {
  const given = Object.fromEntries(names.map(name => [name, params.get(name)?.trim() ?? ''])) as unknown as Filter;
  const day = (text: string) => (/^\d{4}-\d\d-\d\d$/.test(text) && !Number.isNaN(Date.parse(text)) ? text : '');
  return {
    ...given,
    state: states.has(given.state) ? given.state : '',
    from: day(given.from),
    to: day(given.to),
    search: params.get('search') ?? '',
  };
}

/** What the server is asked for: days as times, from the beginning of the first to the end of the last. */
export function asked({ state, route, target, from, to, arrival, search }: Filter): Record<string, string> {
  const all = {
    state,
    routeId: route,
    targetId: target,
    arrivalId: arrival,
    since: from && midnight(from, 0),
    until: to && midnight(to, 1),
    search: search.trim(),
  };
  return Object.fromEntries(Object.entries(all).filter(([, value]) => value !== ''));
}

/** The filter stands in the address, so that it can be sent to a colleague. */
export function useFilter() {
  const [params, put] = useAddress();
  const filter = useMemo(() => filterIn(params), [params]);
  const set = (part: Partial<Filter>) =>
    put(Object.fromEntries(Object.entries(part).map(([name, value]) => [name, value || null])));
  const clear = () => put(Object.fromEntries(names.map(name => [name, null])));
  return { filter, set, clear, isAny: names.some(name => filter[name] !== '') };
}
