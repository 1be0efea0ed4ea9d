import type { AnswerFieldInput } from '@grammata/contract';
import type { Json } from '@grammata/core/submission';
import { answerFields, type AnswerField } from '@grammata/core/target';
import { useState } from 'react';
import { useFormContext, useWatch } from 'react-hook-form';
import { Act, counted } from '../../ui';
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
    <section aria-label="What it answers">
      <h2 className="border-b border-ink pb-1.5">What it answers</h2>
      {answer.length === 0 && !isLearning && (
        <p className="pt-2 font-serif text-ink-2">
          Nothing is known of it. Calls behind this one can use what stands in its answer once it is.
        </p>
      )}
      <Listed fields={answer} />
      {isLearning ? (
        <FromJson
          label="An answer, in JSON"
          placeholder={'{"id": 7, "name": "…"}'}
          deed="Learn from it"
          onTake={document => {
            set(learned(document));
            return null;
          }}
          onClose={() => setLearning(false)}
        />
      ) : (
        <p className="pt-2">
          <Act onClick={() => setLearning(true)}>
            {answer.length === 0 ? 'Give an answer to learn from' : 'Learn it anew'}
          </Act>
          {answer.length > 0 && (
            <Act className="ml-5" onClick={() => set([])}>
              Forget it
            </Act>
          )}
        </p>
      )}
    </section>
  );
}

/** What an answer holds, as it is stored. */
export const learned = (answer: Json): AnswerFieldInput[] => answerFields(answer) as AnswerFieldInput[];

const Listed = ({ fields, below = '' }: { fields: readonly AnswerField[]; below?: string }) => (
  <ul className={below ? 'pl-4' : 'ledger'}>
    {fields.map(field => (
      <li key={field.pointer} className="py-1">
        <span className="grid gap-x-5 sm:grid-cols-[minmax(0,16rem)_minmax(0,1fr)_8rem]">
          <code className="truncate font-mono text-small">{field.pointer || '(all of it)'}</code>
          <span className="truncate">{field.label}</span>
          <span className="text-ink-2">
            {field.items ? `list, ${counted(field.items.length, 'part')}` : typeNames[field.type]}
          </span>
        </span>
        {field.items && <Listed fields={field.items} below={field.pointer} />}
      </li>
    ))}
  </ul>
);
