import type { CompiledLine, Outcome, Source } from '@grammata/core/request';
import { asText, isBlank } from '@grammata/core/submission';
import { Bar } from '../../ui';
import type { Workbench } from '../workbench';
import { LineEditor } from './LineEditor';
import { LineNotes } from './LineNotes';
import type { EditLine } from './editLine';

interface LineRowProps {
  workbench: Workbench;
  compiled: CompiledLine;
  index: number;
  outcome: Outcome | null;
  isOpen: boolean;
  onOpen: (is: boolean) => void;
  edit: EditLine;
  showNotes: boolean;
}

/** One line of the galley; it opens in place. Its notes stand beside it in the margin. */
export function LineRow({ workbench, compiled, index, outcome, isOpen, onOpen, edit, showNotes }: LineRowProps) {
  const { line, field } = compiled;
  const totals = workbench.rehearsal?.lines[index];
  return (
    <li className="grid xl:grid-cols-[minmax(0,1fr)_268px]">
      <div
        className={
          isOpen
            ? 'border-b border-ink bg-raised shadow-[0_-1px_0_var(--ink)]'
            : 'border-b border-rule hover:bg-raised/60'
        }
      >
        <div
          onClick={() => onOpen(!isOpen)}
          className="grid cursor-pointer grid-cols-[34px_minmax(0,1fr)_74px] items-baseline gap-x-2.5 px-3.5 py-1.5 md:grid-cols-[34px_150px_minmax(0,1fr)_178px_74px]"
        >
          <span className="pr-1 text-right font-mono text-fine/[1.125rem] text-ink-3">{index + 1}</span>
          <button
            type="button"
            id={`line-${line.id}`}
            aria-expanded={isOpen}
            onClick={event => {
              event.stopPropagation();
              onOpen(!isOpen);
            }}
            className="truncate text-left font-mono text-small font-medium"
            title={field?.label ?? line.to}
          >
            {line.to}
            {field?.required && (
              <span className="text-oxide" aria-label="required">
                *
              </span>
            )}
          </button>
          <span className="min-w-0 max-md:col-start-2">
            <SourceWords source={line.source} labelOf={workbench.labelOf} />
            <span className="block truncate text-small text-ink-2">{compiled.chain.explain.join(', then ')}</span>
          </span>
          <span className="min-w-0 max-md:col-start-2">
            <Value outcome={outcome} filled={line.source !== null} />
          </span>
          <span className="flex items-center gap-1.5 whitespace-nowrap max-md:col-start-3 max-md:row-start-1">
            {line.source && totals && (
              <Bar
                fine={totals.fine}
                blank={totals.blank}
                trouble={totals.trouble}
                label={`${totals.fine} fine, ${totals.blank} blank, ${totals.trouble} in trouble`}
              />
            )}
            {line.source && totals && totals.trouble > 0 && (
              <span className="font-mono text-[0.625rem] text-crimson">{totals.trouble}</span>
            )}
          </span>
        </div>
        {isOpen && <LineEditor workbench={workbench} compiled={compiled} edit={edit} onClose={() => onOpen(false)} />}
      </div>
      <div className="space-y-2 px-4 pb-2 xl:py-1.5 xl:pr-[18px] xl:pl-1">
        {showNotes && (
          <LineNotes
            workbench={workbench}
            compiled={compiled}
            index={index}
            edit={edit}
            onOpen={() => onOpen(true)}
            outcome={outcome}
          />
        )}
      </div>
    </li>
  );
}

function SourceWords({ source, labelOf }: { source: Source | null; labelOf: (key: string) => string }) {
  if (source === null) return <span className="text-ink-3 italic">nothing yet</span>;
  if (source.from === 'field') return <span className="block truncate text-lapis">{labelOf(source.field)}</span>;
  if (source.from === 'constant')
    return (
      <span className="block truncate">
        always <span className="font-mono text-small">{asText(source.value) || '(blank)'}</span>
      </span>
    );
  return (
    <span className="block truncate font-serif text-[0.875rem] italic">
      {source.segments.map((each, index) =>
        'text' in each ? (
          <span key={index}>{each.text}</span>
        ) : (
          <span key={index} className="text-lapis">{`{${labelOf(each.field)}}`}</span>
        ),
      )}
    </span>
  );
}

/** What goes into the request for the sample at hand. */
export function Value({ outcome, filled }: { outcome: Outcome | null; filled: boolean }) {
  if (!outcome || !filled) return <span className="font-mono text-small text-ink-3">–</span>;
  if (outcome.state === 'trouble')
    return (
      <span className="block truncate font-mono text-small text-crimson" title={outcome.problem?.message}>
        ! {outcome.problem?.message}
      </span>
    );
  if (outcome.value === undefined) return <span className="font-mono text-small text-ink-3">left out</span>;
  if (outcome.value === null || isBlank(outcome.value))
    return <span className="font-mono text-small text-ink-3">{JSON.stringify(outcome.value)}</span>;
  const text =
    Array.isArray(outcome.value) && outcome.value.some(each => typeof each === 'object')
      ? outcome.value
          .map(each => (typeof each === 'object' && each !== null && 'name' in each ? asText(each.name) : asText(each)))
          .join(', ')
      : asText(outcome.value);
  return (
    <span className="block truncate font-mono text-small" title={text}>
      {text}
    </span>
  );
}
