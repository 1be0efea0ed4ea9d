import { useState } from 'react';
import { Link } from 'react-router';
import { wordsFor } from '../../api';
import { useRoutes } from '../../lists';
import { Act, Fault, listed, Press, Radios, Wire } from '../../ui';
import { type Seen, useWorkbench } from '../workbench';
import { useSendAgain } from './useTest';

/** A recorded sample, sent to its intake exactly as its builder does: reading, checks, condition and delivery are tried with it. */
export function WholeWay({ sample }: { sample: Seen }) {
  const { route } = useWorkbench('route');
  const [how, setHow] = useState<'fresh' | 'same'>('fresh');
  const send = useSendAgain();
  const live = (useRoutes().data ?? []).filter(each => each.formId === route.form.id && each.state === 'live');
  if (sample.isVariant)
    return (
      <p className="mt-4 font-serif text-lead text-ink-2">
        This sample is a variant that no form builder sent. Choose a received one.
      </p>
    );
  const answer = send.data;
  const start = () => send.mutate({ sampleId: sample.id, fresh: how === 'fresh' });
  return (
    <section aria-label="End to end">
      <p className="mt-4 font-serif text-lead text-ink-2">
        Send this sample to “{route.form.intakeName}” again, as the form builder did.
      </p>
      <Radios
        className="mt-3 space-y-1"
        legend="Submission ID"
        name="identifier"
        value={how}
        onChange={setHow}
        options={{
          fresh: 'New ID: counts as a new submission',
          same: 'Same ID: should be recognised as a duplicate',
        }}
      />
      <p className={`mt-3 font-serif ${live.length > 0 && how === 'fresh' ? 'text-ochre' : 'text-ink-2'}`}>
        {live.length === 0
          ? 'No live route for this form: it is stored and not delivered.'
          : how === 'fresh'
            ? `Delivered as real data by the live routes: ${listed(live.map(each => each.name))}.`
            : `Live routes for this form: ${listed(live.map(each => each.name))}.`}
      </p>
      <p className="mt-3">
        <Press onClick={start} disabled={send.isPending}>
          {send.isPending ? 'Waiting for the response…' : 'Send to the intake'}
        </Press>
      </p>
      {send.error && <Fault>{wordsFor(send.error)}</Fault>}
      {answer && (
        <div className="mt-5 border-t border-ink pt-3">
          <p role="status" className={answer.status < 400 ? 'text-verdigris' : 'text-crimson'}>
            Response of the intake: {answer.status}
            {answer.identifier !== null && (
              <span className="text-ink-2">
                ; sent with ID <code className="font-mono text-small">{answer.identifier}</code>
              </span>
            )}
            {answer.identifier === null && how === 'fresh' && (
              <span className="text-ink-2">; it has no ID to replace, so it was sent unchanged</span>
            )}
            .
          </p>
          <div className="mt-2 border-l-2 border-rule pl-4">
            <Wire label="Request, without body" text={answer.head} />
            <div className="mt-3">
              <Wire label="Response" text={answer.body} />
            </div>
          </div>
          <p className="mt-3">
            <Link className="act mr-5" to={`/intakes/${route.form.intakeId}`}>
              Open intake
            </Link>
            <Act onClick={() => send.reset()}>Done</Act>
          </p>
        </div>
      )}
    </section>
  );
}
