import type { CompiledLine, Outcome } from '@grammata/core/request';
import { placeOfLine, stateOf } from '@grammata/core/rehearse';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef } from 'react';
import { Act, counted, when } from '../../ui';
import type { Workbench } from '../workbench';
import { Shown } from './Shown';
import { Value } from './Value';

export type Fares = Outcome['state'];
const words: Record<Fares, string> = { fine: 'fine', blank: 'blank', trouble: 'in trouble' };
const ROW = 26;

/** The submissions behind a bar: those on which the line is fine, blank or in trouble, with their values. */
export function LineFares({
  workbench: { rehearsal, samples, show, at, editing },
  compiled,
  fares,
  onFares,
  onClose,
}: {
  workbench: Workbench;
  compiled: CompiledLine;
  fares: Fares;
  onFares: (fares: Fares) => void;
  onClose: () => void;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  const line = rehearsal ? placeOfLine(rehearsal, compiled.line.id) : -1;
  const rows = useMemo(
    () =>
      rehearsal
        ? samples.flatMap(({ place }, at) =>
            line >= 0 && rehearsal.goes[place] === 1 && stateOf(rehearsal, line, place) === fares ? [at] : [],
          )
        : [],
    [rehearsal, samples, line, fares],
  );
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 8,
  });
  const totals = rehearsal?.lines[line];
  const context = { timeZone: editing.draft.terms.timeZone };
  return (
    <section
      aria-label={`Submissions behind ${compiled.line.to}`}
      className="border-t border-rule bg-sunk px-3.5 pb-2 md:pl-[58px]"
      onKeyDown={event => event.key === 'Escape' && onClose()}
    >
      <div role="group" aria-label="How it fares" className="flex items-baseline gap-5 py-1.5">
        {(Object.keys(words) as Fares[]).map(each => (
          <button
            key={each}
            type="button"
            aria-pressed={fares === each}
            onClick={() => onFares(each)}
            className={
              fares === each
                ? 'font-semibold underline decoration-oxide decoration-2 underline-offset-4'
                : 'text-ink-2 hover:text-ink'
            }
          >
            {words[each]} <span className="font-mono text-fine font-normal text-ink-3">{totals?.[each] ?? 0}</span>
          </button>
        ))}
        <span className="flex-1" />
        <Act onClick={onClose}>Close</Act>
      </div>
      {rows.length === 0 && <p className="pb-1 text-ink-2">No submission is {words[fares]} here.</p>}
      <div
        ref={scroller}
        role="region"
        tabIndex={0}
        aria-label={counted(rows.length, 'submission')}
        className="max-h-56 overflow-auto"
      >
        <ul className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map(({ index: row, start }) => {
            const place = rows[row]!;
            const sample = samples[place]!;
            return (
              <li
                key={sample.id}
                className="absolute inset-x-0 border-b border-rule"
                style={{ transform: `translateY(${start}px)`, height: ROW }}
              >
                <button
                  type="button"
                  onClick={() => show(place)}
                  aria-current={place === at}
                  className={`grid h-full w-full grid-cols-[8.5rem_minmax(0,1fr)_minmax(0,1fr)] items-center gap-3 text-left hover:bg-raised ${place === at ? 'bg-oxide-wash' : ''}`}
                >
                  <span className="text-small text-ink-2">{when(sample.receivedAt)}</span>
                  <span className="truncate [&_*]:whitespace-nowrap">
                    <Shown value={compiled.sourceValue(sample.scope)} />
                  </span>
                  <Value outcome={compiled.outcome(sample.scope, context)} filled />
                </button>
              </li>
            );
          })}
        </ul>
      </div>
    </section>
  );
}
