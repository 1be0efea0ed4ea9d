/** @jest-environment ./scripts/jestBrowser.mjs */
import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { openRoute, RehearsesHere, routeOf, serve } from '../../../testing/openRoute';
import { Mapping } from '../Mapping';

jest.mock('../../rehearsal/warm', () => ({ takeWorker: () => new RehearsesHere(), warmUp: () => undefined }));
// A drawing that is not looked at here.
jest.mock('../views/Threads', () => ({ Threads: () => null }));
afterEach(cleanup);

const submissions = [{ sign: 'Foam' }, { sign: 'foam!' }, { sign: 'Foam' }, { sign: 'Dead fish' }];

async function open(id: string, params: object) {
  serve(submissions);
  const line = { source: { from: 'field' as const, field: 'sign' }, cleaning: [{ id, params: { ...params } }] };
  openRoute(routeOf(submissions, { sign: line }), <Mapping />);
  await screen.findByRole('button', { name: /^sign over all samples/ });
  fireEvent.click(document.getElementById('line-l-sign')!);
  return screen.findByRole('table');
}
const rowsOf = (table: HTMLElement) =>
  within(table)
    .getAllByRole('row')
    .slice(1)
    .map(row => [...row.querySelectorAll('td')].map(cell => cell.querySelector('input')?.value ?? cell.textContent));

test.each([
  ['choice.match', { options: 'Foam\nEels = 9', otherwise: 'problem', nearest: 1 }, 'Foam'],
  ['lookup.table', { table: 'Foam,Foam\nEels,9', otherwise: 'problem' }, ''],
])('%s: what was answered stands with how often, beside what is sent; it is set there', async (id, params, near) => {
  const table = await open(id, params);
  expect(rowsOf(table)).toEqual([
    ['Foam', '2', 'Foam'],
    ['foam!', '1', near],
    ['Dead fish', '1', ''],
    ['Eels remove', '0', '9'],
  ]);
  const user = userEvent.setup();
  await user.type(within(table).getByLabelText('Sent for Dead fish'), 'fish kill');
  await waitFor(() => expect(rowsOf(screen.getByRole('table'))[2]).toEqual(['Dead fish', '1', 'fish kill']));
  await user.click(screen.getByRole('button', { name: 'Remove Eels' }));
  expect(rowsOf(screen.getByRole('table'))).toHaveLength(3);
  await user.click(screen.getByRole('button', { name: 'Edit as text' }));
  expect(screen.getByDisplayValue(/Dead fish(,| = )fish kill/)).toBeTruthy();
});
