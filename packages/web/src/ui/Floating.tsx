import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';

/** A sheet that floats over the place; Escape puts it away. */
export function Floating({
  open,
  onOpenChange,
  title,
  hideTitle = false,
  isWide = false,
  children,
}: {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  hideTitle?: boolean;
  /** For what is compared side by side. */
  isWide?: boolean;
  children: ReactNode;
}) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/20 dark:bg-black/50" />
        <Dialog.Content
          aria-describedby={undefined}
          className={`fixed top-[14vh] left-1/2 z-50 max-h-[70vh] ${isWide ? 'w-[min(60rem,calc(100vw-2rem))]' : 'w-[min(35rem,calc(100vw-2rem))]'} -translate-x-1/2 overflow-auto border border-ink bg-raised shadow-[0_18px_50px_-12px_rgb(0_0_0/0.35)]`}
        >
          <Dialog.Title
            className={hideTitle ? 'sr-only' : 'border-b border-rule px-5 pt-4 pb-2 font-serif text-lead font-semibold'}
          >
            {title}
          </Dialog.Title>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
