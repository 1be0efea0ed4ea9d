/** @jest-environment ./scripts/jestBrowser.mjs */
import { act, cleanup, fireEvent, render, screen, waitFor } from '@testing-library/react';
import { openRoute, RehearsesHere, routeOf, serve } from '../../testing/openRoute';
import { useWorkbench } from '.';

jest.mock('../rehearsal/warm', () => ({ takeWorker: () => new RehearsesHere(), warmUp: () => undefined }));
afterEach(cleanup);

const submissions = [
  { site: 'AB-07', ph: '7.4' },
  { site: 'AB-07', ph: 'none' },
  { site: 'AB-02', ph: '7.4' },
];
const lines = {
  site: { source: { from: 'field' as const, field: 'site' } },
  ph: {
    source: { from: 'field' as const, field: 'ph' },
    cleaning: [{ id: 'number.read', params: {} }],
  },
};
const text = (name: string) => screen.getByTestId(name).textContent;
const press = (name: string) => fireEvent.click(screen.getByRole('button', { name }));

/** Where the walk stands, and ways to walk. */
function Walked() {
  const { sample, at, absent, nextInTrouble, nextThatDiffers, show, showSample } = useWorkbench('walk');
  return (
    <>
      <p data-testid="sample">{absent ? 'absent' : sample ? `${sample.id} at ${at}` : 'none'}</p>
      <button onClick={() => nextInTrouble()}>trouble</button>
      <button onClick={() => nextThatDiffers()}>differs</button>
      <button onClick={() => nextThatDiffers(0)}>site differs</button>
      <button onClick={() => show(1)}>second</button>
      <button onClick={() => showSample('gone')}>gone</button>
    </>
  );
}

/** How often each part of what is known was shown, and an edit of the second line. */
function Counted() {
  return (
    <>
      <Times part="walk" />
      <Times part="offers" />
      <Times part="call" />
      <Times part="rehearsed" />
      <Edit />
      <Fares />
    </>
  );
}
const times: Record<string, number> = {};
const count = (part: string) => (times[part] = (times[part] ?? 0) + 1);
function Times({ part }: { part: 'walk' | 'offers' | 'call' | 'rehearsed' }) {
  useWorkbench(part);
  count(part);
  return null;
}
function Edit() {
  const { editCall } = useWorkbench('call');
  return (
    <button
      onClick={() =>
        editCall(call => ({
          ...call,
          lines: call.lines.map(line => (line.id === 'l-ph' ? { ...line, cleaning: [] } : line)),
        }))
      }
    >
      edit
    </button>
  );
}
function Fares() {
  const { stock, rehearsal } = useWorkbench('rehearsed');
  const trouble = rehearsal?.lines.reduce((sum, line) => sum + line.trouble, 0);
  return <p data-testid="fares">{stock.isOlder ? 'older' : `${stock.fares?.sendable ?? '?'} sendable, ${trouble}`}</p>;
}

describe('the walk', () => {
  const open = async (address = '/') => {
    serve(submissions);
    const router = openRoute(
      routeOf(submissions, lines, { ph: 'number' }),
      <>
        <Walked />
        <Fares />
      </>,
      address,
    );
    await waitFor(() => expect(text('fares')).toContain('sendable, 1'));
    return router;
  };
  const stands = (where: string) => waitFor(() => expect(text('sample')).toBe(where));

  test('begins with the newest, and goes to the next that differs, in any line or in one', async () => {
    await open();
    await stands('s0 at 0');
    press('differs');
    await stands('s1 at 1');
    press('site differs');
    await stands('s2 at 2');
    // Round the end.
    press('site differs');
    await stands('s0 at 0');
  });

  test('looks for one that differs in portions: the page goes on, and a later search ends one before', async () => {
    await open();
    await stands('s0 at 0');
    let time = 0;
    const clock = jest.spyOn(performance, 'now').mockImplementation(() => (time += 1000));
    try {
      press('site differs');
      // Not found in the first portion.
      expect(text('sample')).toBe('s0 at 0');
      press('differs');
      await stands('s1 at 1');
      press('site differs');
      await stands('s2 at 2');
    } finally {
      clock.mockRestore();
    }
  });

  test('goes to the next in trouble, and what it shows stands in the address', async () => {
    const router = await open();
    press('trouble');
    await stands('s1 at 1');
    expect(router.state.location.search).toBe('?sample=s1');
    // The only one in trouble: it is found again.
    press('trouble');
    await stands('s1 at 1');
  });

  test('one that is not here is told, and no other is shown in its place', async () => {
    await open('/?sample=s2');
    await stands('s2 at 2');
    press('gone');
    await stands('absent');
    press('second');
    await stands('s1 at 1');
  });
});

test('an edit of a line is rehearsed, is shown as older until then, and changes neither the walk nor what is offered', async () => {
  serve(submissions);
  openRoute(routeOf(submissions, lines, { ph: 'number' }), <Counted />);
  await waitFor(() => expect(text('fares')).toBe('2 sendable, 1'));
  const before = { ...times };
  press('edit');
  expect(text('fares')).toBe('older');
  await waitFor(() => expect(text('fares')).toBe('0 sendable, 3'));
  expect(times.call).toBeGreaterThan(before.call!);
  expect(times.rehearsed).toBeGreaterThan(before.rehearsed!);
  expect({ walk: times.walk, offers: times.offers }).toEqual({ walk: before.walk, offers: before.offers });
  await act(async () => Promise.resolve());
});

test('outside a route nothing is read as if there were one', () => {
  const said = jest.spyOn(console, 'error').mockImplementation(() => undefined);
  function Lost() {
    useWorkbench('route');
    return null;
  }
  expect(() => render(<Lost />)).toThrow('No route is open here.');
  said.mockRestore();
});
