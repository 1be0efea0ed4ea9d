import type { DeliveryPage, DeliverySummary } from '@grammata/contract';
import { useQueries, useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useState } from 'react';
import { api, keys } from '../../api';

const PAGE = 100;
/** Most rows that a range brings. */
const MOST_IN_RANGE = 1000;

/** The places of the first and the last row that are seen. */
export interface Span {
  first: number;
  last: number;
}

/**
 * Deliveries that match, as a list of which only the pages that are seen are brought, and read again when something happens. While it is
 * held (somebody is in the midst of it), what begins later does not move it: it is counted, and shown once it is asked for.
 */
export function useDeliveries(filter: Record<string, string>, isHeld: boolean) {
  const client = useQueryClient();
  const [span, see] = useState<Span>({ first: 0, last: 0 });
  /** While it is held: the newest delivery there was when that began. */
  const [upTo, setUpTo] = useState<string | null>(null);
  const name = JSON.stringify(filter);
  const [of, setOf] = useState(name);
  if (of !== name) {
    setOf(name);
    see({ first: 0, last: 0 });
  }
  const optionsOf = (page: number) => ({
    queryKey: keys.deliveries.page(filter, page),
    queryFn: async () => {
      const asked = new URLSearchParams({ ...filter, offset: String(page * PAGE), limit: String(PAGE) });
      if (upTo !== null) asked.set('upTo', upTo);
      return api<DeliveryPage>(`/deliveries?${asked}`);
    },
  });
  const from = Math.floor(span.first / PAGE);
  const pages = Array.from({ length: Math.floor(span.last / PAGE) - from + 1 }, (_, at) => from + at);
  const queries = useQueries({ queries: pages.map(optionsOf) });
  const isPending = queries.some(each => each.isPending);
  const latestAt = queries.findLastIndex(each => each.data);
  const latest = queries[latestAt]?.data ?? null;
  // What a list says as a whole, and what it begins with, stays while another part of it, or another list, is brought.
  const [kept, setKept] = useState<{ name: string; page: DeliveryPage; at: number } | null>(null);
  if (latest && (kept?.page !== latest || kept.name !== name)) setKept({ name, page: latest, at: from + latestAt });
  const page = latest ?? (kept && (kept.name === name || isPending) ? kept.page : null);
  const { newest = null, newer = 0 } = page ?? {};
  if (isHeld && upTo === null && newest !== null) setUpTo(newest);
  if (!isHeld && upTo !== null) setUpTo(null);
  // What was held back is brought as soon as it is wanted.
  const wantsNewer = newer > 0 && (upTo === null || upTo === newest);
  useEffect(() => {
    if (wantsNewer) void client.invalidateQueries({ queryKey: keys.deliveries.all });
  }, [client, wantsNewer]);
  const rowAt = (index: number): DeliverySummary | undefined => {
    const at = Math.floor(index / PAGE);
    const row = queries[at - from]?.data?.deliveries[index % PAGE];
    return row ?? (isPending && page === kept?.page && at === kept.at ? page.deliveries[index % PAGE] : undefined);
  };
  const again = () => void Promise.all(queries.map(each => each.refetch()));
  return {
    page,
    /** The newest delivery that is listed or could be: what began later is not meant by “all”. */
    asOf: upTo ?? newest,
    error: queries.find(each => each.error)?.error ?? null,
    again,
    see: useCallback((next: Span) => {
      see(before => (before.first === next.first && before.last === next.last ? before : next));
    }, []),
    rowAt,
    /** Rows that are here. */
    rows: queries.flatMap(each => each.data?.deliveries ?? []),
    /** The rows from one place to another, brought where they are not here. */
    between: async (a: number, b: number): Promise<DeliverySummary[]> => {
      const [first, last] = [Math.min(a, b), Math.min(Math.max(a, b), Math.min(a, b) + MOST_IN_RANGE - 1)];
      const at = Array.from({ length: Math.floor(last / PAGE) - Math.floor(first / PAGE) + 1 }, (_, n) => n);
      const brought = await Promise.all(at.map(n => client.ensureQueryData(optionsOf(Math.floor(first / PAGE) + n))));
      const begin = Math.floor(first / PAGE) * PAGE;
      return brought.flatMap(each => each.deliveries).slice(first - begin, last - begin + 1);
    },
    /** Shows what began since the list is held. */
    showNewer: () => setUpTo(newest),
  };
}
