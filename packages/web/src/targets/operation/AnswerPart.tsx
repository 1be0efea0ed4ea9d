import type { AnswerFieldInput } from '@grammata/contract';
import type { Json } from '@grammata/core/submission';
import { answerFields, type AnswerField } from '@grammata/core/target';
import { useState } from 'react';
import { useFormContext, useWatch } from 'react-hook-form';
import { X } from 'lucide-react';
import { Act, counted, IconAct } from '../../ui';
import { typeNames } from '../fieldWords';
import { FromJson } from './FromJson';
import type { OperationForm } from './form';

/** What an operation answers: what calls behind it may use. Learned from an answer rather than typed. */
export function AnswerPart() {
  const { control, setValue } = useFormContext<OperationForm>();
  const answer = (useWatch({ control, name: 'answer' }) ?? []) as AnswerField[];
  const [isLearning, setLearning] = useState(false);
  const set = (next: AnswerFieldInput[]) => setValue('answer', next, { shouldDirty: true });
  return (
    <section aria-label="Response">
      <h2 className="border-b border-ink pb-1.5">Response</h2>
      {answer.length === 0 && !isLearning && (
        <p className="pt-2 font-serif text-ink-2">Unknown. Once known, later calls can use values from it.</p>
      )}
      <Listed fields={answer} onChange={next => set(next as AnswerFieldInput[])} />
      {isLearning ? (
        <FromJson
          label="Response in JSON"
          placeholder={'{"id": 7, "name": "…"}'}
          deed="Learn"
          onTake={document => {
            set(learned(document));
            return null;
          }}
          onClose={() => setLearning(false)}
        />
      ) : (
        <p className="pt-2">
          <Act onClick={() => setLearning(true)}>{answer.length === 0 ? 'Learn from an example' : 'Learn again'}</Act>
          {answer.length > 0 && (
            <Act className="ml-5" onClick={() => set([])}>
              Remove
            </Act>
          )}
        </p>
      )}
    </section>
  );
}

/** What an answer holds, as it is stored. */
export const learned = (answer: Json): AnswerFieldInput[] => answerFields(answer) as AnswerFieldInput[];

/** Values of a response: each can be named, and left out of what is offered to later calls. */
function Listed({
  fields,
  isInside = false,
  onChange,
}: {
  fields: readonly AnswerField[];
  isInside?: boolean;
  onChange: (next: AnswerField[]) => void;
}) {
  const set = (at: number, more: Partial<AnswerField>) =>
    onChange(fields.map((each, index) => (index === at ? { ...each, ...more } : each)));
  return (
    <ul className={isInside ? 'pl-4' : 'ledger'}>
      {fields.map((field, at) => (
        <li key={field.pointer} className="py-1">
          <span className="grid items-center gap-x-5 sm:grid-cols-[minmax(0,16rem)_minmax(0,1fr)_8rem_1.75rem]">
            <code className="truncate font-mono text-small">{field.pointer || '(all of it)'}</code>
            <input
              aria-label={`Label of ${field.pointer || 'all of it'}`}
              className="write min-w-0"
              maxLength={200}
              value={field.label}
              onChange={event => set(at, { label: event.target.value })}
            />
            <span className="text-ink-2">
              {field.items ? `list, ${counted(field.items.length, 'part')}` : typeNames[field.type]}
            </span>
            <IconAct
              icon={X}
              label={`Leave out ${field.pointer || 'all of it'}`}
              isPlain
              onClick={() => onChange(fields.filter((_, index) => index !== at))}
            />
          </span>
          {field.items && <Listed fields={field.items} isInside onChange={items => set(at, { items })} />}
        </li>
      ))}
    </ul>
  );
}
