import { useDroppable } from '@dnd-kit/core';
import type { LineProposal } from '@grammata/core/match';
import { compileLine, type CompiledLine } from '@grammata/core/request';
import type { Scope } from '@grammata/core/scope';
import { writingWords } from '@grammata/core/route';
import { asText } from '@grammata/core/submission';
import { memo } from 'react';
import { Bar, count, Tip } from '../../../ui';
import { useWorkbench } from '../../workbench';
import { LineEditor } from './LineEditor';
import { LineSamples, type Fate } from './LineSamples';
import { LineNotes } from './LineNotes';
import { lineColumns, type LineRowProps } from './lineRowProps';
import { SourceWords } from './SourceWords';
import { Value } from './Value';

/** One line of the galley; it opens in place. Its notes stand beside it in the margin. */
export const LineRow = memo(function LineRow(props: LineRowProps) {
  const { compiled, index, outcome, proposal, isOpen, fate, showNotes, scope, timeZone, changesRecords, deeds } = props;
  const { labelOf } = useWorkbench('offers');
  const { line, field } = compiled;
  const { setNodeRef, isOver } = useDroppable({ id: line.id });
  const ground = isOver
    ? 'bg-lapis-wash outline-1 -outline-offset-1 outline-lapis'
    : isOpen
      ? 'border-b border-ink bg-raised shadow-[0_-1px_0_var(--ink)]'
      : 'border-b border-rule hover:bg-raised';
  return (
    <li data-line={line.id} className="xl:flex">
      <div ref={setNodeRef} className={`min-w-0 flex-1 ${ground}`}>
        <div
          onClick={() => deeds.open(line.id, !isOpen)}
          className={`grid min-h-[30px] cursor-pointer items-baseline gap-x-2.5 px-3.5 py-[3px] ${lineColumns}`}
        >
          <span className="pr-1 text-right font-mono text-fine/[1.125rem] text-ink-3">{index + 1}</span>
          <button
            type="button"
            id={`line-${line.id}`}
            aria-expanded={isOpen}
            onClick={event => {
              event.stopPropagation();
              deeds.open(line.id, !isOpen);
            }}
            className={`truncate text-left font-mono text-small font-medium ${field ? '' : 'line-through decoration-crimson'}`}
            title={field?.label ?? line.to}
          >
            {line.to}
            {field?.required && (
              <span className="text-oxide" aria-label="required">
                *
              </span>
            )}
          </button>
          <FateBar {...props} />
          <span className="flex min-w-0 items-baseline gap-x-2 max-md:col-span-2 max-md:col-start-2 max-md:flex-wrap">
            {proposal ? (
              <Proposed proposal={proposal} compiled={compiled} labelOf={labelOf} />
            ) : (
              <>
                {line.source === null && field?.fixed !== undefined ? (
                  <span className="block truncate text-ink-2">
                    always <span className="font-mono text-small">{asText(field.fixed)}</span>, unless filled
                  </span>
                ) : (
                  <SourceWords source={line.source} labelOf={labelOf} />
                )}
                <span className="min-w-0 shrink-[2] truncate font-serif text-ink-2">
                  {[
                    ...compiled.chain.explain,
                    ...(line.source && changesRecords && line.writes && line.writes !== 'always'
                      ? [writingWords[line.writes]]
                      : []),
                  ].join(', then ')}
                </span>
              </>
            )}
          </span>
          <span className="min-w-0 max-md:col-span-2 max-md:col-start-2">
            {proposal ? (
              <ProposedValue proposal={proposal} compiled={compiled} scope={scope} timeZone={timeZone} />
            ) : (
              <Value
                outcome={outcome}
                filled={line.source !== null}
                fixed={line.source === null ? field?.fixed : undefined}
              />
            )}
          </span>
        </div>
        {isOpen && (
          <LineEditor
            compiled={compiled}
            edit={deeds.edit(line.id)}
            onClose={() => deeds.open(line.id, false)}
            onRemove={field ? null : () => deeds.remove(line.id)}
          />
        )}
        {fate && (
          <LineSamples
            compiled={compiled}
            fate={fate}
            onFate={next => deeds.showFate(line.id, next)}
            onClose={() => deeds.showFate(line.id, null)}
          />
        )}
      </div>
      {/* Only beside a line that has something to say. */}
      <div className="space-y-2 border-b border-rule bg-sunk px-4 py-1 empty:hidden xl:w-[264px] xl:shrink-0 xl:border-l xl:pr-[18px] xl:pl-3">
        {showNotes && <LineNotes {...props} />}
      </div>
    </li>
  );
});

/** The bar over all samples; pressing a part of it lists the submissions behind that part. */
function FateBar({ compiled: { line }, fare: totals, fate, deeds }: LineRowProps) {
  if (!line.source || !totals) return <span />;
  const likeliest: Fate = totals.trouble > 0 ? 'trouble' : totals.fine > 0 ? 'fine' : 'blank';
  const words = `${count(totals.fine)} fine, ${count(totals.blank)} blank, ${count(totals.trouble)} with problems`;
  return (
    <Tip words={`${words}. Show them.`}>
      <button
        type="button"
        id={`bar-${line.id}`}
        aria-expanded={fate !== null}
        aria-label={`${line.to} over all samples: ${words}`}
        onClick={event => {
          event.stopPropagation();
          const part = (event.target as Element).closest<HTMLElement>('[data-part]')?.dataset.part as Fate | undefined;
          deeds.showFate(line.id, fate && (part === undefined || part === fate) ? null : (part ?? likeliest));
        }}
        className="counted -my-1 flex min-h-6 items-center gap-1.5 py-1 whitespace-nowrap max-md:row-start-1 max-md:col-start-3"
      >
        <Bar fine={totals.fine} blank={totals.blank} trouble={totals.trouble} />
        {totals.trouble > 0 && <span className="font-mono text-fine text-crimson">{count(totals.trouble)}</span>}
      </button>
    </Tip>
  );
}

const drawn = (proposal: LineProposal, { line, field }: CompiledLine) =>
  compileLine({ ...line, source: proposal.source, cleaning: proposal.cleaning }, field);

/** What could fill the line, told apart from what does. */
function Proposed({
  proposal,
  compiled,
  labelOf,
}: {
  proposal: LineProposal;
  compiled: CompiledLine;
  labelOf: (key: string) => string;
}) {
  const line = drawn(proposal, compiled);
  return (
    <span className="flex min-w-0 items-baseline gap-x-2 border-l-2 border-dotted border-lapis pl-2 italic max-md:flex-wrap">
      <SourceWords source={line.line.source} labelOf={labelOf} />
      <span className="min-w-0 shrink-[2] truncate font-serif text-ink-2">{line.chain.explain.join(', then ')}</span>
    </span>
  );
}

function ProposedValue({
  proposal,
  compiled,
  scope,
  timeZone,
}: {
  proposal: LineProposal;
  compiled: CompiledLine;
  scope: Scope | null;
  timeZone: string;
}) {
  if (!scope) return null;
  return (
    <span className="italic">
      <Value outcome={drawn(proposal, compiled).outcome(scope, { timeZone })} filled />
    </span>
  );
}
