import type { ChangeTouch, ChangeView } from '@grammata/contract';
import { asText, type Json } from '@grammata/core/submission';
import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { wordsFor } from '../api';
import { changeWords } from '../drift';
import { Act, count, counted, Fault, Moment, Press, RouteStateWord } from '../ui';
import {
  answerChangeOf,
  effects,
  effectWords,
  isTraffic,
  isWithdrawn,
  sendWords,
  stoppedOf,
  usesWords,
} from './effect';
import { useSendShown, useSettle } from './queries';
import { Holding, Lacking, LeftOut } from './Holding';
import type { CauseView } from './causes';
import { Repair } from './Repair';
import { Remedy } from './Remedy';

/** A change: what it does to routes, its cause, and the one thing to do about it. */
export function Entry({
  change,
  isOpened,
  onOpen,
  onClose,
}: {
  change: CauseView;
  isOpened: boolean;
  onOpen: () => void;
  onClose: () => void;
}) {
  const { id, ids, state, touch, touches, messages } = change;
  const settle = useSettle();
  const isOpen = state === 'open';
  const touched = touches.filter(each => each.touch !== 'harmless');
  const answered = answerChangeOf(change);
  const hasDetails = isOpen && touched.length > 0;
  const isShown = hasDetails && isOpened;
  const [asked, setRepairing] = useState<string | null>(null);
  const repairing = touched.find(each => each.routeId === asked) ?? touched[0];
  const words = changeWords(change);
  const isAlone = isTraffic(change);
  const { head, rest } = isAlone && isOpen ? { head: words, rest: '' } : effectWords(change);
  const { mark, colour } = effects[!isOpen ? 'harmless' : isAlone ? 'risks' : touch];
  const decide = (next: ChangeView['state'], label: string) => (
    <Act className="quiet" onClick={() => settle.mutate({ ids, state: next })} disabled={settle.isPending}>
      {label}
    </Act>
  );
  return (
    <li
      aria-label={words}
      className={`border-b ${isShown ? '-mx-6 border-ink px-6 max-sm:-mx-4 max-sm:px-4' : 'border-rule-strong pb-3'} pt-2.5`}
    >
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-2">
        <span aria-hidden className={`-mr-2 w-3 shrink-0 font-mono font-bold ${colour}`}>
          {mark}
        </span>
        <div className="min-w-0 flex-1 basis-64">
          <h2 tabIndex={-1} className="wrap-anywhere font-serif text-lead font-semibold">
            <span className={isOpen && touch !== 'harmless' ? colour : ''}>{head}</span>
            {rest && (isOpen ? ` ${rest}` : `: ${rest}`)}
          </h2>
          {!isShown && <Cause change={change} words={isAlone && isOpen ? null : words} />}
          {isOpen && change.change === 'another-form' && (
            <p className="mt-1 font-serif text-ink-2">
              Create a route for it, merge it with another form, or ignore it.
            </p>
          )}
        </div>
        <span className="flex flex-wrap items-baseline gap-x-5 gap-y-2">
          {isShown && messages && <Messages {...messages} />}
          {isOpen ? (
            <>
              {decide('declined', 'Dismiss')}
              {(isShown || !hasDetails) && decide('settled', 'Mark resolved')}
            </>
          ) : (
            decide('open', 'Reopen')
          )}
          {isShown && (
            <Act className="quiet" onClick={onClose}>
              Close
            </Act>
          )}
          {hasDetails && !isShown && (
            <Press quiet onClick={onOpen}>
              {answered ? 'Show routes' : 'Show repair'}
            </Press>
          )}
          {isOpen && change.change === 'added' && touches.length === 1 && (
            <Link className="press quiet" to={`/routes/${touches[0]!.routeId}/mapping`}>
              Add to mapping
            </Link>
          )}
          {isOpen && change.change === 'another-form' && (
            <Link className="press quiet" to={`/forms/${change.subjectId}`}>
              Open form
            </Link>
          )}
          {!isOpen && <SendStopped change={change} onSent={onOpen} />}
        </span>
      </div>
      {!isOpen &&
        !isWithdrawn(change) &&
        touches.map(each => (
          <div key={each.routeId} className="pl-6">
            <Lacking change={change} touch={each} />
            <LeftOut touch={each} />
          </div>
        ))}
      {isShown && (
        <>
          <dl className="mt-1.5 grid gap-y-1 pl-6 sm:grid-cols-[92px_minmax(0,1fr)]">
            <dt className="font-semibold text-ink-2">Routes</dt>
            <dd>
              <ul className="space-y-0.5">
                {touched.map(each => (
                  <Touch
                    key={each.routeId}
                    change={change}
                    touch={each}
                    onRepair={
                      answered || touched.length === 1 || each === repairing ? null : () => setRepairing(each.routeId)
                    }
                  />
                ))}
              </ul>
            </dd>
            <dt className="font-semibold text-ink-2">Cause</dt>
            <dd>
              <Cause change={change} words={words} />
            </dd>
          </dl>
          {answered ? (
            <div className="mt-2 flex flex-wrap items-baseline gap-x-5 gap-y-2 pb-3 pl-6">
              <p className="font-serif text-ink-2">
                <Remedy change={answered} targetId={change.subjectId} />
              </p>
              <SendStopped change={change} onSent={onOpen} />
            </div>
          ) : (
            repairing && <Repair key={repairing.routeId} changeId={id} touch={repairing} />
          )}
        </>
      )}
      {settle.error && <Fault>{wordsFor(settle.error)}</Fault>}
    </li>
  );
}

