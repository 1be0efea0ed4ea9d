import { optionsFor } from '@grammata/core/match';
import { asText } from '@grammata/core/submission';
import { optionName, type TargetField } from '@grammata/core/target';
import {
  isProblem,
  compileChain,
  optionInList,
  readLookupTable,
  writeLookupTable,
  type OptionList,
  readOptionList,
  withPair,
  writeOptionList,
} from '@grammata/core/transform';
import { useContext, useMemo, useState, type ComponentType } from 'react';
import { Act, Combobox, count, TextBox, useTyped } from '../../../ui';
import { useWorkbench } from '../../workbench';
import { LineAtHand } from './lineAtHand';
import type { TypedProps } from './typedProps';

/** Samples whose answers are counted, and answers that get a row. */
const MOST_SAMPLES = 2000;
const MOST_ROWS = 60;

/** How pairs of answers and options are held: a line each, or as CSV. */
const written = {
  pairs: { read: readOptionList, write: writeOptionList, find: optionInList },
  table: {
    read: (table: string): OptionList => ({ pairs: readLookupTable(table), listed: [] }),
    write: writeLookupTable,
    find: ({ pairs }: OptionList, answer: string) =>
      pairs.findLast(each => each.answer.toLowerCase() === answer.toLowerCase())?.option,
  },
};

/** What was answered over the samples where a step begins, the most frequent first, with how often. */
function useAnswered(name: string, held: string): { answer: string; times: number }[] {
  const line = useContext(LineAtHand);
  const { samples, editing } = useWorkbench('walk', 'editing');
  const { timeZone } = editing.draft.terms;
  return useMemo(() => {
    if (!line) return [];
    const { cleaning } = line.line;
    const at = cleaning.findIndex(each => each.params[name] === held);
    const before = compileChain(cleaning.slice(0, Math.max(0, at)));
    const times = new Map<string, number>();
    for (const { scope } of samples.slice(0, MOST_SAMPLES)) {
      const value = before.run(line.sourceValue(scope), line.contextFor(scope, { timeZone }));
      if (isProblem(value)) continue;
      for (const each of Array.isArray(value) ? value : [value]) {
        const answer = asText(each).trim();
        if (answer !== '') times.set(answer, (times.get(answer) ?? 0) + 1);
      }
    }
    return [...times].map(([answer, many]) => ({ answer, times: many })).sort((a, b) => b.times - a.times);
  }, [line, samples, timeZone, name, held]);
}

/** The list with what is spelt nearly alike for answers that had nothing; a table has a row for each of them. */
function bySpelling(
  list: OptionList,
  open: readonly { answer: string }[],
  field: TargetField,
  isTable: boolean,
): OptionList {
  const answers = open.map(each => each.answer);
  const matched = readOptionList(optionsFor(answers, field));
  const pairs = isTable
    ? answers.flatMap(answer => {
        const option = optionInList(matched, answer);
        return option === undefined ? [] : [{ answer, option }];
      })
    : matched.pairs;
  return { pairs: [...list.pairs, ...pairs], listed: isTable ? [] : [...new Set([...list.listed, ...matched.listed])] };
}

/** What is sent, typed by hand: a space at its end stays while more is typed. */
function SentText({ label, value, onChange }: { label: string; value: string; onChange: (option: string) => void }) {
  const [text, type] = useTyped(value, each => each);
  return (
    <TextBox
      label={label}
      isBare
      look="code"
      value={text}
      onChange={next => {
        type(next, next.trim());
        onChange(next.trim());
      }}
    />
  );
}

/** What was answered beside what the target takes, a row each; or the same as text. */
export function Pairs({
  ask,
  value,
  onChange,
  asText: AsText,
}: TypedProps & { value: string; asText: ComponentType<TypedProps> }) {
  const field = useContext(LineAtHand)?.field ?? null;
  const answered = useAnswered(ask.name, value);
  const [isText, setText] = useState(false);
  const { read, write, find } = written[ask.kind === 'table' ? 'table' : 'pairs'];
  const list = read(value);
  const options = field?.options ?? [];
  const unanswered = list.pairs.filter(
    ({ answer }) =>
      !answered.some(each => each.answer === answer) && !options.some(each => optionName(field ?? {}, each) === answer),
  );
  const rows = answered.slice(0, MOST_ROWS);
  const open = rows.filter(({ answer }) => find(list, answer) === undefined);
  const set = (answer: string, option: string | null) => onChange(write(withPair(list, answer, option)));
  if (isText || (rows.length === 0 && unanswered.length === 0))
    return (
      <div>
        <AsText ask={ask.kind === 'table' ? ask : { ...ask, kind: 'lines' }} value={value} onChange={onChange} />
        {rows.length > 0 && <Act onClick={() => setText(false)}>Show as table</Act>}
      </div>
    );
  const pick = (answer: string, label: string) =>
    options.length > 0 ? (
      <Combobox
        label={label}
        isBare
        none="no option"
        options={options.map(each => ({ value: each, label: optionName(field ?? {}, each), words: each }))}
        value={find(list, answer) ?? ''}
        onPick={option => set(answer, option === '' ? null : option)}
      />
    ) : (
      <SentText
        label={label}
        value={find(list, answer) ?? ''}
        onChange={option => set(answer, option === '' ? null : option)}
      />
    );
  return (
    <div>
      <table className="w-full table-fixed">
        <thead>
          <tr className="border-b border-rule text-left text-ink-2">
            <th className="py-0.5 font-normal">Answered</th>
            <th className="w-12 py-0.5 pr-3 text-right font-normal">times</th>
            <th className="py-0.5 font-normal">Sent</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ answer, times }) => (
            <tr key={answer} className="align-baseline">
              <td className="py-0.5 pr-2 [overflow-wrap:anywhere]">{answer}</td>
              <td className="py-0.5 pr-3 text-right font-mono">{count(times)}</td>
              <td className="py-0.5">{pick(answer, `Sent for ${answer}`)}</td>
            </tr>
          ))}
          {unanswered.map(({ answer }) => (
            <tr key={answer} className="align-baseline">
              <td className="py-0.5 pr-2 text-ink-2 [overflow-wrap:anywhere]">
                {answer}{' '}
                <Act aria-label={`Remove ${answer}`} onClick={() => set(answer, null)}>
                  remove
                </Act>
              </td>
              <td className="py-0.5 pr-3 text-right font-mono text-ink-2">0</td>
              <td className="py-0.5">{pick(answer, `Sent for ${answer}`)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {answered.length > rows.length && (
        <p className="pt-1 text-ink-2">and {count(answered.length - rows.length)} more answers.</p>
      )}
      <p className="flex flex-wrap gap-x-4 pt-1">
        {open.length > 0 && field?.options && (
          <Act onClick={() => onChange(write(bySpelling(list, open, field, ask.kind === 'table')))}>
            Match by spelling
          </Act>
        )}
        <Act onClick={() => setText(true)}>Edit as text</Act>
      </p>
    </div>
  );
}
