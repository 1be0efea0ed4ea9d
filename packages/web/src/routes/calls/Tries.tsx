import type { CallInput } from '@grammata/contract';
import { usualRetries, type Retry } from '@grammata/core/route';
import { useState } from 'react';
import { SuccessFields } from './SuccessFields';
import { Act, Choice, NumberBox, TextBox, useTyped } from '../../ui';

const usual: Retry = { tries: null, statuses: [...usualRetries] };
const isUsual = ({ tries, statuses }: Retry) => tries === null && wordsOf(statuses) === wordsOf(usualRetries);
const wordsOf = (statuses: readonly number[]) => [...statuses].sort((a, b) => a - b).join(', ');

/** The statuses in a text such as `429, 503`; or why it holds something else. */
export function statusesIn(text: string): number[] | string {
  const parts = text.split(/[\s,;]+/).filter(Boolean);
  const bad = parts.find(each => !/^[45]\d\d$/.test(each));
  if (bad !== undefined) return `“${bad}” can’t be retried. Enter statuses from 400 to 599.`;
  return [...new Set(parts.map(Number))].sort((a, b) => a - b);
}

const isTries = (number: number) => Number.isInteger(number) && number >= 1 && number <= 1000;

/** How often a request is made, which refusals pass, and what a web page or a rejection with a success status counts as. */
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
  const [open, setOpen] = useState(Boolean(call.retry ?? call.pages ?? call.success));
  /** A number that can't be taken yet. */
  const [odd, setOdd] = useState<number | null>(null);
  const [text, type] = useTyped(retry.statuses, wordsOf);
  const read = statusesIn(text);
  const set = (next: Retry) => onChange({ retry: isUsual(next) ? null : next });
  if (!open)
    return (
      <p>
        Default retries: no response, and {wordsOf(usualRetries)}. Success: by the status, unless the response says no.{' '}
        <Act onClick={() => setOpen(true)}>Change</Act>
      </p>
    );
  return (
    <div className="grid max-w-[46rem] gap-x-6 gap-y-3 sm:grid-cols-2">
      <NumberBox
        label="Maximum attempts"
        hint="Leave empty for as many as fit into the route’s retry time."
        error={odd === null ? null : 'Enter a whole number from 1 to 1,000, or leave empty.'}
        whenEmpty="null"
        value={odd ?? retry.tries}
        onChange={next => {
          const isFit = next === null || isTries(next);
          setOdd(isFit ? null : next);
          if (isFit) set({ ...retry, tries: next });
        }}
      />
      <TextBox
        label="Statuses to retry"
        hint="Missing responses are always retried."
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
        label="Web page as a response"
        hint="Sign-in pages often have a success status."
        value={call.pages ?? ''}
        options={{
          '': `is ${answersPage ? 'a success' : 'an error'} by the target’s own description`,
          refused: 'is an error',
          taken: 'is a success',
        }}
        onChange={pages => onChange({ pages: pages || null })}
      />
      <SuccessFields call={call} onChange={success => onChange({ success })} />
      <p className="self-end pb-1 text-small text-ink-3">
        <Act
          onClick={() => {
            onChange({ retry: null, pages: null, success: null });
            setOpen(false);
          }}
        >
          Use defaults
        </Act>
      </p>
    </div>
  );
}
