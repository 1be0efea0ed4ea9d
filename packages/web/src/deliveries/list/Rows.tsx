import type { DeliverySummary } from '@grammata/contract';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { useKeys } from '../../app/keys';
import { counted, DeliveryStateWord, Moment, useRowFocus } from '../../ui';
import { choose, chooseListed, chooseRange, type Chosen } from './choosing';
import type { Span } from './useDeliveries';

const ROW = 50;

/** A row that is held by its identifier, and the place at which it was seen. */
interface Held {
  id: string;
  index: number;
}

/** The deliveries as a long list; those far away are not there until they are scrolled to. */
export function Rows({
  total,
  rowAt,
  rows,
  between,
  see,
  chosen,
  onChoose,
  onHold,
}: {
  total: number;
  /** The row at a place; undefined where it is not here. */
  rowAt: (index: number) => DeliverySummary | undefined;
  /** Rows that are here. */
  rows: DeliverySummary[];
  between: (a: number, b: number) => Promise<DeliverySummary[]>;
  see: (span: Span) => void;
  chosen: Chosen;
  onChoose: (chosen: Chosen) => void;
  /** Says whether somebody is in the midst of the list. */
  onHold: (is: boolean) => void;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  const navigate = useNavigate();
  // The row that keys are for, and the one that was chosen last, are held by what they are: places move.
  const [cursor, setCursor] = useState<Held | null>(null);
  const from = useRef<Held | null>(null);
  const virtual = useVirtualizer({
    count: total,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 12,
  });
  const items = virtual.getVirtualItems();
  const [first, last] = [items[0]?.index ?? 0, items.at(-1)?.index ?? 0];
  useEffect(() => see({ first, last }), [see, first, last]);
  /** Where a row is by now; where it was, as long as it is not seen. */
  const placeOf = (held: Held | null) =>
    held === null ? -1 : (items.find(({ index }) => rowAt(index)?.id === held.id)?.index ?? held.index);
  const at = placeOf(cursor);
  const isAny = chosen.isAll || chosen.rows.size > 0;
  const isMidst = isAny || cursor !== null || (virtual.scrollOffset ?? 0) > ROW;
  useEffect(() => onHold(isMidst), [onHold, isMidst]);
  const toggle = (index: number, isRange: boolean) => {
    const row = rowAt(index);
    if (!row) return;
    const begin = isRange ? placeOf(from.current) : -1;
    from.current = { id: row.id, index };
    if (begin < 0) onChoose(choose(chosen, rows, row));
    else void between(begin, index).then(range => onChoose(chooseRange(chosen, range)));
  };
  const move = (index: number) => setCursor({ id: rowAt(index)?.id ?? '', index });
  const go = useRowFocus(total, at, move, virtual, scroller);
  useKeys([
    { key: 'j', does: 'next', run: () => go(1) },
    { key: 'k', does: 'previous', run: () => go(-1) },
    { key: 'x', does: 'select it', run: () => toggle(at, false) },
    { key: 'X', does: 'select range', run: () => toggle(at, true) },
    {
      key: 'A',
      does: isAny ? 'clear selection' : 'select all listed',
      run: () => onChoose(chooseListed(chosen, rows)),
    },
    { key: 'Enter', does: 'open it', run: () => cursor?.id && void navigate(`/deliveries/${cursor.id}`) },
  ]);
  if (total === 0) return null;
  return (
    <div ref={scroller} className="max-h-[calc(100vh-13.5rem)] min-h-40 overflow-auto">
      <ul
        aria-label={counted(total, 'delivery', 'deliveries')}
        className="relative"
        style={{ height: virtual.getTotalSize() }}
      >
        {items.map(({ index, start }) => {
          const row = rowAt(index);
          return (
            <li
              key={row?.id ?? index}
              data-row={index}
              style={{ transform: `translateY(${start}px)`, height: ROW }}
              className={`absolute inset-x-0 grid grid-cols-[1.75rem_minmax(0,1fr)_5rem] items-start gap-x-3 border-b border-rule pt-1.5 hover:bg-raised sm:grid-cols-[1.75rem_7.5rem_minmax(0,1fr)_6rem] xl:grid-cols-[1.75rem_7.5rem_minmax(0,1fr)_14rem_6.5rem] ${row && row.id === cursor?.id ? 'chosen' : ''}`}
            >
              {row ? (
                <Row
                  row={row}
                  isChosen={chosen.isAll || chosen.rows.has(row.id)}
                  onToggle={isRange => toggle(index, isRange)}
                />
              ) : (
                <span className="late col-span-2 col-start-2 text-ink-3">Reading…</span>
              )}
            </li>
          );
        })}
      </ul>
    </div>
  );
}

function Row({
  row,
  isChosen,
  onToggle,
}: {
  row: DeliverySummary;
  isChosen: boolean;
  onToggle: (isRange: boolean) => void;
}) {
  const isTroubled = row.state === 'held' || row.state === 'dead';
  return (
    <>
      <label className="-mt-0.5 grid size-6 place-items-center" title="With Shift: select a range">
        <input
          type="checkbox"
          aria-label={`Select ${row.about}`}
          checked={isChosen}
          onChange={event => onToggle((event.nativeEvent as MouseEvent).shiftKey)}
          className="tick"
        />
      </label>
      <span className="max-sm:hidden">
        <DeliveryStateWord state={row.state} />
      </span>
      <Link to={`/deliveries/${row.id}`} className="min-w-0">
        <span className="block truncate">{row.about}</span>
        <span className={`block truncate text-small ${isTroubled ? 'text-crimson' : 'text-ink-2'}`}>
          <span className="mr-2 sm:hidden">
            <DeliveryStateWord state={row.state} />
          </span>
          {row.reason ?? (row.attempts > 1 ? counted(row.attempts, 'attempt') : ' ')}
        </span>
      </Link>
      <span className="min-w-0 max-xl:hidden">
        <span className="block truncate text-ink-2">{row.routeName}</span>
        <span className="block text-small text-ink-2">version {row.version}</span>
      </span>
      <span className="pr-1 text-right text-ink-2">
        <Moment at={row.createdAt} />
      </span>
    </>
  );
}
