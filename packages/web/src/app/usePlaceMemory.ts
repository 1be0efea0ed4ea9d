import { useLayoutEffect, useRef, type RefObject } from 'react';
import { useLocation, useNavigationType } from 'react-router';

/** Where somebody was on a page: how far it was scrolled, in px, and what had the focus, as a selector. */
interface Spot {
  top: number;
  focus: string | null;
}

const STORED = 'grammata.spots';
/** Pages of this tab that are remembered. */
const MOST = 50;

function readSpots(): Map<string, Spot> {
  try {
    return new Map(JSON.parse(sessionStorage.getItem(STORED) ?? '[]') as [string, Spot][]);
  } catch {
    return new Map();
  }
}

/** The place that an address is of: parts of a route are all of one. */
const placeOf = (pathname: string): string => pathname.split('/').slice(0, 3).join('/');

/** True where the document was loaded again, or gone back to: then it is led to where it was left. */
const isReturned = (): boolean => {
  const [entry] = performance.getEntriesByType('navigation') as PerformanceNavigationTiming[];
  return entry?.type === 'reload' || entry?.type === 'back_forward';
};

/** What tells an element from others when its page is shown again; null for one that nothing does. */
function selectorOf(element: Element): string | null {
  if (element.id) return `#${CSS.escape(element.id)}`;
  const href = element.getAttribute('href');
  return href ? `a[href="${CSS.escape(href)}"]` : null;
}

/**
 * Going back leads to where one was: what is scrolled stays scrolled, what had the focus has it. A place that is gone to is shown from its
 * top, and the focus is in it, never on nothing.
 */
export function usePlaceMemory(container: RefObject<HTMLElement | null>): void {
  const { key, pathname } = useLocation();
  const type = useNavigationType();
  const spots = useRef<Map<string, Spot> | null>(null);
  const before = useRef<string | null>(null);
  /** Ends what leads back to a spot. */
  const stop = useRef<(() => void) | null>(null);
  useLayoutEffect(() => () => stop.current?.(), []);
  useLayoutEffect(() => {
    const page = container.current!;
    spots.current ??= readSpots();
    const came = before.current;
    before.current = pathname;
    const isBack = came === null ? isReturned() : type === 'POP';
    const known = isBack ? spots.current.get(`${key} ${pathname}`) : undefined;
    // What only changes in the address of a page does not end the way back to where one was on it.
    if (!known && came === pathname) return;
    stop.current?.();
    stop.current = known ? restored(page, known) : null;
    if (known || came === null) return;
    page.scrollTo({ top: 0 });
    const focused = document.activeElement;
    const isElsewhere = placeOf(came) !== placeOf(pathname) && !page.contains(focused);
    if (isElsewhere || focused === null || focused === document.body) page.focus({ preventScroll: true });
  }, [container, key, pathname, type]);
  // Before the next paint: what scrolls because another page is shown is not noted for the one before.
  useLayoutEffect(() => {
    const page = container.current!;
    const note = () => {
      const all = spots.current!;
      const focused = document.activeElement;
      const name = `${key} ${pathname}`;
      const isInside = focused !== null && focused !== page && page.contains(focused);
      const focus = isInside ? selectorOf(focused) : (all.get(name)?.focus ?? null);
      all.delete(name);
      all.set(name, { top: page.scrollTop, focus });
      if (all.size > MOST) all.delete(all.keys().next().value!);
    };
    const keep = () => {
      try {
        sessionStorage.setItem(STORED, JSON.stringify([...spots.current!]));
      } catch {
        // Without room for it, going back leads to the top.
      }
    };
    // Where only the view was changed, one is where one was.
    if (!spots.current!.has(`${key} ${pathname}`)) note();
    page.addEventListener('scroll', note, { passive: true });
    page.addEventListener('focusin', note);
    window.addEventListener('pagehide', keep);
    return () => {
      page.removeEventListener('scroll', note);
      page.removeEventListener('focusin', note);
      window.removeEventListener('pagehide', keep);
    };
  }, [container, key, pathname]);
}

/** Leads to a spot as soon as the page is long enough for it; no further once somebody scrolls or presses anything. */
function restored(page: HTMLElement, { top, focus }: Spot): () => void {
  let isFocused = false;
  const restore = () => {
    page.scrollTo({ top });
    const wanted = focus === null ? page : page.querySelector<HTMLElement>(focus);
    if (!isFocused && wanted) {
      wanted.focus({ preventScroll: true });
      isFocused = true;
    }
    if (isFocused && Math.abs(page.scrollTop - top) <= 1) stop();
  };
  const sizes = new ResizeObserver(restore);
  const changes = new MutationObserver(restore);
  const stop = () => {
    sizes.disconnect();
    changes.disconnect();
    for (const name of ['wheel', 'keydown', 'pointerdown']) window.removeEventListener(name, stop);
  };
  for (const name of ['wheel', 'keydown', 'pointerdown']) window.addEventListener(name, stop);
  sizes.observe(page);
  changes.observe(page, { childList: true, subtree: true });
  if (focus !== null && !page.querySelector(focus)) page.focus({ preventScroll: true });
  restore();
  return stop;
}
