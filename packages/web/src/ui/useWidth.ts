import { useEffect, useRef, useState, type RefObject } from 'react';

/** How wide an element is, in px: a drawing is made for the room that it has, so that its letters keep their size. */
export function useWidth<E extends Element>(first: number): [ref: RefObject<E | null>, width: number] {
  const ref = useRef<E>(null);
  const [width, setWidth] = useState(first);
  useEffect(() => {
    if (!ref.current) return;
    const observer = new ResizeObserver(([entry]) => {
      if (entry && entry.contentRect.width > 0) setWidth(Math.round(entry.contentRect.width));
    });
    observer.observe(ref.current);
    return () => observer.disconnect();
  }, []);
  return [ref, width];
}
