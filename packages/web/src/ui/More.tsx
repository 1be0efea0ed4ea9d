import { ChevronDown } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';
import { Link, type To } from 'react-router';

/** What is rare, behind one word; the menu is a list of links and actions. */
export const More = ({ children }: { children: ReactNode }) => (
  <DropdownMenu.Root modal={false}>
    <DropdownMenu.Trigger className="inline-flex min-h-6 items-center gap-1 text-ink-2 hover:text-ink">
      More <ChevronDown aria-hidden size={13} className="self-center" />
    </DropdownMenu.Trigger>
    <DropdownMenu.Portal>
      <DropdownMenu.Content
        align="end"
        sideOffset={6}
        className="z-30 min-w-48 border border-ink bg-raised py-1 shadow-[0_6px_18px_rgb(0_0_0/0.12)]"
      >
        {children}
      </DropdownMenu.Content>
    </DropdownMenu.Portal>
  </DropdownMenu.Root>
);

const look = 'block w-full cursor-pointer px-4 py-1.5 text-left outline-none data-[highlighted]:bg-sunk';

export const MoreLink = ({ to, children }: { to: To; children: ReactNode }) => (
  <DropdownMenu.Item asChild>
    <Link className={look} to={to}>
      {children}
    </Link>
  </DropdownMenu.Item>
);

export const MoreAct = ({ onSelect, children }: { onSelect: () => void; children: ReactNode }) => (
  <DropdownMenu.Item className={look} onSelect={onSelect}>
    {children}
  </DropdownMenu.Item>
);
