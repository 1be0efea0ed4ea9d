import type { ChangeTouch, ChangeView } from '@grammata/contract';
import { MOST_HELD } from '@grammata/contract';
import { useId, useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { wordsFor } from '../api';
import { Act, count, counted, Fault, span } from '../ui';
import { useHold, useSendShown, useSendStored } from './queries';

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
  const complete = useSendShown();
  const { lacking, completes, uses } = touch;
  if (complete.isSuccess) return <Sent>Sending. Each updates the record it made.</Sent>;
  if (lacking.length === 0) return null;
  const isRepaired = change.state !== 'open' || uses.length === 0;
  return (
    <Missed
      all={lacking.map(({ id, about }) => ({ id, about, to: `/deliveries/${id}` }))}
      words="delivered without it."
      note={
        !completes
          ? 'This route does not update records, so add it at the target.'
          : isRepaired
            ? null
            : 'They can be completed once a repair is live.'
      }
      error={complete.error}
    >
      {completes && isRepaired && (
        <Act
          onClick={() => complete.mutate(lacking.map(({ id }) => ({ id, state: 'delivered' })))}
          disabled={complete.isPending}
        >
          Send again to complete ({count(lacking.length)})
        </Act>
      )}
    </Missed>
  );
}

/** What the filter of a route left out, since it asks for what changed: listed, and sent once what is live lets it through. */
export function LeftOut({ touch }: { touch: ChangeTouch }) {
  const { routeId, version, leftOut } = touch;
  const send = useSendStored(routeId);
  const going = leftOut.filter(each => each.goes).map(each => each.sampleId);
  if (send.isSuccess) return <Sent>Sending what was left out.</Sent>;
  if (leftOut.length === 0) return null;
  return (
    <Missed
      all={leftOut.map(({ sampleId, arrivalId, about }) => ({ id: sampleId, about, to: `/arrivals/${arrivalId}` }))}
      words="left out: the filter asks for what changed."
      note={going.length === 0 ? 'They can be sent once a filter that lets them through is live.' : null}
      error={send.error}
    >
      {going.length > 0 && version !== null && (
        <Act onClick={() => send.mutate({ sampleIds: going, version })} disabled={send.isPending}>
          Send what was left out ({count(going.length)})
        </Act>
      )}
    </Missed>
  );
}

const Sent = ({ children }: { children: ReactNode }) => (
  <p role="status" className="text-ink-2">
    {children}
  </p>
);

/** Submissions that a target misses, counted, with what can be done about them; each can be opened. */
function Missed({
  all,
  words,
  note,
  error,
  children,
}: {
  all: readonly { id: string; about: string; to: string }[];
  words: string;
  note: string | null;
  error: Error | null;
  children: ReactNode;
}) {
  const [isListed, list] = useState(false);
  const id = useId();
  const many = `${counted(all.length, 'submission')}${all.length >= MOST_HELD ? ' or more' : ''}`;
  return (
    <div className="text-ink-2">
      <p className="flex flex-wrap items-baseline gap-x-4">
        <span>
          {many} {words} {note}
        </span>
        <Act className="quiet" aria-expanded={isListed} aria-controls={id} onClick={() => list(!isListed)}>
          {isListed ? 'Hide them' : 'List them'}
        </Act>
        {children}
      </p>
      {error && <Fault>{wordsFor(error)}</Fault>}
      <ul id={id} hidden={!isListed} className="mt-1 mb-1.5 columns-2 gap-x-6 max-sm:columns-1">
        {all.map(each => (
          <li key={each.id} className="truncate">
            <Link className="act quiet" to={each.to}>
              {each.about}
            </Link>
          </li>
        ))}
      </ul>
    </div>
  );
}
