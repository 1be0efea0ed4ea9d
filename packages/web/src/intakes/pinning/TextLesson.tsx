import type { ArrivalView } from '@grammata/contract';
import { readByLandmarks, type LandmarkExample, type Pins } from '@grammata/core/decode';
import { escapeToken, isJsonObject, type Json } from '@grammata/core/submission';
import { useRef, useState } from 'react';
import { wordsFor } from '../../api';
import { Act, counted, Fault, LinesBox, Press, TextBox } from '../../ui';
import { useLearn } from '../queries';

/** The longest text of a document and where it stands: what a mail says. */
function runningText(document: Json): { at: string; text: string } | null {
  if (typeof document === 'string') return { at: '', text: document };
  if (!isJsonObject(document)) return null;
  const texts = Object.entries(document).filter((entry): entry is [string, string] => typeof entry[1] === 'string');
  const [longest] = texts.sort((a, b) => b[1].length - a[1].length);
  return longest ? { at: `/${escapeToken(longest[0])}`, text: longest[1] } : null;
}

interface Row {
  label: string;
  value: string;
}

/**
 * Values in a running text, put right by a person on one or two messages: select them in the text and say what they are.
 * Grammata learns where each stands by the text around it.
 */
export function TextLesson({
  arrival,
  pins,
  onLearned,
}: {
  arrival: ArrivalView;
  pins: Pins;
  onLearned: (pins: Pins) => void;
}) {
  const [lessons, setLessons] = useState<Record<string, { text: string; rows: Row[] }>>({});
  const learn = useLearn();
  const box = useRef<HTMLTextAreaElement>(null);
  const [selected, setSelected] = useState('');
  const found = runningText(arrival.document);
  if (!found) return <p className="mt-2 font-serif text-ink-2">This message has no running text.</p>;
  const { at, text } = found;
  const rows = lessons[arrival.id]?.rows ?? firstRows(text, pins);
  const set = (next: Row[]) => setLessons({ ...lessons, [arrival.id]: { text, rows: next } });
  const change = (index: number, with_: Partial<Row>) =>
    set(rows.map((row, at_) => (at_ === index ? { ...row, ...with_ } : row)));
  const examples: LandmarkExample[] = Object.values({ ...lessons, [arrival.id]: { text, rows } })
    .map(each => ({ text: each.text, values: each.rows.filter(row => row.label.trim() && row.value.trim()) }))
    .filter(each => each.values.length > 0);
  const take = () => {
    const element = box.current;
    if (element) setSelected(element.value.slice(element.selectionStart, element.selectionEnd).trim());
  };
  const run = () =>
    learn.mutate(examples, {
      onSuccess: ({ landmarks }) => {
        if (landmarks.length > 0) onLearned({ text: { at, landmarks } });
      },
    });
  return (
    <div className="mt-2 grid gap-x-6 gap-y-3 md:grid-cols-2">
      <LinesBox
        boxRef={box}
        label="Select a value in the text, then choose its question"
        aria-readonly
        onChange={() => undefined}
        rows={11}
        value={text}
        onSelect={take}
      />
      <div>
        <div className="grid grid-cols-[9rem_minmax(0,1fr)_auto] items-baseline gap-x-3 gap-y-1">
          <span className="text-small text-ink-2">Question</span>
          <span className="text-small text-ink-2">Value here</span>
          <span />
          {rows.map((row, index) => (
            <div key={index} className="contents">
              <TextBox
                label={`Question ${index + 1}`}
                isBare
                value={row.label}
                onChange={label => change(index, { label })}
              />
              <TextBox
                label={`Value ${index + 1}`}
                isBare
                look="code"
                value={row.value.replaceAll('\n', ' ⏎ ')}
                onChange={value => change(index, { value: value.replaceAll(' ⏎ ', '\n') })}
              />
              <Act
                disabled={selected === ''}
                onClick={() => change(index, { value: selected })}
                aria-label={`Use selection for ${row.label || `question ${index + 1}`}`}
              >
                ← selection
              </Act>
            </div>
          ))}
        </div>
        <div className="mt-2 flex items-baseline gap-4">
          <Act onClick={() => set([...rows, { label: '', value: '' }])}>Add a question</Act>
          <span className="flex-1" />
          <Press quiet disabled={examples.length === 0 || learn.isPending} onClick={run}>
            Learn from {counted(Math.max(1, examples.length), 'message')}
          </Press>
        </div>
        {learn.error && <Fault>{wordsFor(learn.error)}</Fault>}
        <ul aria-live="polite">
          {learn.data?.problems.map(problem => (
            <li key={problem.label} className="mt-1 text-crimson">
              ! {problem.message} Correct a second message too: <kbd>h</kbd> and <kbd>l</kbd> to move between messages.
            </li>
          ))}
          {learn.data?.landmarks.map(({ label, before, after }) => (
            <li key={label} className="mt-1 truncate text-small text-ink-2">
              <b>{label}</b> stands between <code className="font-mono">{visible(before)}</code> and{' '}
              <code className="font-mono">{after === '' ? 'the end' : visible(after)}</code>
            </li>
          ))}
        </ul>
      </div>
    </div>
  );
}

const visible = (text: string) => `“${text.replaceAll('\n', '⏎')}”`;

/** What is learned already, read from this text; else an empty row to begin with. */
function firstRows(text: string, { text: learned }: Pins): Row[] {
  if (!learned) return [{ label: '', value: '' }];
  return readByLandmarks(text, learned.landmarks).map(({ label, value }) => ({ label, value: value ?? '' }));
}
