import type { ChangeTouch, ChangeView } from '@grammata/contract';
import { MOST_HELD } from '@grammata/contract';
import { useId, useState } from 'react';
import { Link } from 'react-router';
import { wordsFor } from '../api';
import { Act, count, counted, Fault, span } from '../ui';
import { useHold, useSendShown } from './queries';

/** Whether a route holds what comes while a change is open, and the other way, to be decided here. */
export function Holding({ change, touch }: { change: ChangeView; touch: ChangeTouch }) {
  const hold = useHold(change.id);
  const { routeId, name, holds, holdHours, state, touch: does } = touch;
  if (change.subject !== 'form' || state === 'draft' || (does === 'harmless' && !holds)) return null;
  const decide = (decision: 'hold' | 'deliver', words: string) => (
    <Act
      className="quiet"
      aria-label={`${words}: ${name}`}
      onClick={() => hold.mutate({ routeId, decision })}
      disabled={hold.isPending}
    >
      {words}
    </Act>
  );
  const until = holdHours === null ? '' : `, ${span(holdHours)} at most`;
  return (
    <p className="flex flex-wrap items-baseline gap-x-4 text-ink-2">
      {holds ? `What comes is held until this is resolved${until}.` : 'What comes is delivered as it is.'}
      {holds ? decide('deliver', 'Deliver it as it is') : decide('hold', 'Hold it')}
      {hold.error && <Fault>{wordsFor(hold.error)}</Fault>}
    </p>
  );
}

/** What went without the answer that a route uses: listed, and completed where the route updates what it made. */
export function Lacking({ change, touch }: { change: ChangeView; touch: ChangeTouch }) {
  const [isListed, list] = useState(false);
  const complete = useSendShown('delivered');
  const id = useId();
  const { lacking, completes, uses } = touch;
  if (complete.isSuccess)
    return (
      <p role="status" className="text-ink-2">
        Sending. Each updates the record it made.
      </p>
    );
  if (lacking.length === 0) return null;
  const many = `${counted(lacking.length, 'submission')}${lacking.length >= MOST_HELD ? ' or more' : ''}`;
  const isRepaired = change.state !== 'open' || uses.length === 0;
  return (
    <div className="text-ink-2">
      <p className="flex flex-wrap items-baseline gap-x-4">
        <span>
          {many} delivered without it.{' '}
          {!completes
            ? 'This route does not update records, so add it at the target.'
            : !isRepaired && 'They can be completed once a repair is live.'}
        </span>
        <Act className="quiet" aria-expanded={isListed} aria-controls={id} onClick={() => list(!isListed)}>
          {isListed ? 'Hide them' : 'List them'}
        </Act>
        {completes && isRepaired && (
          <Act onClick={() => complete.mutate(lacking.map(each => each.id))} disabled={complete.isPending}>
            Send again to complete ({count(lacking.length)})
          </Act>
        )}
      </p>
      {complete.error && <Fault>{wordsFor(complete.error)}</Fault>}
      <ul id={id} hidden={!isListed} className="mt-1 mb-1.5 columns-2 gap-x-6 max-sm:columns-1">
        {lacking.map(each => (
          <li key={each.id} className="truncate">
            <Link className="act quiet" to={`/deliveries/${each.id}`}>
              {each.about}
            </Link>
          </li>
        ))}
      </ul>
    </div>
  );
}
