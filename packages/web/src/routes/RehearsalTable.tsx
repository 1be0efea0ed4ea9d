import { isRehearsed, isTroubled } from '@grammata/core/rehearse';
import { isBlank, asText } from '@grammata/core/submission';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { useKeys } from '../app/keys';
import { Empty, useRowFocus, when } from '../ui';
import type { Workbench } from './workbench';

const ROW = 30;
const COLUMN = 168;
const shows = { all: 'all', trouble: 'in trouble', out: 'left out' } as const;
type Shown = keyof typeof shows;

/** All recorded samples in one table: what each line gives, fine, blank or in trouble. */
export function RehearsalTable({ workbench }: { workbench: Workbench }) {
  const { compiled, rehearsal, run, samples, route, editing, call, operationOf, showCall } = workbench;
  const [shown, setShown] = useState<Shown>('all');
  const scroller = useRef<HTMLDivElement>(null);
  const navigate = useNavigate();
  const [at, setAt] = useState(0);
  const rows = useMemo(
    () =>
      samples
        .map((sample, index) => ({
          sample,
          index,
          // What was not rehearsed yet is not known, and counts as neither.
          isKnown: run !== null && isRehearsed(run, sample.place),
          goes: run?.goes[sample.place] === 1,
          sends: run?.sends[sample.place] === 1,
          troubled: rehearsal !== null && isTroubled(rehearsal, sample.place),
        }))
        .filter(
          row =>
            shown === 'all' ||
            (row.isKnown && (shown === 'out' ? !row.goes : row.goes && (row.troubled || !row.sends))),
        ),
    [samples, rehearsal, run, shown],
  );
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 10,
  });
  const open = (id: string) => void navigate(`/routes/${route.id}/what?sample=${id}`);
  const go = useRowFocus(rows.length, at, setAt, virtual, scroller);
  useKeys([
    { key: 'j', does: 'next sample', run: () => go(1) },
    { key: 'k', does: 'previous sample', run: () => go(-1) },
    { key: 'Enter', does: 'open it in What', run: () => rows[at] && open(rows[at].sample.id) },
  ]);
  if (!compiled)
    return (
      <div className="px-6">
        <Empty title="Nothing to rehearse against.">The target does not offer this operation any more.</Empty>
      </div>
    );
  const { calls } = editing.draft;
  const columns = `3rem 9rem 7rem repeat(${compiled.lines.length}, ${COLUMN}px)`;
  const counts: Record<Shown, number> = {
    all: samples.length,
    trouble: run
      ? samples.filter(
          ({ place }) =>
            run.goes[place] === 1 && (run.sends[place] !== 1 || (rehearsal !== null && isTroubled(rehearsal, place))),
        ).length
      : 0,
    out: run ? run.goes.length - run.going : 0,
  };
  return (
    <div className="flex min-h-0 flex-1 flex-col px-6 pb-4">
      {calls.length > 1 && (
        <div role="group" aria-label="Lines of which call" className="flex flex-wrap gap-x-5 gap-y-1 pt-2.5">
          {calls.map((each, index) => (
            <button
              key={each.id}
              type="button"
              aria-pressed={each.id === call.id}
              onClick={() => showCall(each.id)}
              className={each.id === call.id ? 'font-semibold' : 'text-ink-2 hover:text-ink'}
            >
              <span className="mr-1 font-serif font-normal text-ink-3">{index + 1}</span>
              {operationOf(each)?.label ?? each.operationId}
            </button>
          ))}
        </div>
      )}
      <div role="group" aria-label="Which samples" className="flex gap-5 py-2.5">
        {(Object.keys(shows) as Shown[]).map(key => (
          <button
            key={key}
            type="button"
            aria-pressed={shown === key}
            onClick={() => setShown(key)}
            className={
              shown === key
                ? 'font-semibold underline decoration-oxide decoration-2 underline-offset-4'
                : 'text-ink-2 hover:text-ink'
            }
          >
            {shows[key]} <span className="font-mono text-fine font-normal text-ink-3">{counts[key]}</span>
          </button>
        ))}
      </div>
      <div
        ref={scroller}
        role="region"
        aria-label="Rehearsal of all samples"
        tabIndex={0}
        className="max-h-[calc(100vh-14.5rem)] overflow-auto border-t border-rule"
      >
        <div role="table" aria-rowcount={rows.length + 1} className="min-w-max">
          <div
            role="row"
            className="sticky top-0 z-10 grid border-b border-ink bg-paper text-small text-ink-2"
            style={{ gridTemplateColumns: columns }}
          >
            <span role="columnheader" className="py-1.5 pr-3 text-right">
              No.
            </span>
            <span role="columnheader" className="py-1.5">
              Received
            </span>
            <span role="columnheader" className="py-1.5">
              {calls.length > 1 ? 'All calls' : 'Goes'}
            </span>
            {compiled.lines.map(({ line }) => (
              <span role="columnheader" key={line.id} className="truncate px-2 py-1.5 font-mono font-medium text-ink">
                {line.to}
              </span>
            ))}
          </div>
          <div role="rowgroup" className="relative" style={{ height: virtual.getTotalSize() }}>
            {virtual.getVirtualItems().map(({ index, start }) => {
              const { sample, isKnown, goes, sends, index: number } = rows[index]!;
              const planned = compiled.plan(sample.scope, { timeZone: editing.draft.terms.timeZone });
              return (
                <div
                  role="row"
                  key={sample.id}
                  data-row={index}
                  onClick={() => open(sample.id)}
                  style={{ transform: `translateY(${start}px)`, height: ROW, gridTemplateColumns: columns }}
                  className={`absolute grid cursor-pointer items-center border-b border-rule hover:bg-raised ${index === at ? 'bg-oxide-wash' : ''} ${isKnown && !goes ? 'text-ink-3' : ''}`}
                >
                  <span role="cell" className="pr-3 text-right font-mono text-fine text-ink-3">
                    <a
                      href={`/routes/${route.id}/what?sample=${sample.id}`}
                      onClick={event => {
                        event.preventDefault();
                        open(sample.id);
                      }}
                      className="hover:underline"
                    >
                      {number + 1}
                    </a>
                  </span>
                  <span role="cell" className="text-small">
                    {sample.isVariant ? 'variant' : when(sample.receivedAt)}
                  </span>
                  <span role="cell" className="text-small">
                    {!isKnown ? (
                      <span className="text-ink-3">…</span>
                    ) : !goes ? (
                      'left out'
                    ) : sends ? (
                      <span className="text-verdigris">✓ can go</span>
                    ) : (
                      <span className="text-crimson">! can’t go</span>
                    )}
                  </span>
                  {planned.outcomes.map((outcome, line) => (
                    <span
                      role="cell"
                      key={compiled.lines[line]!.line.id}
                      title={outcome.problem?.message ?? asText(outcome.value)}
                      className={`truncate px-2 font-mono text-small ${outcome.state === 'trouble' ? 'bg-crimson-wash leading-[29px] text-crimson' : outcome.state === 'blank' ? 'text-ink-3' : ''}`}
                    >
                      {outcome.state === 'trouble'
                        ? `! ${outcome.problem?.message ?? ''}`
                        : isBlank(outcome.value)
                          ? '–'
                          : asText(outcome.value)}
                    </span>
                  ))}
                </div>
              );
            })}
          </div>
        </div>
      </div>
    </div>
  );
}
