import { useEffect, type RefObject } from 'react';

/** Brings what is lit up inside a box into its view, as soon as something else is. The page around it stays where it is. */
export function useScrolledTo(box: RefObject<HTMLElement | null>, lit: string | null): void {
  useEffect(() => {
    const element = lit === null ? null : box.current?.querySelector('[data-hot]');
    if (!box.current || !element) return;
    const [outer, inner] = [box.current.getBoundingClientRect(), element.getBoundingClientRect()];
    if (inner.top < outer.top) box.current.scrollTop -= outer.top - inner.top + 24;
    else if (inner.bottom > outer.bottom) box.current.scrollTop += inner.bottom - outer.bottom + 24;
  }, [box, lit]);
}
