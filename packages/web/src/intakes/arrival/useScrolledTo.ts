import { useEffect, type RefObject } from 'react';

/** Room left beside what is brought into view, in px. */
const MARGIN = 24;

/** Brings what is lit up inside a box into its view, as soon as something else is. The page around it stays where it is. */
export function useScrolledTo(box: RefObject<HTMLElement | null>, lit: string | null): void {
  useEffect(() => {
    const element = lit === null ? null : box.current?.querySelector('[data-hot]');
    if (!box.current || !element) return;
    const [outer, inner] = [box.current.getBoundingClientRect(), element.getBoundingClientRect()];
    if (inner.top < outer.top) box.current.scrollBy(0, inner.top - outer.top - MARGIN);
    else if (inner.bottom > outer.bottom) box.current.scrollBy(0, inner.bottom - outer.bottom + MARGIN);
  }, [box, lit]);
}
