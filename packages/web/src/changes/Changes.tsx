import type { ChangeTouch, ChangeView } from '@grammata/contract';
import type { AnswerChange } from '@grammata/core/drift';
import { asText, type Json } from '@grammata/core/submission';
import { useState } from 'react';
import { Link } from 'react-router';
import { useView } from '../address';
import { wordsFor } from '../api';
import { Read } from '../app/Read';
import { useKeys } from '../app/keys';
import { Act, Choices, count, counted, Empty, Fault, Moment, Note, RouteStateWord, Sheet } from '../ui';
import { changeWords, useChanges } from '../drift';
import { useSettle } from './queries';
import { Repair } from './Repair';
import { WhatIf } from './WhatIf';

/** What forms and targets do otherwise than before, the newest first: what it touches, what mends it, and who settled it. */
export function Changes() {
  const changes = useChanges();
  return (
    <Read title="Changes" query={changes}>
      {({ changes: all, open }) => <Listed all={all} open={open} />}
    </Read>
  );
}

function Listed({ all, open }: { all: ChangeView[]; open: number }) {
  const [shows, show] = useView('show', { open: true, all: true }, 'open');
  const [supposing, setSupposing] = useState(false);
  useKeys([
    { key: 'w', does: 'what if…', run: () => setSupposing(true) },
    { key: 'a', does: 'open ones or all', run: () => show(shows === 'all' ? 'open' : 'all') },
  ]);
  const shown = shows === 'all' ? all : all.filter(each => each.state === 'open');
  const breaking = shown.filter(
    each => each.state === 'open' && each.touches.some(({ touch, state }) => touch === 'breaks' && state !== 'draft'),
  ).length;
  return (
    <Sheet
      title="Changes"
      aside={
        <>
          {breaking > 0 && (
            <Note tone="trouble">
              {counted(breaking, 'change')} {breaking === 1 ? 'breaks' : 'break'} what is live. What can’t be sent is
              not lost: send again what is{' '}
              <Link className="act" to="/deliveries?state=held">
                held
              </Link>
              , or{' '}
              <Link className="act" to="/deliveries?state=dead">
                dead
              </Link>
              , once it is mended.
            </Note>
          )}
          <Note tone="goes">
            Each submission is held against what its form sent before, each reading of a target against the one before
            it. One change is told once, with what it does to each route.
          </Note>
        </>
      }
      actions={
        <>
          {!supposing && (
            <Act onClick={() => setSupposing(true)} title="Key w">
              What if…
            </Act>
          )}
          <Link className="act" to="/changes/compare">
            Hold two against each other
          </Link>
          <Choices
            label="Which changes"
            value={shows}
            onChange={show}
            ways={[
              { value: 'open', label: 'Open', count: open },
              { value: 'all', label: 'All', count: all.length, title: 'Key a' },
            ]}
          />
        </>
      }
    >
      {supposing && <WhatIf onClose={() => setSupposing(false)} />}
      {shown.length === 0 ? (
        <Empty title={all.length === 0 ? 'Nothing changed yet.' : 'Nothing is open.'}>
          When a form asks something else, or a target takes something else, it is told here before anybody notices.
        </Empty>
      ) : (
        <ul aria-label="Changes" className="mt-4 border-t border-ink">
          {shown.map(each => (
            <Change key={each.id} change={each} />
          ))}
        </ul>
      )}
    </Sheet>
  );
}

const marks: Record<ChangeTouch['touch'], { mark: string; colour: string; words: string }> = {
  breaks: { mark: '!', colour: 'text-crimson', words: 'breaks' },
  risks: { mark: '△', colour: 'text-ochre', words: 'is a risk for' },
  harmless: { mark: '·', colour: 'text-ink-3', words: 'does nothing to' },
};

