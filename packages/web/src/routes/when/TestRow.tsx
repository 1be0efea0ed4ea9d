import { comparatorsFor, comparatorWords, takesValues, type Comparator, type Test } from '@grammata/core/condition';
import { useId } from 'react';
import { Act } from '../../ui';
import { ReferencePick } from '../ReferencePick';
import type { Workbench } from '../workbench';

/** One test: of what, how it is compared, and with which values. */
export function TestRow({
  workbench: { route, references },
  place,
  test,
  onChange,
  onRemove,
}: {
  workbench: Workbench;
  /** Its number, such as 2.1. */
  place: string;
  test: Test;
  onChange: (test: Test) => void;
  onRemove: () => void;
}) {
  const kind = references.find(each => each.key === test.field)?.kind ?? 'text';
  const asked = route.form.schema.fields.find(each => each.key === test.field);
  const options = (asked?.options ?? []).map(each => each.value).sort();
  const suiting = comparatorsFor(kind);
  const offered = suiting.includes(test.is) ? suiting : [test.is, ...suiting];
  const takes = takesValues(test.is);
  const choose = (is: Comparator, not: boolean) => {
    const wanted = takesValues(is);
    const kept =
      wanted === 'none'
        ? []
        : wanted === 'one'
          ? test.values.slice(0, 1)
          : wanted === 'two'
            ? test.values.slice(0, 2)
            : test.values;
    onChange({ ...test, is, not, values: kept });
  };
  return (
    <div className="grid grid-cols-[1.75rem_minmax(0,16rem)_12rem_minmax(0,1fr)_auto] items-baseline gap-x-3">
      <span className="text-right font-mono text-fine text-ink-3">{place}</span>
      <ReferencePick
        aria-label={`What test ${place} looks at`}
        references={references}
        value={test.field}
        onPick={field => onChange({ ...test, field, values: [] })}
      />
      <select
        aria-label={`Comparison of test ${place}`}
        className="write"
        value={`${test.is} ${test.not}`}
        onChange={event => {
          const [is, not] = event.target.value.split(' ');
          choose(is as Comparator, not === 'true');
        }}
      >
        {offered.flatMap(is =>
          [false, true].map(not => (
            <option key={`${is} ${not}`} value={`${is} ${not}`}>
              {comparatorWords(is, not)}
            </option>
          )),
        )}
      </select>
      <span className="min-w-0">
        {takes !== 'none' && (
          <Values place={place} test={test} options={options} onChange={values => onChange({ ...test, values })} />
        )}
      </span>
      <Act onClick={onRemove} aria-label={`Remove condition ${place}`}>
        Remove
      </Act>
    </div>
  );
}

interface ValuesProps {
  place: string;
  test: Test;
  /** What people chose so far. */
  options: string[];
  onChange: (values: string[]) => void;
}

function Values({ place, test, options, onChange }: ValuesProps) {
  const listId = useId();
  const takes = takesValues(test.is);
  const typed = (index: number, label: string) => (
    <input
      key={index}
      aria-label={label}
      className="write font-mono text-small"
      list={options.length > 0 ? listId : undefined}
      value={test.values[index] ?? ''}
      placeholder={hints[test.is] ?? 'value'}
      onChange={event => {
        const values = [...test.values];
        values[index] = event.target.value;
        onChange(Array.from(values, each => each ?? ''));
      }}
    />
  );
  if (takes === 'two')
    return (
      <span className="grid grid-cols-[1fr_auto_1fr] items-baseline gap-2">
        {typed(0, `Value of test ${place}, from`)}
        <span className="text-ink-2">to</span>
        {typed(1, `Value of test ${place}, to`)}
      </span>
    );
  if (takes === 'many' && options.length > 0)
    return (
      <fieldset className="flex flex-wrap gap-x-4 gap-y-1">
        <legend className="sr-only">Values of test {place}</legend>
        {[...options, ...test.values.filter(value => !options.includes(value))].map(option => (
          <label key={option} className="flex items-baseline gap-1.5">
            <input
              type="checkbox"
              className="accent-oxide"
              checked={test.values.includes(option)}
              onChange={() =>
                onChange(
                  test.values.includes(option) ? test.values.filter(each => each !== option) : [...test.values, option],
                )
              }
            />
            {option}
          </label>
        ))}
      </fieldset>
    );
  if (takes === 'many')
    return (
      <input
        aria-label={`Values of test ${place}`}
        className="write font-mono text-small"
        defaultValue={test.values.join(', ')}
        placeholder="one, another"
        onChange={event =>
          onChange(
            event.target.value
              .split(',')
              .map(each => each.trim())
              .filter(Boolean),
          )
        }
      />
    );
  return (
    <>
      {typed(0, `Value of test ${place}`)}
      <datalist id={listId}>
        {options.map(option => (
          <option key={option}>{option}</option>
        ))}
      </datalist>
    </>
  );
}

const hints: Partial<Record<Comparator, string>> = {
  above: '8.5',
  below: '8.5',
  between: '6.5',
  before: '2026-11-04',
  after: '2026-11-04',
  matches: '^AB-\\d+$',
  fileOf: 'image/* or .pdf',
  atLeast: '2',
};
