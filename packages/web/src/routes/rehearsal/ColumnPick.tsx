import { Popover } from 'radix-ui';
import { Act, Tick } from '../../ui';

/** Columns. */
export function ColumnPick({
  columns,
}: {
  columns: { id: string; name: string; isShown: boolean; set: (isShown: boolean) => void }[];
}) {
  const shown = columns.filter(each => each.isShown).length;
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Act>{shown === columns.length ? 'Columns…' : `${shown} of ${columns.length} columns…`}</Act>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          collisionPadding={8}
          role="dialog"
          aria-label="Columns"
          className="floats z-50 max-h-[60vh] w-64 overflow-auto px-3 py-2"
        >
          <p className="mb-1 flex gap-4">
            <Act onClick={() => columns.forEach(each => each.set(true))}>All</Act>
            <Act onClick={() => columns.forEach(each => each.set(false))}>None</Act>
          </p>
          {columns.map(each => (
            <Tick
              key={each.id}
              label={<span className="font-mono text-small">{each.name}</span>}
              checked={each.isShown}
              onChange={each.set}
            />
          ))}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
