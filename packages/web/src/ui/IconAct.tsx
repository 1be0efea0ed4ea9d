import type { LucideIcon } from 'lucide-react';
import type { ButtonHTMLAttributes } from 'react';
import { Tip } from './Tip';

/** A small picture to act on, with words for those who do not see it; large enough to be hit (WCAG 2.5.8). */
export function IconAct({
  icon: Icon,
  label,
  keys,
  isPlain = false,
  className = '',
  ...rest
}: Omit<ButtonHTMLAttributes<HTMLButtonElement>, 'aria-label' | 'title'> & {
  icon: LucideIcon;
  label: string;
  /** The key that does the same. */
  keys?: string;
  /** Without words about it: where Escape has something else to put away. */
  isPlain?: boolean;
}) {
  const button = (
    <button
      type="button"
      aria-label={label}
      aria-keyshortcuts={keys}
      className={`inline-grid size-6 place-items-center text-ink-2 enabled:hover:text-oxide disabled:opacity-40 ${className}`}
      {...rest}
    >
      <Icon aria-hidden className="size-4" strokeWidth={1.75} />
    </button>
  );
  return isPlain ? button : <Tip words={keys ? `${label} (${keys})` : label}>{button}</Tip>;
}
