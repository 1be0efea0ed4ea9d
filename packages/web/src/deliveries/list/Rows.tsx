import type { DeliverySummary } from '@grammata/contract';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { useKeys } from '../../app/keys';
import { counted, DeliveryStateWord, Moment, useRowFocus } from '../../ui';
import { choose, chooseListed, type Chosen } from './choosing';

const ROW = 46;
/** That many rows before the end more are asked for. */
const AHEAD = 20;

/** The deliveries as a long list; those far away are not there until they are scrolled to. */
export function Rows({
  rows,
  total,
  more,
  chosen,
  onChoose,
}: {
  rows: DeliverySummary[];
  total: number;
  more: () => void;
  chosen: Chosen;
  onChoose: (chosen: Chosen) => void;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  const navigate = useNavigate();
  const [at, setAt] = useState(-1);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 12,
  });
  const items = virtual.getVirtualItems();
  const last = items.at(-1)?.index ?? 0;
  useEffect(() => {
    if (last >= rows.length - AHEAD && rows.length < total) more();
  });
  /** Where the last one was chosen: with Shift all between are. */
  const from = useRef<number | null>(null);
  const toggle = (index: number, isRange: boolean) => {
    onChoose(choose(chosen, rows, index, isRange ? from.current : null));
    from.current = index;
  };
  const go = useRowFocus(rows.length, at, setAt, virtual, scroller);
  const isAny = chosen.isAll || chosen.ids.size > 0;
  useKeys([
    { key: 'j', does: 'next', run: () => go(1) },
    { key: 'k', does: 'previous', run: () => go(-1) },
    { key: 'x', does: 'choose it', run: () => rows[at] && toggle(at, false) },
    { key: 'X', does: 'choose all from the last chosen to it', run: () => rows[at] && toggle(at, true) },
    {
      key: 'A',
      does: isAny ? 'choose none' : 'choose all that are listed',
      run: () => onChoose(chooseListed(chosen, rows)),
    },
    { key: 'Enter', does: 'open it', run: () => rows[at] && void navigate(`/deliveries/${rows[at].id}`) },
  ]);
  if (rows.length === 0) return null;
  return (
    <div ref={scroller} className="max-h-[calc(100vh-13.5rem)] min-h-40 overflow-auto">
      <ul
        aria-label={counted(total, 'delivery', 'deliveries')}
        className="relative"
        style={{ height: virtual.getTotalSize() }}
      >
        {items.map(({ index, start }) => {
          const row = rows[index]!;
          const isTroubled = row.state === 'held' || row.state === 'dead';
          return (
            <li
              key={row.id}
              data-row={index}
              style={{ transform: `translateY(${start}px)`, height: ROW }}
              className={`absolute inset-x-0 grid grid-cols-[1.75rem_minmax(0,1fr)_5rem] items-start gap-x-3 border-b border-rule pt-1.5 hover:bg-raised sm:grid-cols-[1.75rem_7.5rem_minmax(0,1fr)_6rem] xl:grid-cols-[1.75rem_7.5rem_minmax(0,1fr)_14rem_6.5rem] ${index === at ? 'chosen' : ''}`}
            >
              <label
                className="-mt-0.5 grid size-6 place-items-center"
                title="With Shift: all from the last chosen to this one"
              >
                <input
                  type="checkbox"
                  aria-label={`Choose ${row.about}`}
                  checked={chosen.isAll || chosen.ids.has(row.id)}
                  onChange={event => toggle(index, (event.nativeEvent as MouseEvent).shiftKey)}
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
            </li>
          );
        })}
      </ul>
    </div>
  );
}
