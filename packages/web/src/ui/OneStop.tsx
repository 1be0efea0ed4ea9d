import { useEffect, useRef, type ComponentPropsWithoutRef, type RefObject } from 'react';

/** Where a key leads from one of several, by their places. */
const steps: Record<string, (at: number, last: number) => number> = {
  ArrowDown: at => at + 1,
  ArrowRight: at => at + 1,
  ArrowUp: at => at - 1,
  ArrowLeft: at => at - 1,
  Home: () => 0,
  End: (_, last) => last,
  PageDown: (at, last) => Math.min(last, at + 10),
  PageUp: at => Math.max(0, at - 10),
};

/**
 * A list of buttons that is one stop for the tab key, however many there are: arrows go from one to the next. The stop is where one was
 * last, or else at the one that is shown.
 */
export function OneStop({ as: List = 'ul', ...rest }: { as?: 'ul' | 'ol' } & ComponentPropsWithoutRef<'ul'>) {
  const list = useRef<HTMLElement>(null);
  const all = () => [...(list.current?.querySelectorAll('button') ?? [])];
  useEffect(() => {
    const buttons = all();
    const isInside = list.current?.contains(document.activeElement);
    const shown = buttons.find(each => each.ariaCurrent === 'true');
    const before = buttons.filter(each => each.tabIndex === 0);
    const stop = isInside ? document.activeElement : (shown ?? (before.length === 1 ? before[0] : buttons[0]));
    for (const each of buttons) each.tabIndex = each === stop ? 0 : -1;
  });
  return (
    <List
      {...rest}
      ref={list as RefObject<HTMLUListElement & HTMLOListElement>}
      onFocus={({ target }) => {
        for (const each of all()) each.tabIndex = each === (target as Element) ? 0 : -1;
      }}
      onKeyDown={event => {
        const buttons = all();
        const at = buttons.indexOf(event.target as HTMLButtonElement);
        const next = at < 0 ? undefined : buttons[steps[event.key]?.(at, buttons.length - 1) ?? -1];
        if (!next) return;
        event.preventDefault();
        next.focus();
      }}
    />
  );
}
