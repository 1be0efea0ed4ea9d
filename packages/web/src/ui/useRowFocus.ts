import { useEffect, useRef, type RefObject } from 'react';

interface Scrolled {
  scrollToIndex(index: number): void;
}

/**
 * Moves through the rows of a long list: the focus goes along, into the first link of the row, so that Enter and a screen reader
 * are where the eye is. Rows say their place by `data-row`; those far away are missing until they are scrolled to.
 */
export function useRowFocus(
  count: number,
  at: number,
  setAt: (at: number) => void,
  virtual: Scrolled,
  scroller: RefObject<HTMLElement | null>,
): (by: number) => void {
  const wanted = useRef<number | null>(null);
  useEffect(() => {
    if (wanted.current === null) return;
    const link = scroller.current?.querySelector<HTMLElement>(`[data-row="${wanted.current}"] a`);
    if (!link) return;
    wanted.current = null;
    link.focus({ preventScroll: true });
  });
  return by => {
    const next = Math.min(count - 1, Math.max(0, at + by));
    wanted.current = next;
    setAt(next);
    virtual.scrollToIndex(next);
  };
}
