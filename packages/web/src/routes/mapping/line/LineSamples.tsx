import type { CompiledLine, Outcome } from '@grammata/core/request';
import { placeOfLine, stateOf } from '@grammata/core/rehearse';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef } from 'react';
import { Act, Choices, counted, When, onEscape } from '../../../ui';
import { useWorkbench } from '../../workbench';
import { Shown } from '../steps/Shown';
import { Value } from './Value';

export type Fate = Outcome['state'];
const words: Record<Fate, string> = { fine: 'fine', blank: 'blank', trouble: 'with problems' };
const ROW = 26;

/** The submissions behind a bar: those on which the line is fine, blank or in trouble, with their values. */
export function LineSamples({
  compiled,
  fate,
  onFate,
  onClose,
}: {
  compiled: CompiledLine;
  fate: Fate;
  onFate: (fate: Fate) => void;
  onClose: () => void;
}) {
  const { rehearsal, samples, show, at, editing } = useWorkbench('editing', 'walk', 'rehearsed');
  const scroller = useRef<HTMLDivElement>(null);
  const line = rehearsal ? placeOfLine(rehearsal, compiled.line.id) : -1;
  const rows = useMemo(
    () =>
      rehearsal
        ? samples.flatMap(({ place }, at) =>
            line >= 0 && rehearsal.goes[place] === 1 && stateOf(rehearsal, line, place) === fate ? [at] : [],
          )
        : [],
    [rehearsal, samples, line, fate],
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
      aria-label={`Submissions for ${compiled.line.to}`}
      className="border-t border-rule bg-sunk px-3.5 pb-2 md:pl-[50px]"
      onKeyDown={onEscape(onClose)}
    >
      <div className="flex flex-wrap items-baseline gap-x-5 py-1.5">
        <Choices
          label={`Submissions for which ${compiled.line.to} is`}
          value={fate}
          onChange={onFate}
          ways={(Object.keys(words) as Fate[]).map(each => ({
            value: each,
            label: words[each],
            count: totals?.[each] ?? null,
          }))}
        />
        <span className="flex-1" />
        <Act onClick={onClose}>Close</Act>
      </div>
      {rows.length === 0 && <p className="pb-1 text-ink-2">None.</p>}
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
                  <span className="text-small text-ink-2">
                    {sample.isVariant ? (sample.name ?? 'variant') : <When at={sample.receivedAt} />}
                  </span>
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
