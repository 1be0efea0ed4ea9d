import { useTargets } from '../../../lists';
import type { Json } from '@grammata/core/submission';
import {
  isProblem,
  transformOf,
  type ParameterField,
  type Problem,
  type Step,
  type TransformContext,
} from '@grammata/core/transform';
import { useState, type ReactNode } from 'react';
import { Choice, count, FileAct, LinesBox, numberIn, TextBox, useTyped } from '../../../ui';
import type { Offered } from '../../workbench';
import { ReferencePick } from '../../workbench';
import { Pairs } from './Pairs';
import type { TypedProps } from './typedProps';
import type { StepListProps } from './stepListProps';

interface ParametersProps {
  step: Step;
  onChange: (params: Step['params']) => void;
  references: Offered[];
  /** What the step is given for the sample at hand. */
  before: Json | Problem;
  context: TransformContext;
  /** Shows the steps that a step is made of: a list of steps, as the one that this step stands in. */
  list: (props: StepListProps) => ReactNode;
}

/** The parameters of a step, each as it asks to be given. */
export function Parameters({ step, onChange, ...rest }: ParametersProps) {
  const transform = transformOf(step.id);
  if (!transform || transform.asks.length === 0) return null;
  const defaults = new transform.params() as Step['params'];
  return (
    <div className="space-y-1 py-1">
      {transform.asks.map(ask => (
        <Parameter
          key={ask.name}
          {...rest}
          ask={ask}
          value={step.params[ask.name] ?? defaults[ask.name]}
          onChange={value => onChange({ ...step.params, [ask.name]: value })}
        />
      ))}
    </div>
  );
}

interface ParameterProps extends Omit<ParametersProps, 'step' | 'onChange'> {
  ask: ParameterField;
  value: unknown;
  onChange: (value: unknown) => void;
}

function Parameter({ ask, value, onChange, references, before, context, list: List }: ParameterProps) {
  if (ask.kind === 'steps') {
    const [first = null] = Array.isArray(before) ? before : [isProblem(before) ? null : before];
    return (
      <div role="group" aria-label="Steps for each item" className="border-l border-rule-strong pl-2.5">
        <List
          references={references}
          steps={(value ?? []) as Step[]}
          onChange={onChange}
          kind={Array.isArray(before) && typeof first === 'object' ? 'json' : 'text'}
          raw={first}
          context={context}
        />
      </div>
    );
  }
  const shown = () => {
    if (ask.choices)
      return (
        <Choice
          label={ask.label}
          isBare
          value={String(value)}
          options={ask.choices.map(each => ({ value: String(each.value), label: each.label }))}
          onChange={next => onChange(ask.choices!.find(each => String(each.value) === next)!.value)}
        />
      );
    if (ask.kind === 'system') return <SystemPick ask={ask} value={String(value ?? '')} onChange={onChange} />;
    if (ask.kind === 'question')
      return (
        <ReferencePick
          label={ask.label}
          isBare
          references={references}
          value={String(value ?? '')}
          none={ask.hint ?? 'none'}
          onPick={onChange}
        />
      );
    if (ask.kind === 'pairs' || ask.kind === 'table')
      return (
        <Pairs
          ask={ask}
          value={String(value ?? '')}
          onChange={onChange}
          asText={ask.kind === 'table' ? TableText : Typed}
        />
      );
    // A zone that nobody chose is the route's: it stands here, where it is used.
    const named = ask.name === 'zone' ? { ...ask, hint: `${context.timeZone}, the route’s` } : ask;
    return <Typed ask={named} value={value} onChange={onChange} />;
  };
  const isWide = ask.kind === 'lines' || ask.kind === 'pairs' || ask.kind === 'table' || ask.name === 'expression';
  return (
    <div className={isWide ? 'text-small' : 'grid grid-cols-[6rem_minmax(0,1fr)] items-baseline gap-2 text-small'}>
      <span aria-hidden className="text-ink-2">
        {ask.label}
      </span>
      {shown()}
    </div>
  );
}

/** A system that is known: a target, or the form builder. */
function SystemPick({
  ask,
  value,
  onChange,
}: {
  ask: ParameterField;
  value: string;
  onChange: (value: string) => void;
}) {
  const targets = useTargets().data ?? [];
  return (
    <Choice
      label={ask.label}
      isBare
      none={ask.hint}
      value={value}
      options={[
        { value: 'builder', label: 'the form builder' },
        ...targets
          .filter(({ reads }) => reads !== 'mail' && reads !== 'files')
          .map(({ id, name }) => ({ value: id, label: name })),
      ]}
      onChange={onChange}
    />
  );
}

/** A parameter that is typed: a line, several lines, or a number. */
function Typed({ ask, value, onChange }: TypedProps) {
  const [text, type] = useTyped(value, known => String(known ?? ''));
  const meant = (next: string): unknown => {
    if (ask.kind === 'number') {
      const number = numberIn(next);
      // What is no number is refused by the step, which says so.
      return number === null || Number.isNaN(number) ? next : number;
    }
    // A separator before the last item that is left empty is none at all.
    return next === '' && ask.optional && ask.name === 'lastSeparator' ? undefined : next;
  };
  const tell = (next: string) => {
    const means = meant(next);
    type(next, means);
    onChange(means);
  };
  const common = { label: ask.label, isBare: true, value: text, placeholder: ask.hint, onChange: tell };
  return ask.kind === 'lines' ? (
    <LinesBox
      {...common}
      look={ask.name === 'expression' ? 'code' : undefined}
      spellCheck={ask.name !== 'expression'}
      rows={Math.min(16, Math.max(ask.name === 'expression' ? 5 : 3, text.split('\n').length))}
    />
  ) : (
    <TextBox {...common} look="code" inputMode={ask.kind === 'number' ? 'decimal' : undefined} />
  );
}

/** Largest table that a step takes, in characters. */
const MOST_TABLE = 200_000;

/** A table that is pasted, or read from a file. */
function TableText({ ask, value, onChange }: TypedProps) {
  const [fault, setFault] = useState<string | null>(null);
  const read = async (chosen: File) => {
    const text = await chosen.text();
    setFault(text.length > MOST_TABLE ? `${chosen.name} has more than ${count(MOST_TABLE)} characters.` : null);
    if (text.length > MOST_TABLE) return;
    onChange(text);
  };
  return (
    <div>
      <Typed ask={{ ...ask, kind: 'lines' }} value={value} onChange={onChange} />
      <FileAct
        accept=".csv,.tsv,text/csv,text/plain"
        className="mt-0.5 inline-block"
        onFile={chosen => void read(chosen)}
      >
        From a CSV file…
      </FileAct>
      {fault && <p className="text-crimson">! {fault}</p>}
    </div>
  );
}
