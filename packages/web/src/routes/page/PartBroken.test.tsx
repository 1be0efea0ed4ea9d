/** @jest-environment ./scripts/jestBrowser.mjs */
import { fireEvent, render, screen } from '@testing-library/react';
import { useState } from 'react';
import { createMemoryRouter, Outlet, RouterProvider } from 'react-router';
import { PartBroken } from './PartBroken';

/** Breaks until somebody mends it. */
let isBroken = true;
function Part() {
  if (isBroken) throw new Error('a% is no address');
  return <p>whole</p>;
}
function Page() {
  const [count, setCount] = useState(0);
  return (
    <>
      <button type="button" onClick={() => setCount(count + 1)}>
        pressed {count}
      </button>
      <Outlet />
    </>
  );
}

test('what breaks in a part leaves the rest of the page working, and is shown again when it is mended', async () => {
  const said = jest.spyOn(console, 'error').mockImplementation(() => undefined);
  const router = createMemoryRouter([
    { path: '/', Component: Page, children: [{ index: true, Component: Part, ErrorBoundary: PartBroken }] },
  ]);
  render(<RouterProvider router={router} />);
  expect(await screen.findByText(/This part of the route failed/)).toBeTruthy();
  fireEvent.click(screen.getByText('pressed 0'));
  expect(screen.getByText('pressed 1')).toBeTruthy();
  isBroken = false;
  fireEvent.click(screen.getByText('Try again'));
  expect(await screen.findByText('whole')).toBeTruthy();
  // The rest of the page stays.
  expect(screen.getByText('pressed 1')).toBeTruthy();
  said.mockRestore();
});
