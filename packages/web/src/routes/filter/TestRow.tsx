import { comparatorsFor, comparatorWords, takesValues, type Comparator, type Test } from '@grammata/core/condition';
import { useId } from 'react';
import { Act, Choice, ListBox, TextBox, Tick } from '../../ui';
import { ReferencePick } from '../workbench';
import { useWorkbench } from '../workbench';

/** One test: of what, how it is compared, and with which values. */
export function TestRow({
  place,
  test,
  onChange,
  onRemove,
}: {
  /** Its number, such as 2.1. */
  place: string;
  test: Test;
  onChange: (test: Test) => void;
  onRemove: () => void;
}) {
  const { route, references } = useWorkbench('route', 'offers');
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
    <div className="grid grid-cols-[1.75rem_minmax(0,1fr)_auto] items-baseline gap-x-3 gap-y-1 lg:grid-cols-[1.75rem_minmax(0,16rem)_12rem_minmax(0,1fr)_auto]">
      <span className="text-right font-mono text-fine text-ink-3">{place}</span>
      <ReferencePick
        label={`Value of condition ${place}`}
        isBare
        references={references}
        value={test.field}
        onPick={field => onChange({ ...test, field, values: [] })}
      />
      <Choice
        className="max-lg:col-span-2 max-lg:col-start-2"
        label={`Comparison of condition ${place}`}
        isBare
        value={`${test.is} ${test.not}`}
        options={offered.flatMap(is =>
          [false, true].map(not => ({ value: `${is} ${not}`, label: comparatorWords(is, not) })),
        )}
        onChange={next => {
          const [is, not] = next.split(' ');
          choose(is as Comparator, not === 'true');
        }}
      />
      <span className="min-w-0 max-lg:col-span-2 max-lg:col-start-2">
        {takes !== 'none' && (
          <Values place={place} test={test} options={options} onChange={values => onChange({ ...test, values })} />
        )}
      </span>
      <Act
        className="max-lg:col-start-3 max-lg:row-start-1"
        onClick={onRemove}
        aria-label={`Remove condition ${place}`}
      >
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
    <TextBox
      key={index}
      label={label}
      isBare
      look="code"
      list={options.length > 0 ? listId : undefined}
      value={test.values[index] ?? ''}
      placeholder={hints[test.is] ?? 'value'}
      onChange={next => {
        const values = [...test.values];
        values[index] = next;
        onChange(Array.from(values, each => each ?? ''));
      }}
    />
  );
  if (takes === 'two')
    return (
      <span className="grid grid-cols-[1fr_auto_1fr] items-baseline gap-2">
        {typed(0, `Condition ${place}, from`)}
        <span className="text-ink-2">to</span>
        {typed(1, `Condition ${place}, to`)}
      </span>
    );
  if (takes === 'many' && options.length > 0)
    return (
      <fieldset className="flex flex-wrap gap-x-4 gap-y-1">
        <legend className="sr-only">Values of test {place}</legend>
        {[...options, ...test.values.filter(value => !options.includes(value))].map(option => (
          <Tick
            key={option}
            label={option}
            checked={test.values.includes(option)}
            onChange={is => onChange(is ? [...test.values, option] : test.values.filter(each => each !== option))}
          />
        ))}
      </fieldset>
    );
  if (takes === 'many')
    return (
      <ListBox
        label={`Comparison values of condition ${place}`}
        isBare
        look="code"
        items={test.values}
        placeholder="one, another"
        onChange={onChange}
      />
    );
  return (
    <>
      {typed(0, `Comparison value of condition ${place}`)}
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
