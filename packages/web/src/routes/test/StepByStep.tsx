import type { WalkView } from '@grammata/contract';
import { callName } from '@grammata/core/route';
import { useState } from 'react';
import { wordsFor } from '../../api';
import { itemWords } from '../../outcome';
import { Act, Fault, Press, Wire } from '../../ui';
import { otherThanShown, useShownDraft } from '../draft';
import { useWorkbench } from '../workbench';
import { Asks, purposes } from './Asks';
import { useBegin, useStep } from './useTest';

/** One request after the other, each shown before it is made and answered before the next. */
export function StepByStep({ sampleId }: { sampleId: string }) {
  const { route, editing, operationOf } = useWorkbench('route', 'editing', 'call');
  const begin = useBegin(route.id);
  const step = useStep(route.id);
  const [walk, setWalk] = useState<WalkView | null>(null);
  const [done, isOther] = useShownDraft(editing);
  const start = () => done(revision => begin.mutate({ sampleId, revision }, { onSuccess: setWalk }));
  const error = begin.error ?? step.error;
  const next = walk?.next;
  const call = next && editing.draft.calls.find(each => each.id === next.callId);
  return (
    <section aria-label="One request at a time">
      <h2 className="sr-only">Step through the requests</h2>
      {!walk && (
        <p className="mt-4 font-serif text-lead text-ink-2">
          See each request before it is sent, then the response and what is stored. Nothing is sent until you press the
          button.
        </p>
      )}
      {isOther && <Fault>{otherThanShown}</Fault>}
      {error && <Fault again={walk ? undefined : () => void start()}>{wordsFor(error)}</Fault>}
      {!walk && (
        <p className="mt-3">
          <Press onClick={() => void start()} disabled={begin.isPending}>
            {begin.isPending ? 'Preparing…' : 'Show first request'}
          </Press>
        </p>
      )}
      {walk && <Asks run={walk} isReal isUnderWay={walk.next !== null} />}
      {walk && next && (
        <section aria-label="Next request" className="border-b border-ink bg-raised px-4 py-3">
          <h3 className="flex items-baseline gap-3 font-sans text-body font-semibold">
            {walk.asks.length === 0 ? 'First' : 'Next'}: {call ? callName(call, operationOf(call)) : 'a call'}
            <span className="font-normal text-ink-2">
              {purposes[next.purpose]}
              {itemWords(next.item)}
            </span>
          </h3>
          <div className="mt-2 border-l-2 border-oxide pl-4">
            <Wire label="Next request, not sent yet" text={next.request} />
          </div>
          <p className="mt-3 flex items-baseline gap-5">
            <Press onClick={() => step.mutate(walk.id, { onSuccess: setWalk })} disabled={step.isPending}>
              {step.isPending ? 'Waiting for the response…' : 'Send this request'}
            </Press>
            <Act onClick={() => setWalk(null)}>Stop</Act>
          </p>
        </section>
      )}
      {walk && !next && (
        <p className="mt-3 flex items-baseline gap-5" role="status">
          <span className="font-serif">{walk.problems.length > 0 ? 'Stopped.' : 'Done: no more requests.'}</span>
          <Act onClick={() => void start()}>Start over</Act>
        </p>
      )}
    </section>
  );
}
