/** @jest-environment ./scripts/jestBrowser.mjs */
import type { ChangeTouch, ChangeView } from '@grammata/contract';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MemoryRouter } from 'react-router';
import { Holding, Lacking, LeftOut } from './Holding';

afterEach(cleanup);

let asked: { path: string; body: unknown }[];

beforeEach(() => {
  asked = [];
  globalThis.fetch = ((path: string, { body = '{}' }: { body?: string } = {}) => {
    asked.push({ path, body: JSON.parse(body) });
    return Promise.resolve(Response.json({ ids: [], work: null }));
  }) as typeof fetch;
});

const touch = (more: Partial<ChangeTouch> = {}): ChangeTouch => ({
  routeId: 'r',
  name: 'Volunteers to Roster',
  state: 'live',
  version: 2,
  touch: 'risks',
  uses: [{ callId: 'c', lineId: 'l', what: 'line', to: 'phone' }],
  held: 0,
  looked: 9,
  deliveries: [],
  failed: [],
  holds: true,
  holdHours: null,
  lacking: [],
  leftOut: [],
  completes: true,
  proofs: 0,
  ...more,
});
const change = (more: Partial<ChangeView> = {}) => ({ id: 'x', subject: 'form', state: 'open', ...more }) as ChangeView;

const show = (of: ChangeView, one: ChangeTouch) =>
  render(
    <QueryClientProvider client={new QueryClient()}>
      <MemoryRouter>
        <Holding change={of} touch={one} />
        <Lacking change={of} touch={one} />
        <LeftOut touch={one} />
      </MemoryRouter>
    </QueryClientProvider>,
  );

const lacking = [
  { id: 'd1', about: 'Mira Teal' },
  { id: 'd2', about: 'Oskar Sedge' },
];

test.each<[string, ChangeView, ChangeTouch, string | null]>([
  ['held until somebody decides', change(), touch(), 'What comes is held until this is resolved.'],
  [
    'held for a time',
    change(),
    touch({ holdHours: 48 }),
    'What comes is held until this is resolved, 48 hours at most.',
  ],
  ['not held', change(), touch({ holds: false }), 'What comes is delivered as it is.'],
  ['a draft', change(), touch({ state: 'draft' }), null],
  ['a change of a target', change({ subject: 'target' }), touch({ holds: false }), null],
  ['no matter to the route', change(), touch({ holds: false, touch: 'harmless' }), null],
])('whether a route holds: %s', (_, of, one, words) => {
  const { container } = show(of, one);
  if (words === null) expect(container.textContent).toBe('');
  else expect(container.textContent).toContain(words);
});

test('what is decided is decided for the route it stands beside', async () => {
  show(change(), touch());
  await userEvent.click(screen.getByRole('button', { name: 'Deliver it as it is: Volunteers to Roster' }));
  expect(asked).toEqual([{ path: '/api/changes/x/holding', body: { routeId: 'r', decision: 'deliver' } }]);
});

test.each<[string, ChangeView, ChangeTouch, string, boolean]>([
  ['before a repair', change(), touch({ lacking }), 'can be completed once a repair is live', false],
  ['once it is live', change({ state: 'settled' }), touch({ lacking }), '2 submissions delivered without it.', true],
  [
    'where nothing is updated',
    change({ state: 'settled' }),
    touch({ lacking, completes: false }),
    'add it at the target',
    false,
  ],
])('what went without an answer is listed, and completed %s', async (_, of, one, words, isCompleted) => {
  const { container } = show(of, one);
  expect(container.textContent).toContain(words);
  expect(screen.queryByRole('link', { name: 'Mira Teal' })).toBeNull();
  await userEvent.click(screen.getByRole('button', { name: 'List them' }));
  expect(screen.getByRole('link', { name: 'Mira Teal' }).getAttribute('href')).toBe('/deliveries/d1');
  const complete = screen.queryByRole('button', { name: 'Send again to complete (2)' });
  expect(complete !== null).toBe(isCompleted);
  if (!complete) return;
  await userEvent.click(complete);
  // Those that were listed, as they were listed.
  expect(asked).toEqual([
    {
      path: '/api/deliveries/resend',
      body: { ids: ['d1', 'd2'], states: { d1: 'delivered', d2: 'delivered' }, mapping: 'now' },
    },
  ]);
  expect((await screen.findByRole('status')).textContent).toContain('Each updates the record it made.');
});

test.each([
  ['while it does not go', false],
  ['once it goes', true],
])('what the filter left out is listed, and sent by the version that is live: %s', async (_, goes) => {
  const one = (id: string) => ({ sampleId: id, arrivalId: `a${id}`, about: `Mira Teal ${id}`, goes });
  const { container } = show(change(), touch({ leftOut: [one('s1'), one('s2')] }));
  expect(container.textContent).toContain('2 submissions left out: the filter asks for what changed.');
  await userEvent.click(screen.getByRole('button', { name: 'List them' }));
  expect(screen.getByRole('link', { name: 'Mira Teal s2' }).getAttribute('href')).toBe('/arrivals/as2');
  const send = screen.queryByRole('button', { name: 'Send what was left out (2)' });
  expect(send !== null).toBe(goes);
  if (!send) return;
  await userEvent.click(send);
  expect(asked).toEqual([
    { path: '/api/routes/r/recorded', body: { selection: { sampleIds: ['s1', 's2'] }, again: false, version: 2 } },
  ]);
  expect((await screen.findByRole('status')).textContent).toContain('Sending what was left out.');
});
