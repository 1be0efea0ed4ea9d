/** @jest-environment ./scripts/jestBrowser.mjs */
import type { ArrivalView, IntakeView } from '@grammata/contract';
import type { FoundEnvelope } from '@grammata/core/decode';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, renderHook, waitFor } from '@testing-library/react';
import type { ReactNode } from 'react';
import { usePinning } from './usePinning';

const intakeWith = (pins: object) => ({ id: 'i', pins }) as unknown as IntakeView;
const message = (id: string, generation: number | null) =>
  ({
    id,
    document: { site: 'AB-07', note: 'clear', sent: '2026-11-04' },
    contentType: 'application/json',
    decoded: [],
    envelope: { generation, splitAt: null },
  }) as unknown as ArrivalView;

/** What was asked, and a server that has other pins by now than were shown. */
const asked: { method: string; path: string; body: { shown?: object } & Record<string, unknown> }[] = [];
let stored: object;
let preview = { changed: 0, missing: 0 };
beforeEach(() => {
  asked.length = 0;
  stored = {};
  globalThis.fetch = ((path: string, { method = 'GET', body = '{}' }: { method?: string; body?: string } = {}) => {
    const given = JSON.parse(body) as { shown?: object };
    asked.push({ method, path, body: given });
    const { shown, ...pins } = given;
    const isOther = method === 'PUT' && JSON.stringify(shown) !== JSON.stringify(stored);
    if (method === 'PUT' && !isOther) stored = pins;
    const answer = isOther
      ? { type: 'about:blank', title: 'Somebody else changed this.', status: 409 }
      : path.includes('/arrivals/')
        ? message('a', 0)
        : path.includes('/preview')
          ? preview
          : intakeWith(stored);
    return Promise.resolve(new Response(JSON.stringify(answer), { status: isOther ? 409 : 200 }));
  }) as typeof fetch;
});
const puts = () => asked.filter(each => each.method === 'PUT').map(each => each.body);

function pinning(first: { intake: IntakeView; arrival: ArrivalView }) {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={client}>{children}</QueryClientProvider>
  );
  return renderHook(({ intake, arrival }) => usePinning(intake, arrival), { wrapper, initialProps: first });
}

test('what is pointed at is kept, with what was shown', async () => {
  const { result } = pinning({ intake: intakeWith({}), arrival: message('a', null) });
  act(() => result.current.open());
  act(() => result.current.choose('id'));
  act(() => result.current.point('/site'));
  expect(result.current).toMatchObject({ isChanged: true, pins: { id: '/site' } });
  act(() => result.current.store());
  await waitFor(() => expect(result.current.isOpen).toBe(false));
  expect(puts()).toEqual([{ id: '/site', shown: {} }]);
});

test('a colleague’s pins are not overwritten unseen; pressed again, mine take their place', async () => {
  const { result, rerender } = pinning({ intake: intakeWith({}), arrival: message('a', null) });
  act(() => result.current.open());
  act(() => result.current.choose('id'));
  act(() => result.current.point('/site'));
  stored = { form: '/note' };
  // What they pinned is shown on the page by now; what is pointed at here stays.
  rerender({ intake: intakeWith(stored), arrival: message('a', 0) });
  expect(result.current.pins).toEqual({ id: '/site' });
  act(() => result.current.store());
  await waitFor(() => expect(result.current.keep.error).not.toBeNull());
  await waitFor(() => expect(asked.some(each => each.path === '/api/intakes/i' && each.method === 'GET')).toBe(true));
  expect(result.current.isOpen).toBe(true);
  await act(async () => Promise.resolve());
  act(() => result.current.store());
  await waitFor(() => expect(result.current.isOpen).toBe(false));
  expect(puts().map(each => each.shown)).toEqual([{}, { form: '/note' }]);
  expect(stored).toMatchObject({ id: '/site' });
});

test('what can’t be pinned says why, and pins nothing', () => {
  const { result } = pinning({ intake: intakeWith({}), arrival: message('a', null) });
  act(() => result.current.open());
  act(() => result.current.choose('split'));
  act(() => result.current.point('/site'));
  expect([result.current.refusal, result.current.isChanged]).toEqual([expect.any(String), false]);
});

test('a reading that is right is kept at once; where others would be read otherwise, that is shown first', async () => {
  const { result } = pinning({ intake: intakeWith({}), arrival: message('a', null) });
  const found = { answersAt: '/note', splitAt: null } as FoundEnvelope;
  preview = { changed: 2, missing: 0 };
  act(() => result.current.confirm.mutate(found));
  await waitFor(() => expect(result.current).toMatchObject({ isOpen: true, pins: { answers: '/note' } }));
  expect(puts()).toEqual([]);
  act(() => result.current.close());
  preview = { changed: 0, missing: 0 };
  act(() => result.current.confirm.mutate(found));
  await waitFor(() => expect(puts()).toEqual([{ answers: '/note', shown: {} }]));
  expect(result.current.isOpen).toBe(false);
});
