import type { CallInput } from '@grammata/contract';
import { usualRetries, type Retry } from '@grammata/core/route';
import { useState } from 'react';
import { Act, Choice, NumberBox, TextBox, useTyped } from '../../ui';

const usual: Retry = { tries: null, statuses: [...usualRetries] };
const isUsual = ({ tries, statuses }: Retry) => tries === null && wordsOf(statuses) === wordsOf(usualRetries);
const wordsOf = (statuses: readonly number[]) => [...statuses].sort((a, b) => a - b).join(', ');

/** The statuses in a text such as `429, 503`; or why it holds something else. */
export function statusesIn(text: string): number[] | string {
  const parts = text.split(/[\s,;]+/).filter(Boolean);
  const bad = parts.find(each => !/^[45]\d\d$/.test(each));
  if (bad !== undefined) return `“${bad}” is no status that can be tried again: give numbers from 400 to 599.`;
  return [...new Set(parts.map(Number))].sort((a, b) => a - b);
}

const isTries = (number: number) => Number.isInteger(number) && number >= 1 && number <= 1000;

/** How often a request is made, which refusals pass, and what a web page counts as. */
export function Tries({
  call,
  answersPage,
  onChange,
}: {
  call: CallInput;
  /** True when the target says that it answers with a page. */
  answersPage: boolean;
  onChange: (more: Partial<CallInput>) => void;
}) {
  const retry = call.retry ?? usual;
  const [open, setOpen] = useState(Boolean(call.retry ?? call.pages));
  /** A number that can't be taken yet. */
  const [odd, setOdd] = useState<number | null>(null);
  const [text, type] = useTyped(retry.statuses, wordsOf);
  const read = statusesIn(text);
  const set = (next: Retry) => onChange({ retry: isUsual(next) ? null : next });
  if (!open)
    return (
      <p>
        What is tried again is as usual: no answer, and {wordsOf(usualRetries)}.{' '}
        <Act onClick={() => setOpen(true)}>Change that</Act>
      </p>
    );
  return (
    <div className="grid max-w-[46rem] gap-x-6 gap-y-3 sm:grid-cols-2">
      <NumberBox
        label="Most tries of one request"
        hint="Empty for as many as the route’s time allows."
        error={odd === null ? null : 'Give a whole number from 1 to 1,000, or nothing.'}
        whenEmpty="null"
        value={odd ?? retry.tries}
        onChange={next => {
          const isFit = next === null || isTries(next);
          setOdd(isFit ? null : next);
          if (isFit) set({ ...retry, tries: next });
        }}
      />
      <TextBox
        label="Statuses that are tried again"
        hint="That no answer came always is."
        error={typeof read === 'string' ? read : null}
        look="code"
        value={text}
        onChange={next => {
          const statuses = statusesIn(next);
          type(next, typeof statuses === 'string' ? retry.statuses : statuses);
          if (typeof statuses !== 'string') set({ ...retry, statuses });
        }}
      />
      <Choice
        label="A success with a web page"
        hint="Many a sign-in page calls itself a success."
        value={call.pages ?? ''}
        options={{
          '': `is ${answersPage ? 'a success' : 'a refusal'}, by what the target says of itself`,
          refused: 'is a refusal',
          taken: 'is a success',
        }}
        onChange={pages => onChange({ pages: pages || null })}
      />
      <p className="self-end pb-1 text-small text-ink-3">
        <Act
          onClick={() => {
            onChange({ retry: null, pages: null });
            setOpen(false);
          }}
        >
          As is usual
        </Act>
      </p>
    </div>
  );
}
