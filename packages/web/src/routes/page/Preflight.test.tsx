/** @jest-environment ./scripts/jestBrowser.mjs */
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { openRoute, RehearsesHere, routeOf, serve, type Answers } from '../../testing/openRoute';
import { Preflight } from './Preflight';

jest.mock('../rehearsal/warm', () => ({ takeWorker: () => new RehearsesHere(), warmUp: () => undefined }));
jest.mock('../proofs/useProofs', () => ({
  useProofResults: () => ({ all: [], held: new Map(), isOlder: false, differing: 0 }),
}));
afterEach(cleanup);

const lines = {
  site: { source: { from: 'field' as const, field: 'site' } },
  ph: { source: { from: 'field' as const, field: 'ph' }, cleaning: [{ id: 'number.read', params: {} }] },
};
const reports = [
  { site: 'AB-07', ph: '7.4' },
  { site: 'AB-02', ph: '7.9' },
];
const reached = { ok: true, verdict: 'Reads and writes.', advice: null };

const noFiles = { looked: 0, faults: [] };

/** Opens the checks over these submissions; what is asked besides is answered so, status and body. */
function open(submissions: readonly Answers[], answers: Record<string, [number, unknown]>) {
  const asked = serve(submissions);
  const usual = asked.getMockImplementation() as (address: string) => Promise<Response>;
  asked.mockImplementation((address: string) => {
    const found = Object.entries({ '/routes/r/files': [200, noFiles], ...answers } as typeof answers).find(([end]) =>
      address.endsWith(end),
    );
    return found
      ? Promise.resolve(
          new Response(JSON.stringify(found[1][1]), {
            status: found[1][0],
            headers: { 'content-type': 'application/json' },
          }),
        )
      : usual(address);
  });
  const onLive = jest.fn();
  openRoute(routeOf(submissions, lines, { ph: 'number' }), <Preflight onClose={() => undefined} onLive={onLive} />);
  return { asked, onLive };
}
const publish = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Publish now' });
const says = (words: string) => screen.findByText(text => text.includes(words));

test('what is asked and rehearsed is put together: it can be published when all of it is known and fine', async () => {
  const { asked, onLive } = open(reports, {
    '/targets/t/read': [200, reached],
    '/routes/r/files': [200, { looked: 2, faults: [] }],
    '/routes/r/live': [200, {}],
  });
  // Nothing that is still being found out counts as fine.
  expect(publish().disabled).toBe(true);
  await says('Register: Reads and writes.');
  await says('Files of the newest submissions can be downloaded: 2 checked.');
  await says('2 of 2 past submissions pass the filter.');
  await says('All of them can be sent.');
  await waitFor(() => expect(publish().disabled).toBe(false));
  fireEvent.click(publish());
  await waitFor(() => expect(onLive).toHaveBeenCalledTimes(1));
  // It goes live as it was shown.
  const [, sent] = (asked.mock.calls as [string, { body: string }][]).find(([address]) => address.endsWith('/live'))!;
  expect(JSON.parse(sent.body)).toEqual({ revision: 1 });
});

test.each<[string, Record<string, [number, unknown]>, string]>([
  [
    'a target that refuses',
    { '/targets/t/read': [200, { ok: false, verdict: 'The token is rejected.', advice: 'Enter another.' }] },
    'Register: The token is rejected. Enter another.',
  ],
  [
    'a target that can’t be asked',
    { '/targets/t/read': [503, { title: 'The server is busy.', detail: 'The server is busy.', status: 503 }] },
    'The server is busy.',
  ],
])('%s stops it, and says why', async (_, answers, words) => {
  const { onLive } = open(reports, answers);
  await says(words);
  await says('All of them can be sent.');
  expect(screen.getByRole('link', { name: 'Open target' }).getAttribute('href')).toBe('/targets/t');
  expect(publish().disabled).toBe(true);
  expect(onLive).not.toHaveBeenCalled();
});

test.each<[string, readonly Answers[], Record<string, [number, unknown]>, string]>([
  ['a submission that can’t be sent', [...reports, { site: 'AB-01', ph: 'low' }], {}, '1 of them can’t be sent'],
  [
    'a file that is gone',
    reports,
    { '/routes/r/files': [200, { looked: 3, faults: [{ message: 'photo.jpg no longer exists.' }] }] },
    '1 of 3 checked files can’t be downloaded. photo.jpg no longer exists.',
  ],
])('%s is told and does not stop it', async (_, submissions, answers, words) => {
  open(submissions, { '/targets/t/read': [200, reached], ...answers });
  await says(words);
  await waitFor(() => expect(publish().disabled).toBe(false));
});

test('a draft that another one has edited meanwhile is not published, and it says so', async () => {
  const { onLive } = open(reports, {
    '/targets/t/read': [200, reached],
    '/routes/r/live': [409, { title: 'Conflict', detail: 'The draft has changed.', status: 409 }],
  });
  await waitFor(() => expect(publish().disabled).toBe(false));
  fireEvent.click(publish());
  await says('The draft has changed.');
  expect(onLive).not.toHaveBeenCalled();
});
