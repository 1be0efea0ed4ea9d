import { X } from 'lucide-react';
import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';
import { IconAct } from './IconAct';

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
          // Of a sheet that is read the first button is not what is wanted first.
          onOpenAutoFocus={event => {
            if (hideTitle) return;
            event.preventDefault();
            (event.currentTarget as HTMLElement).focus();
          }}
          className={`fixed top-[14vh] left-1/2 z-50 max-h-[70vh] ${isWide ? 'w-[min(60rem,calc(100vw-2rem))]' : 'w-[min(35rem,calc(100vw-2rem))]'} -translate-x-1/2 overflow-auto floats`}
        >
          <Dialog.Title
            className={
              hideTitle ? 'sr-only' : 'border-b border-rule py-3 pr-12 pl-5 font-serif text-lead font-semibold'
            }
          >
            {title}
          </Dialog.Title>
          {!hideTitle && (
            <Dialog.Close asChild>
              <IconAct icon={X} label="Close" isPlain className="absolute top-3 right-3" />
            </Dialog.Close>
          )}
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
