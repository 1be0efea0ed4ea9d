/** @jest-environment jsdom */
import { fireEvent, render, screen } from '@testing-library/react';
import { useState } from 'react';
import { Boundary } from './Boundary';

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
      <Boundary what="This part">
        <Part />
      </Boundary>
    </>
  );
}

test('what breaks in a part leaves the rest of the page working, and is shown again when it is mended', () => {
  const said = jest.spyOn(console, 'error').mockImplementation(() => undefined);
  render(<Page />);
  expect(screen.getByText(/This part can’t be shown/)).toBeTruthy();
  fireEvent.click(screen.getByText('pressed 0'));
  expect(screen.getByText('pressed 1')).toBeTruthy();
  isBroken = false;
  fireEvent.click(screen.getByText('Show it again'));
  expect(screen.getByText('whole')).toBeTruthy();
  said.mockRestore();
});
