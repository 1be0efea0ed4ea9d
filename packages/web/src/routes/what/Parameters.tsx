import type { Json } from '@grammata/core/submission';
import {
  isProblem,
  transformOf,
  type ParameterField,
  type Problem,
  type Step,
  type TransformContext,
} from '@grammata/core/transform';
import { useId, useState, type ReactNode } from 'react';
import type { Offered } from '../workbench';
import { ReferencePick } from '../ReferencePick';
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
  const id = useId();
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
  return (
    <div className="grid grid-cols-[6rem_minmax(0,1fr)] items-baseline gap-2 text-small">
      <label htmlFor={id} className="text-ink-2">
        {ask.label}
      </label>
      {ask.choices ? (
        <select
          id={id}
          className="write"
          value={String(value)}
          onChange={event => onChange(ask.choices!.find(each => String(each.value) === event.target.value)!.value)}
        >
          {ask.choices.map(each => (
            <option key={String(each.value)} value={String(each.value)}>
              {each.label}
            </option>
          ))}
        </select>
      ) : ask.kind === 'question' ? (
        <ReferencePick
          id={id}
          references={references}
          value={String(value ?? '')}
          none={ask.hint ?? 'none'}
          onPick={onChange}
        />
      ) : ask.kind === 'table' ? (
        <TableText id={id} ask={ask} value={String(value ?? '')} onChange={onChange} />
      ) : (
        <Typed id={id} ask={ask} value={value} onChange={onChange} />
      )}
    </div>
  );
}

interface TypedProps {
  id: string;
  ask: ParameterField;
  value: unknown;
  onChange: (value: unknown) => void;
}

/** A parameter that is typed: a line, several lines, or a number. */
function Typed({ id, ask, value, onChange }: TypedProps) {
  const common = { id, className: 'write font-mono', defaultValue: String(value ?? ''), placeholder: ask.hint };
  if (ask.kind === 'lines')
    return <textarea {...common} rows={3} spellCheck={false} onChange={event => onChange(event.target.value)} />;
  if (ask.kind === 'number')
    return (
      <input
        {...common}
        inputMode="decimal"
        onChange={event => {
          const text = event.target.value.replace(',', '.').trim();
          onChange(text !== '' && Number.isFinite(Number(text)) ? Number(text) : event.target.value);
        }}
      />
    );
  // A separator before the last item that is left empty is none at all.
  const blank = ask.name === 'lastSeparator' ? undefined : '';
  return (
    <input
      {...common}
      onChange={event => onChange(event.target.value === '' && ask.optional ? blank : event.target.value)}
    />
  );
}

/** Largest table that a step takes, in characters. */
const MOST_TABLE = 200_000;

/** A table that is pasted, or read from a file. */
function TableText({ id, ask, value, onChange }: TypedProps & { value: string }) {
  const [fault, setFault] = useState<string | null>(null);
  const [file, setFile] = useState(0);
  const read = async (chosen: File) => {
    const text = await chosen.text();
    setFault(text.length > MOST_TABLE ? `${chosen.name} holds more than ${MOST_TABLE} characters.` : null);
    if (text.length > MOST_TABLE) return;
    onChange(text);
    // The box below shows what was read.
    setFile(before => before + 1);
  };
  return (
    <div>
      <Typed key={file} id={id} ask={{ ...ask, kind: 'lines' }} value={value} onChange={onChange} />
      <label className="act mt-0.5 inline-block cursor-pointer focus-within:outline-2 focus-within:outline-oxide">
        From a CSV file…
        <input
          type="file"
          accept=".csv,.tsv,text/csv,text/plain"
          className="sr-only"
          onChange={event => event.target.files?.[0] && void read(event.target.files[0])}
        />
      </label>
      {fault && <p className="text-crimson">! {fault}</p>}
    </div>
  );
}
