import { ToggleGroup } from 'radix-ui';
import { count } from './format';

/** One of several ways to look at something. */
export interface Way<T extends string> {
  value: T;
  label: string;
  /** How many there are; null while that is not known. */
  count?: number | null;
  /** The key that does the same. */
  keys?: string;
  title?: string;
}

/** Several ways to look at something, one of them taken; arrows move along. With counts where things are counted. */
export function Choices<T extends string>({
  label,
  value,
  onChange,
  ways,
  className = '',
}: {
  /** What is chosen; read out. */
  label: string;
  value: T;
  onChange: (value: T) => void;
  ways: readonly Way<T>[];
  className?: string;
}) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={label}
      value={value}
      // One of them is always taken: pressing it again changes nothing.
      onValueChange={next => next && onChange(next as T)}
      className={`flex flex-wrap gap-x-5 gap-y-1 ${className}`}
    >
      {ways.map(each => (
        <ToggleGroup.Item
          key={each.value}
          value={each.value}
          title={each.title ?? (each.keys ? `Key ${each.keys}` : undefined)}
          aria-keyshortcuts={each.keys}
          className="min-h-6 text-ink-2 hover:text-ink data-[state=on]:font-semibold data-[state=on]:text-ink data-[state=on]:shadow-[inset_0_-2px_0_var(--oxide)]"
        >
          {each.label}
          {each.count !== undefined && (
            <span className="ml-1 font-mono text-fine font-normal text-ink-3">
              {each.count === null ? '…' : count(each.count)}
            </span>
          )}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
