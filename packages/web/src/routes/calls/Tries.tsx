import type { CallInput } from '@grammata/contract';
import { usualRetries, type Retry } from '@grammata/core/route';
import { useState } from 'react';
import { Act, Labelled } from '../../ui';

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
  const [text, setText] = useState(wordsOf(retry.statuses));
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
      <Labelled label="Most tries of one request" hint="Empty for as many as the route’s time allows.">
        {ids => (
          <input
            {...ids}
            className="write"
            type="number"
            min={1}
            max={1000}
            value={retry.tries ?? ''}
            onChange={event => {
              const tries = event.target.value === '' ? null : event.target.valueAsNumber;
              if (tries === null || (Number.isInteger(tries) && tries >= 1 && tries <= 1000)) set({ ...retry, tries });
            }}
          />
        )}
      </Labelled>
      <Labelled
        label="Statuses that are tried again"
        hint="That no answer came always is."
        error={typeof read === 'string' ? read : null}
      >
        {ids => (
          <input
            {...ids}
            className="write font-mono text-small"
            value={text}
            onChange={event => {
              setText(event.target.value);
              const statuses = statusesIn(event.target.value);
              if (typeof statuses !== 'string') set({ ...retry, statuses });
            }}
          />
        )}
      </Labelled>
      <Labelled label="A success with a web page" hint="Many a sign-in page calls itself a success.">
        {ids => (
          <select
            {...ids}
            className="write"
            value={call.pages ?? ''}
            onChange={event => onChange({ pages: (event.target.value || null) as CallInput['pages'] })}
          >
            <option value="">{`is ${answersPage ? 'a success' : 'a refusal'}, by what the target says of itself`}</option>
            <option value="refused">is a refusal</option>
            <option value="taken">is a success</option>
          </select>
        )}
      </Labelled>
      <p className="self-end pb-1 text-small text-ink-3">
        <Act
          onClick={() => {
            onChange({ retry: null, pages: null });
            setText(wordsOf(usualRetries));
            setOpen(false);
          }}
        >
          As is usual
        </Act>
      </p>
    </div>
  );
}
