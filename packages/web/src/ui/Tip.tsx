import { Tooltip } from 'radix-ui';
import type { ReactElement } from 'react';

/** Words about a thing that is pointed at or has the focus; Escape puts them away (WCAG 1.4.13). */
export const Tip = ({ words, children }: { words: string; children: ReactElement }) => (
  <Tooltip.Root>
    <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
    <Tooltip.Portal>
      <Tooltip.Content
        sideOffset={4}
        collisionPadding={8}
        className="floats z-50 max-w-72 px-2 py-1 text-small text-ink"
      >
        {words}
      </Tooltip.Content>
    </Tooltip.Portal>
  </Tooltip.Root>
);

export const Tips = Tooltip.Provider;
