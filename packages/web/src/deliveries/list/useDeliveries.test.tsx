/** @jest-environment ./scripts/jestBrowser.mjs */
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, renderHook, waitFor } from '@testing-library/react';
import type { ReactNode } from 'react';
import { keys } from '../../api';
import { useDeliveries } from './useDeliveries';

const row = (id: string) => ({ id, state: 'dead' });
/** Deliveries of a server, the newest first; their identifiers are in the order in which they began. */
let all: string[];
beforeEach(() => {
  all = Array.from({ length: 250 }, (_, n) => `d${500 - n}`);
  globalThis.fetch = ((address: string) => {
    const asked = new URL(address, 'http://x').searchParams;
    const upTo = asked.get('upTo');
    const meant = all.filter(id => upTo === null || id <= upTo);
    const from = Number(asked.get('offset'));
    const page = {
      deliveries: meant.slice(from, from + Number(asked.get('limit'))).map(row),
      total: meant.length,
      newest: all[0],
      newer: all.length - meant.length,
      counts: {},
      searched: null,
    };
    return Promise.resolve(new Response(JSON.stringify(page), { status: 200 }));
  }) as typeof fetch;
});

function listed() {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={client}>{children}</QueryClientProvider>
  );
  const filter = { state: 'dead' };
  const hook = renderHook(({ isHeld }) => useDeliveries(filter, isHeld), { wrapper, initialProps: { isHeld: false } });
  return { ...hook, again: () => act(() => client.invalidateQueries({ queryKey: keys.deliveries.all })) };
}

test('while it is held, what begins is counted, and all that match are those that are listed', async () => {
  const { result, rerender, again } = listed();
  await waitFor(() => expect(result.current.page?.total).toBe(250));
  rerender({ isHeld: true });
  all.unshift('d501', 'd502');
  all.sort().reverse();
  await again();
  await waitFor(() => expect(result.current.page?.newer).toBe(2));
  expect([result.current.page?.total, result.current.asOf, result.current.rowAt(0)?.id]).toEqual([250, 'd500', 'd500']);
  act(() => result.current.showNewer());
  await waitFor(() => expect(result.current.page?.newer).toBe(0));
  expect([result.current.page?.total, result.current.asOf, result.current.rowAt(0)?.id]).toEqual([252, 'd502', 'd502']);
});

test('while it is not held, it follows what begins', async () => {
  const { result, again } = listed();
  await waitFor(() => expect(result.current.page?.total).toBe(250));
  all.unshift('d501');
  await again();
  await waitFor(() => expect(result.current.asOf).toBe('d501'));
  expect(result.current.rowAt(0)?.id).toBe('d501');
});

test('only pages that are seen are brought, and a range brings its own', async () => {
  const { result } = listed();
  await waitFor(() => expect(result.current.rowAt(0)?.id).toBe('d500'));
  expect([result.current.rowAt(150), result.current.rows.length]).toEqual([undefined, 100]);
  const range = await act(() => result.current.between(205, 95));
  expect([range.length, range[0]!.id, range.at(-1)!.id]).toEqual([111, 'd405', 'd295']);
  act(() => result.current.see({ first: 140, last: 160 }));
  await waitFor(() => expect(result.current.rowAt(150)?.id).toBe('d350'));
});
