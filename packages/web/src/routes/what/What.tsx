import type { Line } from '@grammata/core/request';
import { wireText } from '@grammata/core/request';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { useKeys } from '../../app/keys';
import { Empty, Wire } from '../../ui';
import type { Workbench } from '../workbench';
import { Copy } from './Copy';
import type { EditLine } from './editLine';
import { LineRow } from './LineRow';

/** Which line is open; it stands in the address. */
function useOpenLine(lines: Line[]) {
  const [params, setParams] = useSearchParams();
  const open = params.get('line');
  const setOpen = (id: string | null) =>
    setParams(
      before => {
        const after = new URLSearchParams(before);
        if (id) after.set('line', id);
        else after.delete('line');
        return after;
      },
      { replace: true },
    );
  const index = lines.findIndex(line => line.id === open);
  return { open: index < 0 ? null : open, index, setOpen };
}

/** The mapping as a numbered galley: the sample on the left, a line for each field of the target, the margin on the right. */
export function What({ workbench }: { workbench: Workbench }) {
  const { editing, compiled, sample, at, show, samples, nextInTrouble, route } = workbench;
  const lines = editing.draft.call.lines;
  const { open, index: openIndex, setOpen } = useOpenLine(lines);
  const [cursor, setCursor] = useState(0);
  const [margin, setMargin] = useState<'notes' | 'wire'>('notes');
  const go = (by: number) => {
    const next = Math.min(lines.length - 1, Math.max(0, cursor + by));
    setCursor(next);
    document.getElementById(`line-${lines[next]?.id}`)?.focus();
  };
  useKeys([
    { key: 'j', does: 'next line', run: () => go(1) },
    { key: 'k', does: 'previous line', run: () => go(-1) },
    { key: 'n', does: 'next in trouble', run: () => nextInTrouble(openIndex < 0 ? undefined : openIndex) },
    { key: 'h', does: 'previous sample', run: () => show(at - 1) },
    { key: 'l', does: 'next sample', run: () => show(at + 1) },
    { key: 'w', does: 'margin or wire', run: () => setMargin(margin === 'wire' ? 'notes' : 'wire') },
    { key: 'Escape', does: 'close the line', run: () => setOpen(null) },
  ]);
  if (!compiled)
    return (
      <div className="px-6">
        <Empty title="The target does not offer this operation any more.">
          Read the target again, or start a new route. The lines of this one are kept.
        </Empty>
      </div>
    );
  const context = { timeZone: editing.draft.terms.timeZone };
  const planned = sample ? compiled.plan(sample.submission, context) : null;
  const editLine =
    (id: string): EditLine =>
    change =>
      editing.edit(draft => ({
        ...draft,
        call: { ...draft.call, lines: draft.call.lines.map(line => (line.id === id ? change(line) : line)) },
      }));
  return (
    <div className="grid flex-1 grid-cols-1 md:grid-cols-[minmax(0,1fr)] lg:grid-cols-[276px_minmax(0,1fr)]">
      <Copy
        workbench={workbench}
        onPick={
          openIndex < 0 ? null : key => editLine(open!)(line => ({ ...line, source: { from: 'field', field: key } }))
        }
        hot={lines[openIndex]?.source ?? null}
      />
      <section aria-label="Lines" className="relative min-w-0">
        <div aria-hidden className="absolute inset-y-0 right-0 w-[268px] border-l border-rule bg-sunk max-xl:hidden" />
        <div className="relative grid xl:grid-cols-[minmax(0,1fr)_268px]">
          <div className="grid grid-cols-[34px_minmax(0,1fr)_74px] gap-x-2.5 border-b border-rule px-3.5 pt-2.5 pb-1.5 text-fine text-ink-3 md:grid-cols-[34px_150px_minmax(0,1fr)_178px_74px]">
            <span />
            <span>{route.target.name} field</span>
            <span className="max-md:hidden">Comes from</span>
            <span className="max-md:hidden">Value for sample {samples.length > 0 ? at + 1 : '–'}</span>
            <span>All {samples.length}</span>
          </div>
          <div
            role="group"
            aria-label="Margin shows"
            className="mr-[18px] ml-4 flex items-baseline gap-4 border-b border-rule pt-2.5 pb-1.5 max-xl:hidden"
          >
            <button
              type="button"
              aria-pressed={margin === 'notes'}
              onClick={() => setMargin('notes')}
              className={margin === 'notes' ? 'font-semibold' : 'text-ink-3'}
            >
              Margin
            </button>
            <button
              type="button"
              aria-pressed={margin === 'wire'}
              onClick={() => setMargin('wire')}
              className={margin === 'wire' ? 'font-semibold' : 'text-ink-3'}
            >
              Wire <kbd>w</kbd>
            </button>
          </div>
        </div>
        <ol className="relative">
          {compiled.lines.map((line, index) => (
            <LineRow
              key={line.line.id}
              workbench={workbench}
              compiled={line}
              index={index}
              outcome={planned?.outcomes[index] ?? null}
              isOpen={open === line.line.id}
              onOpen={is => {
                setCursor(index);
                setOpen(is ? line.line.id : null);
              }}
              edit={editLine(line.line.id)}
              showNotes={margin === 'notes'}
            />
          ))}
        </ol>
        {margin === 'wire' && (
          <aside
            aria-label="Outgoing message"
            className="sticky top-2 px-3.5 py-3 xl:absolute xl:top-12 xl:right-0 xl:w-[252px] xl:p-0 xl:pr-[18px]"
          >
            {planned ? (
              <Wire
                label="Outgoing message"
                text={wireText(planned.request, route.target.hasToken ? [['authorization', 'Bearer ••••••']] : [])}
              />
            ) : (
              <p className="font-serif text-ink-2">No sample to make a message of.</p>
            )}
            {planned && !planned.sendable && (
              <p className="mt-3 border-l-2 border-crimson pl-2 font-serif text-crimson">
                It can’t be sent as it is: the margin says why.
              </p>
            )}
          </aside>
        )}
      </section>
    </div>
  );
}
