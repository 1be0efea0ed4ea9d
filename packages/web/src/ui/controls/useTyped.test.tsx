/** @jest-environment ./scripts/jestBrowser.mjs */
import { act, renderHook } from '@testing-library/react';
import { useTyped } from './useTyped';

test('what is typed stays as it is while it means the value, and goes where that is another', () => {
  const written = (value: number | null) => (value === null ? '' : String(value));
  const { result, rerender } = renderHook(({ value }) => useTyped<number | null>(value, written), {
    initialProps: { value: 5 as number | null },
  });
  expect(result.current[0]).toBe('5');
  // “5.” means 5, too: it is on its way to 5.25.
  act(() => result.current[1]('5.', 5));
  rerender({ value: 5 });
  expect(result.current[0]).toBe('5.');
  act(() => result.current[1]('5.2', 5.2));
  rerender({ value: 5.2 });
  expect(result.current[0]).toBe('5.2');
  // Undone, or another step in its place.
  rerender({ value: 5 });
  expect(result.current[0]).toBe('5');
  rerender({ value: null });
  expect(result.current[0]).toBe('');
});
