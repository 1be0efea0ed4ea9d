/** @jest-environment ./scripts/jestBrowser.mjs */
import type { ChangeTouch, RepairedView, RepairView } from '@grammata/contract';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MemoryRouter } from 'react-router';
import { Repair } from './Repair';

afterEach(cleanup);

let asked: { path: string; body: { way?: string; value?: string; mark?: string } }[];
let answer: (body: { way?: string; value?: string }) => RepairedView;

beforeEach(() => {
  asked = [];
  globalThis.fetch = ((path: string, { body = '{}' }: { body?: string } = {}) => {
    const sent = JSON.parse(body) as (typeof asked)[number]['body'];
    asked.push({ path, body: sent });
    return Promise.resolve(path.endsWith('/take') ? new Response(null, { status: 204 }) : Response.json(answer(sent)));
  }) as typeof fetch;
});

const touch = {
  routeId: 'r',
  name: 'Volunteers to Roster',
  state: 'live',
  deliveries: [],
  failed: [],
} as unknown as ChangeTouch;
const definition = { format: 1, name: 'R', condition: { all: [] }, calls: [], terms: { hours: 1, timeZone: 'UTC' } };
const repair = (words: string, more: Partial<RepairView> = {}): RepairView =>
  ({
    words: [words],
    labels: {},
    definition,
    draft: definition,
    mark: words,
    samples: { looked: 4, held: 4, lookedThen: 4, heldThen: 0 },
    lines: [],
    tried: [],
    proofs: { total: 0, differing: 0, differingThen: 0, accepted: 0 },
    ...more,
  }) as RepairView;

const ways: RepairedView['ways'] = [
  { way: 'joined', label: 'Joined in one text', asks: null, fault: null },
  { way: 'first', label: 'The first only', asks: null, fault: null },
  { way: 'value', label: 'Always the same value', asks: { to: 'river', options: null }, fault: null },
];

const show = () =>
  render(
    <QueryClientProvider client={new QueryClient()}>
      <MemoryRouter>
        <Repair changeId="x" touch={touch} />
      </MemoryRouter>
    </QueryClientProvider>,
  );

test('of several ways the one that is chosen is tried, and taken', async () => {
  answer = ({ way = 'joined' }) => ({ ways, way: way as 'joined', repair: repair(`note: ${way}`), isDrafted: false });
  show();
  await screen.findByText('note: joined');
  await userEvent.click(screen.getByRole('radio', { name: 'The first only' }));
  await screen.findByText('note: first');
  await userEvent.click(screen.getByRole('button', { name: 'Publish repair…' }));
  expect(asked.at(-1)).toEqual({
    path: '/api/changes/x/repair/take',
    body: { routeId: 'r', mark: 'note: first', way: 'first' },
  });
});

test('a way that needs a value asks for it, by keyboard, before there is anything to take', async () => {
  answer = ({ way = 'value', value }) => ({
    ways,
    way: way as 'value',
    repair: value === undefined ? null : repair(`river: always “${value}”.`),
    isDrafted: false,
  });
  show();
  const box = await screen.findByRole('textbox', { name: 'Value of river' });
  expect(screen.queryByRole('button', { name: 'Publish repair…' })).toBeNull();
  await userEvent.type(box, 'Teal{Enter}');
  await screen.findByText('river: always “Teal”.');
  expect(asked.at(-1)!.body).toEqual({ routeId: 'r', way: 'value', value: 'Teal' });
});

test('a value that is not taken stays, with the reason, to be said otherwise', async () => {
  answer = ({ value }) => ({
    ways: ways.slice(2).map(each => ({ ...each, fault: value === undefined ? null : 'river: 40 characters at most' })),
    way: 'value',
    repair: null,
    isDrafted: false,
  });
  show();
  const box = await screen.findByRole<HTMLInputElement>('textbox', { name: 'Value of river' });
  await userEvent.type(box, 'Teal{Enter}');
  await screen.findByText(/river: 40 characters at most/);
  expect(box.value).toBe('Teal');
  expect(screen.queryByRole('button', { name: 'Publish repair…' })).toBeNull();
});

test('what is taken is what is shown, while another way is still tried', async () => {
  const answerAtOnce = globalThis.fetch;
  answer = () => ({ ways, way: 'joined', repair: repair('note: joined'), isDrafted: false });
  show();
  await screen.findByText('note: joined');
  // The other way is never answered.
  globalThis.fetch = ((path: string, init?: RequestInit) =>
    path.endsWith('/take') ? answerAtOnce(path, init) : new Promise(() => undefined)) as typeof fetch;
  await userEvent.click(screen.getByRole('radio', { name: 'The first only' }));
  await userEvent.click(screen.getByRole('button', { name: 'Publish repair…' }));
  expect(asked.at(-1)!.body).toEqual({ routeId: 'r', mark: 'note: joined' });
});

test('a value out of a list is chosen', async () => {
  answer = ({ value }) => ({
    ways: [
      { way: 'value', label: 'Always the same value', asks: { to: 'river', options: ['Alder', 'Teal'] }, fault: null },
    ],
    way: 'value',
    repair: value === undefined ? null : repair(`river: always “${value}”.`),
    isDrafted: false,
  });
  show();
  await userEvent.selectOptions(await screen.findByRole('combobox', { name: 'Value of river' }), 'Alder');
  await screen.findByText('river: always “Alder”.');
});

test.each([
  [
    { total: 3, differing: 0, differingThen: 2, accepted: 2 },
    'Accepted with this repair, since they differ only by it.',
  ],
  [
    { total: 3, differing: 1, differingThen: 2, accepted: 1 },
    'Accepted with this repair, since they differ only by it: 1.',
  ],
])('proofs that differ only by it are accepted with it: %j', async (proofs, words) => {
  answer = () => ({
    ways: ways.slice(0, 1),
    way: 'joined',
    repair: repair('note: joined', { proofs }),
    isDrafted: false,
  });
  show();
  await screen.findByText(words);
  // With one way there is nothing to choose.
  expect(screen.queryByRole('radio')).toBeNull();
});

test.each([
  [true, 'Review and publish'],
  [false, 'Open the mapping'],
])('without a way it leads on, in the draft already: %s', async (isDrafted, words) => {
  answer = () => ({ ways: [], way: null, repair: null, isDrafted });
  show();
  await screen.findByRole('link', { name: words });
});
