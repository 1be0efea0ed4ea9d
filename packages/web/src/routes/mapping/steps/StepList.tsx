import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { homeForStep } from '@grammata/core/match';
import {
  checkKinds,
  compileChain,
  isProblem,
  transformOf,
  type Step,
  type StepTrace,
  type TransformContext,
} from '@grammata/core/transform';
import { ArrowDown, ArrowUp, Pause, Play, X } from 'lucide-react';
import { useRef, type KeyboardEventHandler } from 'react';
import { Act, IconAct } from '../../../ui';
import type { Offered } from '../../workbench';
import { Parameters } from './Parameters';
import type { StepListProps } from './stepListProps';
import { Shown } from './Shown';
import { StepPicker } from './StepPicker';

/** A chain of steps, each with its parameters and the value after it; moved by dragging or by keys. */
export function StepList({ references, steps, onChange, kind, raw, context }: StepListProps) {
  const traces = compileChain(steps).trace(raw, context);
  const complaints = checkKinds(kind, steps).faults;
  const last = traces.at(-1)?.result ?? raw;
  const list = useRef<HTMLOListElement>(null);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 5 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const replace = (index: number, step: Step) => onChange(steps.map((each, at) => (at === index ? step : each)));
  const move = (from: number, to: number) => {
    if (to < 0 || to >= steps.length) return;
    onChange(arrayMove(steps, from, to));
    // The step keeps the focus in its new place.
    requestAnimationFrame(() => list.current?.querySelector<HTMLElement>(`[data-grip="${to}"]`)?.focus());
  };
  const places = steps.map((_, index) => String(index));
  return (
    <>
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragEnd={({ active, over }: DragEndEvent) => over && move(Number(active.id), Number(over.id))}
      >
        <SortableContext items={places} strategy={verticalListSortingStrategy}>
          <ol ref={list}>
            {steps.map((step, index) => (
              <StepRow
                key={index}
                index={index}
                count={steps.length}
                step={step}
                trace={traces[index]}
                before={index === 0 ? raw : traces[index - 1]?.result}
                complaint={complaints.find(each => each.step === index)?.message}
                references={references}
                context={context}
                onChange={next => replace(index, next)}
                onMove={by => move(index, index + by)}
                onRemove={() => onChange(steps.filter((_, at) => at !== index))}
              />
            ))}
          </ol>
        </SortableContext>
      </DndContext>
      <StepPicker value={isProblem(last) ? null : last} context={context} onPick={step => onChange([...steps, step])} />
    </>
  );
}

interface StepRowProps {
  index: number;
  count: number;
  step: Step;
  trace: StepTrace | undefined;
  before: StepTrace['result'] | undefined;
  complaint: string | undefined;
  references: Offered[];
  context: TransformContext;
  onChange: (step: Step) => void;
  onMove: (by: number) => void;
  onRemove: () => void;
}

function StepRow({
  index,
  count,
  step,
  trace,
  before,
  complaint,
  references,
  context,
  onChange,
  onMove,
  onRemove,
}: StepRowProps) {
  const { setNodeRef, listeners, transform, transition, isDragging } = useSortable({ id: String(index) });
  const known = transformOf(step.id);
  const home = known ? null : homeForStep(step.id);
  // What is written in a language wants the whole width, and its outcome under it.
  const isWritten = known?.family === 'expression';
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`grid gap-x-4 py-1 ${isWritten ? '' : 'sm:grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)]'} ${step.off ? 'opacity-60' : ''} ${isDragging ? 'relative z-10 bg-oxide-wash' : ''}`}
    >
      <div>
        <div className="flex flex-wrap items-baseline gap-x-2.5">
          <button
            type="button"
            data-grip={index}
            {...listeners}
            aria-label={`Step ${index + 1}: ${known?.label ?? step.id}. Alt with the arrows moves it, or Space and the arrows.`}
            title="Drag, or Alt ↑ and Alt ↓"
            onKeyDown={event => {
              (listeners?.onKeyDown as KeyboardEventHandler | undefined)?.(event);
              if (!event.altKey || (event.key !== 'ArrowUp' && event.key !== 'ArrowDown')) return;
              event.preventDefault();
              onMove(event.key === 'ArrowUp' ? -1 : 1);
            }}
            className="cursor-grab touch-none font-medium"
          >
            {known?.label ?? step.id}
            {step.off && ' (off)'}
          </button>
          <span className="flex">
            <IconAct
              icon={ArrowUp}
              label={`Move step ${index + 1} up`}
              onClick={() => onMove(-1)}
              disabled={index === 0}
            />
            <IconAct
              icon={ArrowDown}
              label={`Move step ${index + 1} down`}
              onClick={() => onMove(1)}
              disabled={index === count - 1}
            />
            <IconAct
              icon={step.off ? Play : Pause}
              label={`Switch step ${index + 1} ${step.off ? 'on' : 'off'}`}
              onClick={() => onChange({ ...step, off: !step.off })}
            />
            <IconAct icon={X} label={`Remove step ${index + 1}`} onClick={onRemove} />
          </span>
        </div>
        {complaint && <p className="font-serif text-ochre">△ {complaint}</p>}
        {home && (
          <p>
            <Act onClick={() => onChange({ ...step, id: home })}>Change to “{transformOf(home)!.label}”</Act>
          </p>
        )}
        <Parameters
          step={step}
          onChange={params => onChange({ ...step, params })}
          references={references}
          before={before ?? null}
          context={context}
          list={StepList}
        />
      </div>
      {isWritten ? (
        <Outcome before={before} result={trace?.result} />
      ) : trace ? (
        <Shown value={trace.result} />
      ) : (
        notReached
      )}
    </li>
  );
}

const notReached = <span className="font-mono text-small text-ink-3">not run</span>;

/** What an expression works on, and what it gives, for the sample at hand. */
const Outcome = ({
  before,
  result,
}: {
  before: StepTrace['result'] | undefined;
  result: StepTrace['result'] | undefined;
}) => (
  <div className="mt-1.5 grid gap-x-6 gap-y-2 pl-0.5 text-small sm:grid-cols-2">
    <div className="min-w-0">
      <p className="text-ink-2">Input</p>
      <Whole value={before} />
    </div>
    <div className="min-w-0" aria-live="polite">
      <p className="text-ink-2">Output</p>
      <Whole value={result} />
    </div>
  </div>
);

/** A value as it is, over as many lines as it has. */
function Whole({ value }: { value: StepTrace['result'] | undefined }) {
  if (value === undefined) return notReached;
  if (isProblem(value) || typeof value !== 'object' || value === null) return <Shown value={value} />;
  return (
    <pre tabIndex={0} className="max-h-40 overflow-auto font-mono text-small whitespace-pre-wrap">
      {JSON.stringify(value, null, 2)}
    </pre>
  );
}
