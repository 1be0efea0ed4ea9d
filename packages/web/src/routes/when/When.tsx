import {
  compileCondition,
  comparators,
  comparatorWords,
  explainTest,
  type Comparator,
  type Test,
} from '@grammata/core/condition';
import { asText } from '@grammata/core/submission';
import { useMemo } from 'react';
import { Act, count, counted, Note, Press, when } from '../../ui';
import type { Workbench } from '../workbench';

/** Which submissions go. */
export function When({ workbench }: { workbench: Workbench }) {
  const { editing, route, samples, labelOf } = workbench;
  const tests = editing.draft.condition.all;
  const change = (all: Test[]) => editing.edit(draft => ({ ...draft, condition: { all } }));
  const goes = useMemo(() => compileCondition(editing.draft.condition), [editing.draft.condition]);
  const out = samples.filter(sample => !goes(sample.submission));
  const first = route.form.schema.fields[0]?.key ?? '';
  return (
    <div className="grid flex-1 grid-cols-1 lg:grid-cols-[minmax(0,1fr)_268px]">
      <div className="px-6 pt-4 pb-12">
        <p className="font-serif text-lead">
          {tests.length === 0 ? 'Every submission goes.' : 'A submission goes when all of these hold:'}
        </p>
        <ol className="ledger mt-3 border-t border-rule">
          {tests.map((test, index) => (
            <TestRow
              key={index}
              number={index + 1}
              test={test}
              workbench={workbench}
              onChange={next => change(tests.map((each, at) => (at === index ? next : each)))}
              onRemove={() => change(tests.filter((_, at) => at !== index))}
            />
          ))}
        </ol>
        <p className="mt-4">
          <Press quiet onClick={() => change([...tests, { field: first, is: 'equals', values: [], not: false }])}>
            {tests.length === 0 ? 'Only when…' : 'And only when…'}
          </Press>
        </p>
        {out.length > 0 && (
          <section aria-label="Left out" className="mt-8">
            <h2 className="border-b border-ink pb-1.5">{counted(out.length, 'recorded submission')} would not go</h2>
            <ul className="ledger">
              {out.slice(0, 50).map(sample => (
                <li key={sample.id} className="grid grid-cols-[9rem_minmax(0,1fr)] gap-4 py-1.5">
                  <span className="text-ink-2">{when(sample.receivedAt)}</span>
                  <span className="truncate font-mono text-small">
                    {tests
                      .map(
                        test =>
                          asText(sample.submission.fields.find(field => field.key === test.field)?.value) || 'blank',
                      )
                      .join(' · ')}
                  </span>
                </li>
              ))}
            </ul>
            {out.length > 50 && <p className="py-2 text-ink-2">and {count(out.length - 50)} more.</p>}
          </section>
        )}
      </div>
      <aside aria-label="Margin" className="space-y-4 border-rule bg-sunk px-4 pt-5 pb-12 lg:border-l">
        <Note tone={samples.length > 0 && out.length === samples.length ? 'look' : 'fine'}>
          {count(samples.length - out.length)} of {counted(samples.length, 'recorded submission')} go.
        </Note>
        {tests.map((test, index) => {
          const passing = samples.filter(sample => compileCondition({ all: [test] })(sample.submission)).length;
          return (
            <Note key={index} tone={passing === 0 ? 'look' : 'goes'}>
              {explainTest(test, labelOf)}: {count(passing)}.
              {passing === 0 && ' None of the recorded ones is like that.'}
            </Note>
          );
        })}
        <Note tone="look">Upper and lower case count as the same. Of a choose-many answer, one choice is enough.</Note>
      </aside>
    </div>
  );
}

interface TestRowProps {
  number: number;
  test: Test;
  workbench: Workbench;
  onChange: (test: Test) => void;
  onRemove: () => void;
}

function TestRow({ number, test, workbench: { route }, onChange, onRemove }: TestRowProps) {
  const field = route.form.schema.fields.find(each => each.key === test.field);
  const options = Object.keys(field?.options ?? {}).sort();
  const [comparator, negated] = [test.is, test.not];
  const toggle = (option: string) =>
    onChange({
      ...test,
      values: test.values.includes(option) ? test.values.filter(each => each !== option) : [...test.values, option],
    });
  return (
    <li className="grid grid-cols-[1.75rem_minmax(0,16rem)_11rem_minmax(0,1fr)_auto] items-baseline gap-x-3 py-2.5">
      <span className="text-right font-mono text-fine text-ink-3">{number}</span>
      <select
        aria-label="Question"
        className="write text-lapis"
        value={test.field}
        onChange={event => onChange({ ...test, field: event.target.value, values: [] })}
      >
        {route.form.schema.fields.map(each => (
          <option key={each.key} value={each.key}>
            {each.label}
          </option>
        ))}
      </select>
      <select
        aria-label="Comparison"
        className="write"
        value={`${comparator} ${negated}`}
        onChange={event => {
          const [is, not] = event.target.value.split(' ');
          onChange({ ...test, is: is as Comparator, not: not === 'true', values: is === 'blank' ? [] : test.values });
        }}
      >
        {comparators.flatMap(is =>
          [false, true].map(not => (
            <option key={`${is} ${not}`} value={`${is} ${not}`}>
              {comparatorWords(is, not)}
            </option>
          )),
        )}
      </select>
      {test.is === 'blank' ? (
        <span />
      ) : test.is === 'oneOf' && options.length > 0 ? (
        <fieldset className="flex flex-wrap gap-x-4 gap-y-1">
          <legend className="sr-only">Values</legend>
          {options.map(option => (
            <label key={option} className="flex items-baseline gap-1.5">
              <input
                type="checkbox"
                className="accent-oxide"
                checked={test.values.includes(option)}
                onChange={() => toggle(option)}
              />
              {option}
            </label>
          ))}
        </fieldset>
      ) : (
        <>
          <input
            aria-label="Value"
            className="write font-mono text-small"
            list={`options-${number}`}
            value={test.is === 'oneOf' ? test.values.join(', ') : (test.values[0] ?? '')}
            placeholder={test.is === 'oneOf' ? 'one, another' : 'value'}
            onChange={event =>
              onChange({
                ...test,
                values:
                  test.is === 'oneOf'
                    ? event.target.value
                        .split(',')
                        .map(each => each.trim())
                        .filter(Boolean)
                    : [event.target.value],
              })
            }
          />
          <datalist id={`options-${number}`}>
            {options.map(option => (
              <option key={option}>{option}</option>
            ))}
          </datalist>
        </>
      )}
      <Act onClick={onRemove} aria-label={`Remove condition ${number}`}>
        Remove
      </Act>
    </li>
  );
}
