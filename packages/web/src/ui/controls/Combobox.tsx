import { Command } from 'cmdk';
import { ChevronDown } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useId, useState, type ReactNode, type Ref } from 'react';
import { count } from '../format';
import { Labelled, type ControlTexts } from './Labelled';
import { found } from './search';

export interface Pickable {
  value: string;
  label: string;
  group?: string;
  /** What it is found by beside its label. */
  words?: string;
  /** Told on the right: an example, a count. */
  detail?: string;
  /** Told on the left: a mark for its kind. */
  mark?: ReactNode;
  /** A sentence below the label. */
  says?: string;
}

/** Most that are listed at once; more are found by typing. */
const MOST_LISTED = 80;

/** One out of many: typed words narrow the list down. */
export function Combobox(
  props: ControlTexts & {
    options: readonly Pickable[];
    value: string;
    onPick: (value: string) => void;
    /** The words for picking nothing; without them something has to be picked. */
    none?: string;
    /** What stands in the box while nothing is picked. */
    placeholder?: string;
    /** What is asked for in the list. */
    prompt?: string;
    boxClass?: string;
    boxRef?: Ref<HTMLButtonElement>;
    autoFocus?: boolean;
    /** The options are still on their way. */
    isPending?: boolean;
  },
) {
  const {
    label,
    hint,
    error,
    className,
    isBare,
    options,
    value,
    onPick,
    none,
    placeholder,
    prompt,
    boxClass = '',
    isPending = false,
  } = props;
  const [open, setOpen] = useState(false);
  const [typed, setTyped] = useState('');
  const listId = useId();
  const picked = options.find(each => each.value === value);
  const all = found(options, typed);
  const listed = all.slice(0, MOST_LISTED);
  const groups = [...new Set(listed.map(each => each.group))];
  const pick = (next: string) => {
    setOpen(false);
    onPick(next);
  };
  const item = (each: Pickable) => (
    <Command.Item
      key={each.value}
      value={each.value}
      onSelect={() => pick(each.value)}
      aria-current={each.value === value || undefined}
      className="flex cursor-pointer items-baseline gap-3 border-l-2 border-transparent px-3 py-1 aria-[current]:font-semibold data-[selected=true]:border-oxide data-[selected=true]:bg-oxide-wash"
    >
      {each.mark && (
        <span aria-hidden className="w-4 shrink-0 text-center font-mono text-fine text-ink-2">
          {each.mark}
        </span>
      )}
      <span className="min-w-0 flex-1">
        <span className="block [overflow-wrap:anywhere]">{each.label}</span>
        {each.says && <span className="block text-small font-normal text-ink-2">{each.says}</span>}
      </span>
      {each.detail && (
        <span className="max-w-[45%] min-w-0 truncate font-mono text-small font-normal text-ink-2">{each.detail}</span>
      )}
    </Command.Item>
  );
  return (
    <Popover.Root
      open={open}
      onOpenChange={is => {
        setOpen(is);
        setTyped('');
      }}
    >
      <Labelled {...{ label, hint, error, className, isBare }}>
        {ids => (
          <Popover.Trigger
            {...ids}
            ref={props.boxRef}
            autoFocus={props.autoFocus}
            role="combobox"
            aria-haspopup="listbox"
            aria-controls={open ? listId : undefined}
            onKeyDown={event => {
              if (event.key !== 'ArrowDown' && event.key !== 'ArrowUp') return;
              event.preventDefault();
              setOpen(true);
            }}
            className={`write flex items-baseline gap-2 text-left ${boxClass}`}
          >
            <span className={`min-w-0 flex-1 truncate ${picked ? '' : 'text-ink-3'}`}>
              {picked?.label ??
                (value === ''
                  ? (placeholder ?? none ?? 'choose…')
                  : isPending
                    ? '…'
                    : `${value} (no longer available)`)}
            </span>
            <ChevronDown aria-hidden className="size-3 shrink-0 self-center text-ink-3" />
          </Popover.Trigger>
        )}
      </Labelled>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={2}
          collisionPadding={8}
          role="dialog"
          aria-label={label}
          className="floats z-50 w-[max(20rem,var(--radix-popover-trigger-width))] max-w-[min(32rem,calc(100vw-1rem))]"
        >
          <Command label={label} shouldFilter={false}>
            <Command.Input
              autoFocus
              value={typed}
              onValueChange={setTyped}
              placeholder={prompt ?? 'Search'}
              className="w-full border-b border-oxide bg-transparent px-3 py-2 outline-none"
            />
            <Command.List id={listId} className="max-h-[min(20rem,50vh)] overflow-auto py-1">
              {none !== undefined && typed === '' && item({ value: '', label: none })}
              {groups.map(group => {
                const own = listed.filter(each => each.group === group).map(item);
                return group === undefined ? (
                  own
                ) : (
                  <Command.Group
                    key={group}
                    heading={group}
                    className="[&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:pb-0.5 [&_[cmdk-group-heading]]:text-fine [&_[cmdk-group-heading]]:text-ink-2"
                  >
                    {own}
                  </Command.Group>
                );
              })}
            </Command.List>
            {all.length > listed.length && (
              <p className="px-3 py-1.5 text-small text-ink-2">
                and {count(all.length - listed.length)} more. Type to search.
              </p>
            )}
            {all.length === 0 && (
              <p role="status" className="px-3 py-1.5 text-ink-2">
                No matches.
              </p>
            )}
          </Command>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
