import type { KeyboardEvent } from 'react';

/** Does something on Escape, once: what listens further out, such as the keys of the place, does nothing more. */
export const onEscape = (act: () => void) => (event: KeyboardEvent) => {
  if (event.key !== 'Escape') return;
  event.preventDefault();
  act();
};
