/** @jest-environment ./scripts/jestBrowser.mjs */
import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { openRoute, RehearsesHere, routeOf, serve } from '../../testing/openRoute';
import { Mapping } from './Mapping';

jest.mock('../rehearsal/warm', () => ({ takeWorker: () => new RehearsesHere(), warmUp: () => undefined }));
// A drawing that is not looked at here.
jest.mock('./views/Threads', () => ({ Threads: () => null }));
/** How often each line was rendered, by the question that it draws on. */
const rendered: Record<string, number> = {};
jest.mock('./line/SourceWords', () => ({
  SourceWords: ({ source }: { source: { field?: string } | null }) => {
    const name = source?.field ?? 'none';
    rendered[name] = (rendered[name] ?? 0) + 1;
    return <span>{name}</span>;
  },
}));
beforeEach(() => Object.keys(rendered).forEach(name => delete rendered[name]));
afterEach(cleanup);

const submissions = [
  { site: 'AB-07', ph: '7.4', note: 'clear', depth: '30' },
  { site: 'AB-02', ph: 'none', note: 'brown', depth: '31' },
];
const filled = (field: string) => ({ source: { from: 'field' as const, field } });
const lines = { site: filled('site'), ph: filled('ph'), note: filled('note'), depth: filled('depth') };
const bar = (name: string) => screen.findByRole('button', { name: new RegExp(`^${name} over all samples`) });
/** A line by its field: the answers of the sample at hand have buttons of the same names. */
const line = (name: string) => document.getElementById(`line-l-${name}`)!;

async function open(types = {}) {
  serve(submissions);
  openRoute(routeOf(submissions, lines, types), <Mapping />);
  await bar('depth');
}

test('a line that did not change is not rendered when another is edited, or rehearsed', async () => {
  await open();
  fireEvent.click(line('site'));
  const source = await screen.findByRole('radio', { name: 'Fixed value' });
  fireEvent.click(source);
  const box = await screen.findByLabelText('Value');
  const before = { ...rendered };
  await userEvent.type(box, 'AB-09');
  await waitFor(() => expect(screen.getAllByText('AB-09').length).toBeGreaterThan(0));
  expect(rendered.none).toBeGreaterThan(before.none ?? 0);
  expect({ ph: rendered.ph, note: rendered.note, depth: rendered.depth }).toEqual({
    ph: before.ph,
    note: before.note,
    depth: before.depth,
  });
});

test('a line that is closed gives the focus back to its name; a list behind a bar to the bar', async () => {
  await open({ ph: 'number' });
  fireEvent.click(line('ph'));
  fireEvent.keyDown(await screen.findByRole('radio', { name: 'Fixed value' }), { key: 'Escape' });
  expect(document.activeElement?.id).toBe('line-l-ph');
  fireEvent.click(await bar('ph'));
  const list = await screen.findByRole('region', { name: 'Submissions for ph' });
  fireEvent.click(within(list).getByRole('button', { name: 'Close' }));
  expect(document.activeElement?.id).toBe('bar-l-ph');
});

test('a suggestion that was declined stays so, until somebody wants it again; a line that is cleared asks for none', async () => {
  serve(submissions);
  openRoute(routeOf(submissions, { ...lines, ph: {} }), <Mapping />);
  await bar('depth');
  const user = userEvent.setup();
  await user.click(await screen.findByRole('button', { name: 'Decline' }));
  await waitFor(() => expect(screen.queryByRole('button', { name: 'Decline' })).toBeNull());
  expect(screen.queryByRole('button', { name: /^Accept/ })).toBeNull();
  await user.click(line('ph'));
  await user.click(await screen.findByRole('button', { name: 'Suggest again' }));
  await user.click(await screen.findByRole('button', { name: 'Accept' }));
  await bar('ph');
  await user.click(screen.getByRole('button', { name: 'Clear line' }));
  expect(await screen.findByRole('button', { name: 'Suggest again' })).toBeTruthy();
  expect(screen.queryByRole('button', { name: 'Decline' })).toBeNull();
});

test('a key for a line is for the one that has the focus', async () => {
  serve(submissions);
  openRoute(routeOf(submissions, { site: {}, note: {} }), <Mapping />);
  await screen.findAllByRole('button', { name: 'Accept' });
  const note = line('note');
  note.focus();
  fireEvent.keyDown(note, { key: 'a' });
  // The one that has the focus is filled; the first, at which keys begin, is not.
  expect(await bar('note')).toBeTruthy();
  expect(screen.getAllByRole('button', { name: 'Accept' })).toHaveLength(1);
});
