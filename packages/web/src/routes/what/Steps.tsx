import type { CompiledLine } from '@grammata/core/request';
import { asText, type Json } from '@grammata/core/submission';
import { isProblem, transformOf, type ParameterField, type Problem, type Step } from '@grammata/core/transform';
import type { Workbench } from '../workbench';
import { StepPicker } from './StepPicker';
import type { EditLine } from './editLine';

/** The cleaning, step by step, with the value after each on the sample at hand. */
export function Steps({
  workbench: { sample, editing },
  compiled,
  edit,
}: {
  workbench: Workbench;
  compiled: CompiledLine;
  edit: EditLine;
}) {
  const { line, chain } = compiled;
  const context = { timeZone: editing.draft.terms.timeZone };
  const raw = sample ? compiled.sourceValue(sample.submission) : null;
  const traces = chain.trace(raw, context);
  const last = traces.at(-1)?.result ?? raw;
  const change = (cleaning: Step[]) => edit(each => ({ ...each, cleaning }));
  const replace = (index: number, step: Step) => change(line.cleaning.map((each, at) => (at === index ? step : each)));
  const move = (index: number, by: number) => {
    const steps = [...line.cleaning];
    const [step] = steps.splice(index, 1);
    steps.splice(index + by, 0, step!);
    change(steps);
  };
  return (
    <div className="mt-3 border-l-2 border-oxide pl-3.5">
      <div className="grid grid-cols-[minmax(0,17.5rem)_minmax(0,1fr)] gap-x-4 py-0.5 text-ink-2">
        <span>as it was answered</span>
        <Shown value={raw} />
      </div>
      <ol>
        {line.cleaning.map((step, index) => (
          <li
            key={index}
            className={`group grid grid-cols-[minmax(0,17.5rem)_minmax(0,1fr)] gap-x-4 py-1 ${step.off ? 'opacity-60' : ''}`}
          >
            <div>
              <div className="flex flex-wrap items-baseline gap-x-2.5">
                <span className="font-medium">
                  {transformOf(step.id)?.label ?? step.id}
                  {step.off && ' (off)'}
                </span>
                <span className="flex gap-2 text-small text-ink-3">
                  <Deed onClick={() => move(index, -1)} disabled={index === 0} label={`Move step ${index + 1} up`}>
                    ↑
                  </Deed>
                  <Deed
                    onClick={() => move(index, 1)}
                    disabled={index === line.cleaning.length - 1}
                    label={`Move step ${index + 1} down`}
                  >
                    ↓
                  </Deed>
                  <Deed
                    onClick={() => replace(index, { ...step, off: !step.off })}
                    label={`Switch step ${index + 1} ${step.off ? 'on' : 'off'}`}
                  >
                    {step.off ? 'on' : 'off'}
                  </Deed>
                  <Deed
                    onClick={() => change(line.cleaning.filter((_, at) => at !== index))}
                    label={`Remove step ${index + 1}`}
                  >
                    remove
                  </Deed>
                </span>
              </div>
              <Parameters step={step} onChange={params => replace(index, { ...step, params })} />
            </div>
            {traces[index] ? (
              <Shown value={traces[index].result} />
            ) : (
              <span className="font-mono text-small text-ink-3">not reached</span>
            )}
          </li>
        ))}
      </ol>
      <StepPicker
        value={isProblem(last) ? null : last}
        context={context}
        onPick={step => change([...line.cleaning, step])}
      />
    </div>
  );
}

const Deed = ({ label, ...rest }: { label: string; onClick: () => void; disabled?: boolean; children: string }) => (
  <button
    type="button"
    aria-label={label}
    title={label}
    className="hover:text-oxide hover:underline disabled:opacity-30"
    {...rest}
  />
);

/** A value between steps. Lists show their items apart. */
function Shown({ value }: { value: Json | Problem }) {
  if (isProblem(value))
    return (
      <span className="font-serif text-crimson">
        <span aria-hidden className="mr-1 font-mono font-bold">
          !
        </span>
        {value.message}
      </span>
    );
  if (value === null || value === '') return <span className="font-mono text-small text-ink-3">blank</span>;
  const items = Array.isArray(value) ? value : [value];
  return (
    <span className="min-w-0 font-mono text-small whitespace-pre-wrap [overflow-wrap:anywhere]">
      {items.length === 0 && <span className="text-ink-3">empty list</span>}
      {items.map((item, index) => (
        <span key={index}>
          {index > 0 && <span className="text-ink-3">, </span>}
          <span className={Array.isArray(value) ? 'bg-ochre-wash' : ''}>
            {typeof item === 'object' && item !== null && 'name' in item ? asText(item.name) : asText(item)}
          </span>
        </span>
      ))}
      {typeof value === 'number' && <span className="ml-2 font-sans text-fine text-ink-3">number</span>}
    </span>
  );
}

function Parameters({ step, onChange }: { step: Step; onChange: (params: Step['params']) => void }) {
  const transform = transformOf(step.id);
  if (!transform) return null;
  return (
    <div className="space-y-1 py-1">
      {transform.asks.map(ask => (
        <Parameter
          key={ask.name}
          ask={ask}
          value={step.params[ask.name]}
          onChange={value => onChange({ ...step.params, [ask.name]: value })}
        />
      ))}
    </div>
  );
}

/** A parameter that is typed: a line, several lines, or a number. */
function Typed({ ask, value, onChange }: ParameterProps) {
  const common = { className: 'write font-mono', defaultValue: String(value ?? ''), placeholder: ask.hint };
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

interface ParameterProps {
  ask: ParameterField;
  value: unknown;
  onChange: (value: unknown) => void;
}

function Parameter({ ask, value, onChange }: ParameterProps) {
  return (
    <label className="grid grid-cols-[6rem_minmax(0,1fr)] items-baseline gap-2 text-small">
      <span className="text-ink-2">{ask.label}</span>
      {ask.choices ? (
        <select
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
      ) : (
        <Typed ask={ask} value={value} onChange={onChange} />
      )}
    </label>
  );
}