/** What changed, where and since when; with an answer before and one since. */
function Cause({ change, words }: { change: ChangeView; words: string | null }) {
  const { subject, subjectId, subjectName, place, firstAt, since, state, by, settledAt, before, after } = change;
  const to = subject === 'form' ? `/forms/${subjectId}` : `/targets/${subjectId}`;
  return (
    <div>
      <p>
        {words && <span className="mr-3 wrap-anywhere font-serif text-reading">{words}</span>}
        <span className="text-ink-2">
          <Link className="act quiet" to={to}>
            {subjectName}
          </Link>
          {place && `, ${place}`}, since <Moment at={firstAt} />
          {since !== null && `, ${counted(since, 'submission')}`}
          {state !== 'open' && (
            <>
              ;{' '}
              {isWithdrawn(change)
                ? 'withdrawn: it is as before again'
                : `${state === 'settled' ? 'resolved' : 'dismissed'} by ${by}`}
              {settledAt && (
                <>
                  , <Moment at={settledAt} />
                </>
              )}
            </>
          )}
        </span>
      </p>
      {(before !== null || after !== null) && (
        <p className="wrap-anywhere font-mono text-small">
          <span className="text-ink-2">{brief(before)}</span>
          <span aria-hidden className="mx-2 text-ink-3">
            →
          </span>
          <span className="sr-only"> before, now </span>
          {brief(after)}
        </p>
      )}
    </div>
  );
}

const brief = (value: Json): string => asText(value).slice(0, 120) || 'nothing';

const Messages = ({ before, after }: { before: string; after: string }) => (
  <Link className="act quiet" to={`/changes/compare?before=${before}&after=${after}`}>
    Show messages
  </Link>
);

/** What it does to one route, and where. */
function Touch({
  change,
  touch: touched,
  onRepair,
}: {
  change: ChangeView;
  touch: ChangeTouch;
  onRepair: (() => void) | null;
}) {
  const { routeId, name, state, version, touch, uses, held, looked } = touched;
  const [first] = uses;
  const line = first?.callId && first.lineId ? `?call=${first.callId}&line=${first.lineId}` : '';
  const { mark, colour, words } = effects[touch];
  return (
    <li className="flex flex-wrap items-baseline gap-x-4 lg:grid lg:grid-cols-[6rem_minmax(8rem,15rem)_9rem_minmax(0,1fr)_auto]">
      <span className={colour}>
        <span aria-hidden className="mr-2 inline-block w-2 font-mono font-bold">
          {mark}
        </span>
        {words}
      </span>
      <Link className="wrap-anywhere font-semibold hover:underline" to={`/routes/${routeId}/mapping${line}`}>
        {name}
      </Link>
      <span>
        <RouteStateWord state={state} />
        {version !== null && `, version ${version}`}
      </span>
      <span>
        <code className="text-small">{usesWords(uses)}</code>
        {held > 0 && (
          <span className="ml-4 text-crimson">
            {count(held)} of the {count(looked)} newest can’t be sent
          </span>
        )}
      </span>
      {onRepair && (
        <Act className="quiet" onClick={onRepair}>
          Show repair
        </Act>
      )}
      <div className="basis-full lg:col-[2/-1]">
        <Holding change={change} touch={touched} />
        <Lacking change={change} touch={touched} />
        <LeftOut touch={touched} />
      </div>
    </li>
  );
}

/** Sends again what was held or rejected because of a change: those that are counted, and no others. While it is open, mending it comes first. */
function SendStopped({ change, onSent }: { change: ChangeView; onSent: () => void }): ReactNode {
  const send = useSendShown();
  if (send.isSuccess)
    return (
      <Link role="status" className="act quiet" to="/deliveries">
        Sending. Open deliveries
      </Link>
    );
  const stopped = stoppedOf(change);
  if (stopped.length === 0) return null;
  return (
    <>
      <Press
        quiet={change.state === 'open'}
        onClick={() => send.mutate(stopped, { onSuccess: onSent })}
        disabled={send.isPending}
      >
        {sendWords(change)}
      </Press>
      {send.error && <Fault>{wordsFor(send.error)}</Fault>}
    </>
  );
}
