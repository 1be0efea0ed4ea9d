import { useState } from 'react';
import { Link } from 'react-router';
import { wordsFor } from '../../api';
import { useRoutes } from '../../lists';
import { Act, Fault, listed, Press, Radios, Wire } from '../../ui';
import { type Seen, useWorkbench } from '../workbench';
import { useSendAgain } from './useTryout';

/** A recorded sample, sent to its intake exactly as its builder does: reading, checks, condition and delivery are tried with it. */
export function WholeWay({ sample }: { sample: Seen }) {
  const { route } = useWorkbench('route');
  const [how, setHow] = useState<'fresh' | 'same'>('fresh');
  const send = useSendAgain();
  const live = (useRoutes().data ?? []).filter(each => each.formId === route.form.id && each.state === 'live');
  if (sample.isVariant)
    return (
      <p className="mt-4 font-serif text-lead text-ink-2">
        This sample is a variant: no builder ever sent it. Pick one that was recorded.
      </p>
    );
  const answer = send.data;
  const start = () => send.mutate({ sampleId: sample.id, fresh: how === 'fresh' });
  return (
    <section aria-label="The whole way">
      <p className="mt-4 font-serif text-lead text-ink-2">
        Send this sample to “{route.form.intakeName}” once more, as its builder did.
      </p>
      <Radios
        className="mt-3 space-y-1"
        legend="Which identifier it has"
        name="identifier"
        value={how}
        onChange={setHow}
        options={{
          fresh: 'With an identifier of its own: it counts as a new submission',
          same: 'Exactly as it came: it should be known to be the same, and not be delivered again',
        }}
      />
      <p className={`mt-3 font-serif ${live.length > 0 && how === 'fresh' ? 'text-ochre' : 'text-ink-2'}`}>
        {live.length === 0
          ? 'No route is live for this form: it is recorded, and goes nowhere.'
          : how === 'fresh'
            ? `It is really delivered by what is live: ${listed(live.map(each => each.name))}.`
            : `Live for this form: ${listed(live.map(each => each.name))}.`}
      </p>
      <p className="mt-3">
        <Press onClick={start} disabled={send.isPending}>
          {send.isPending ? 'Waiting for the answer…' : 'Send it to the intake'}
        </Press>
      </p>
      {send.error && <Fault>{wordsFor(send.error)}</Fault>}
      {answer && (
        <div className="mt-5 border-t border-ink pt-3">
          <p role="status" className={answer.status < 400 ? 'text-verdigris' : 'text-crimson'}>
            The intake answered {answer.status}
            {answer.identifier !== null && (
              <span className="text-ink-2">
                ; it was sent as <code className="font-mono text-small">{answer.identifier}</code>
              </span>
            )}
            {answer.identifier === null && how === 'fresh' && (
              <span className="text-ink-2">
                ; it states no identifier that could be replaced, so it went as it came
              </span>
            )}
            .
          </p>
          <div className="mt-2 border-l-2 border-rule pl-4">
            <Wire label="What was sent, without its body" text={answer.head} />
            <div className="mt-3">
              <Wire label="What the intake answered" text={answer.body} />
            </div>
          </div>
          <p className="mt-3">
            <Link className="act mr-5" to={`/intakes/${route.form.intakeId}`}>
              See it arrive
            </Link>
            <Act onClick={() => send.reset()}>Done</Act>
          </p>
        </div>
      )}
    </section>
  );
}