function Change({ change }: { change: ChangeView }) {
  const { id, subject, subjectId, subjectName, place, firstAt, since, state, by, settledAt, touch, touches } = change;
  const settle = useSettle();
  const [repairing, setRepairing] = useState<string | null>(null);
  const isOpen = state === 'open';
  // What comes at all is no route's business.
  const isTraffic = ['silent', 'flood', 'another-form'].includes(change.change);
  // What a target answers is mended by people, here or there.
  const answered = remedies[change.change as AnswerChange['change']] ? (change.change as AnswerChange['change']) : null;
  const { mark, colour } = marks[isOpen ? touch : 'harmless'];
  const words = changeWords(change);
  const touched = touches.filter(each => each.touch !== 'harmless');
  return (
    <li aria-label={words} className="border-b border-rule py-3">
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-2">
        <span aria-hidden className={`w-3 shrink-0 font-mono font-bold ${colour}`}>
          {mark}
        </span>
        <div className="min-w-0 flex-1 basis-48">
          <p className="font-serif text-lead [overflow-wrap:anywhere]">{words}</p>
          <p className="text-small text-ink-2">
            <Link className="hover:underline" to={subject === 'form' ? `/forms/${subjectId}` : `/targets/${subjectId}`}>
              {subject === 'form' ? 'Form' : 'Target'} {subjectName}
            </Link>
            {place && `, ${place}`} · seen <Moment at={firstAt} />
            {since !== null && ` · ${counted(since, 'submission')} since`}
            {!isOpen && (
              <>
                {' '}
                · {state === 'settled' ? 'settled by' : 'nothing to do, said'} {by}
                {settledAt && (
                  <>
                    , <Moment at={settledAt} />
                  </>
                )}
              </>
            )}
          </p>
          <Example before={change.before} after={change.after} />
          {change.messages && (
            <p className="mt-1">
              <Link
                className="act"
                to={`/changes/compare?before=${change.messages.before}&after=${change.messages.after}`}
              >
                The messages side by side
              </Link>
            </p>
          )}
          {isOpen && !isTraffic && (
            <ul className="mt-2 space-y-1">
              {(touched.length > 0 ? touched : touches.slice(0, 1)).map(each => (
                <Touch
                  key={each.routeId}
                  touch={each}
                  isRepairing={repairing === each.routeId}
                  onRepair={answered ? null : () => setRepairing(repairing === each.routeId ? null : each.routeId)}
                />
              ))}
              {touched.length === 0 && touches.length > 1 && (
                <li className="text-small text-ink-2">nor to {counted(touches.length - 1, 'other route')}</li>
              )}
              {touches.length === 0 && <li className="text-small text-ink-2">No route takes this on.</li>}
            </ul>
          )}
          {isOpen && change.change === 'another-form' && (
            <p className="mt-2 font-serif text-ink-2">
              Say what is to be done with it: take it on with a route of its own, put it with the form that it is a
              generation of, or ignore it.{' '}
              <Link className="act" to={`/forms/${subjectId}`}>
                Look at it
              </Link>
            </p>
          )}
          {isOpen && answered && (
            <p className="mt-2 font-serif text-ink-2">
              <Remedy change={answered} targetId={subjectId} />
            </p>
          )}
          {repairing !== null && isOpen && (
            <Repair key={repairing} changeId={id} routeId={repairing} onDone={() => setRepairing(null)} />
          )}
          {settle.error && <Fault>{wordsFor(settle.error)}</Fault>}
        </div>
        <span className="shrink-0 space-x-4">
          {isOpen ? (
            <>
              <Act onClick={() => settle.mutate({ id, state: 'declined' })} disabled={settle.isPending}>
                Nothing to do
              </Act>
              <Act onClick={() => settle.mutate({ id, state: 'settled' })} disabled={settle.isPending}>
                Settled
              </Act>
            </>
          ) : (
            <Act onClick={() => settle.mutate({ id, state: 'open' })} disabled={settle.isPending}>
              Open again
            </Act>
          )}
        </span>
      </div>
    </li>
  );
}

const shown = (value: Json): string => asText(value).slice(0, 120);

/** An answer before and one since. */
function Example({ before, after }: { before: Json; after: Json }) {
  if (before === null && after === null) return null;
  return (
    <p className="mt-1 font-mono text-small [overflow-wrap:anywhere]">
      <span className="text-ink-2">{shown(before) || 'nothing'}</span>
      <span aria-hidden className="mx-2 text-ink-3">
        →
      </span>
      <span className="sr-only"> before, since then </span>
      {shown(after) || 'nothing'}
    </p>
  );
}

const usesWords = (uses: ChangeTouch['uses']): string => {
  const lines = [...new Set(uses.flatMap(each => each.to ?? []))];
  const others = [
    ...new Set(
      uses.filter(each => each.to === null).map(each => (each.what === 'line' ? 'the call' : `a ${each.what}`)),
    ),
  ];
  return [...lines, ...others].join(', ');
};

/** What somebody can do where a target answers otherwise: the words, what is pressed, and where that leads. */
const remedies: Record<AnswerChange['change'], { words: string; deed: string; to: (targetId: string) => string }> = {
  credentials: {
    words: 'Make new ones at the target; what was refused can be sent again then.',
    deed: 'Put them in',
    to: id => `/targets/${id}`,
  },
  refused: {
    words: 'Read the target again, in case its description tells more; what was refused can be sent again, mended.',
    deed: 'Look at what was refused',
    to: () => '/deliveries?state=dead',
  },
  answer: {
    words: 'Where a route takes it out of the answer, it is blank or another since then.',
    deed: 'Look at what it offers',
    to: id => `/targets/${id}`,
  },
  stored: {
    words: 'Ask whoever looks after it, and send again what matters.',
    deed: 'Look at what it offers',
    to: id => `/targets/${id}`,
  },
};

function Remedy({ change, targetId }: { change: AnswerChange['change']; targetId: string }) {
  const { words, deed, to } = remedies[change];
  return (
    <>
      {words}{' '}
      <Link className="act" to={to(targetId)}>
        {deed}
      </Link>
    </>
  );
}

function Touch({
  touch,
  isRepairing,
  onRepair,
}: {
  touch: ChangeTouch;
  isRepairing: boolean;
  /** Null where nothing mends it by itself. */
  onRepair: (() => void) | null;
}) {
  const { routeId, name, state, uses, held, looked } = touch;
  const [first] = uses;
  const line = first?.callId && first.lineId ? `?call=${first.callId}&line=${first.lineId}` : '';
  return (
    <li className="flex flex-wrap items-baseline gap-x-3">
      <span className={marks[touch.touch].colour}>{marks[touch.touch].words}</span>
      <Link className="font-semibold hover:underline" to={`/routes/${routeId}/what${line}`}>
        {name}
      </Link>
      <RouteStateWord state={state} />
      {uses.length > 0 && <span className="font-mono text-small text-ink-2">{usesWords(uses)}</span>}
      {held > 0 && touch.touch !== 'harmless' && (
        <span className="text-small text-crimson">
          {count(held)} of the {count(looked)} newest can’t be sent
        </span>
      )}
      {touch.touch !== 'harmless' && onRepair && (
        <Act aria-expanded={isRepairing} onClick={onRepair}>
          {isRepairing ? 'Close the repair' : 'Show a repair'}
        </Act>
      )}
    </li>
  );
}
