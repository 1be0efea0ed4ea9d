import { useState } from 'react';
import { wordsFor } from '../../../api';
import { Act, Fault, Moment, Note, Press, useSettled } from '../../../ui';
import { useDryRun, useTrial } from '../../queries';
import { Asks, whereTo } from '../../test/Asks';
import { NoSample, useWorkbench } from '../../workbench';
import { Overview } from './Overview';

/** ms that a sample is looked at before anything is looked up for it. */
const PASSED = 350;

/** Everything the sample at hand sends, call by call: looked up for certain, sent only when it is asked for. */
export function Requests() {
  const { route, editing, sample, run } = useWorkbench('route', 'editing', 'walk', 'rehearsed');
  const isStored = editing.saving === 'saved';
  // What is looked up is really looked up at somebody's: not for samples that are only passed.
  const settledId = useSettled(sample?.id ?? '', PASSED);
  const dry = useDryRun(route.id, route.revision, settledId === sample?.id ? sample.id : undefined, isStored);
  const trial = useTrial(route.id);
  /** The sample and the draft that are about to be sent, as they are shown: with another of either nothing is. */
  const [armed, arm] = useState<{ sampleId: string; revision: number } | null>(null);
  const asking = armed?.sampleId === sample?.id && armed?.revision === route.revision && isStored ? armed : null;
  const tried = route.trial?.sampleId === sample?.id ? route.trial : null;
  if (!sample)
    return (
      <p className="px-6 py-4 font-serif text-ink-2">
        <NoSample none="No samples yet." />
      </p>
    );
  return (
    <div className="px-6 pt-3 pb-10">
      <div className="flex flex-wrap items-baseline gap-4">
        <p className="flex-1 font-serif text-ink-2">All requests of this sample, in order.</p>
        {asking ? (
          <span className="flex items-baseline gap-3">
            <span>{whereTo(route.targets)}</span>
            <Press onClick={() => trial.mutate(asking, { onSettled: () => arm(null) })} disabled={trial.isPending}>
              Send
            </Press>
            <Act onClick={() => arm(null)}>Cancel</Act>
          </span>
        ) : (
          <Press
            quiet
            onClick={() => arm({ sampleId: sample.id, revision: route.revision })}
            disabled={!isStored || trial.isPending}
          >
            Send a test…
          </Press>
        )}
      </div>
      {run?.goes[sample.place] === 0 && (
        <Note tone="look">The filter leaves this sample out. Without the filter it would send this.</Note>
      )}
      {trial.error && <Fault>{wordsFor(trial.error)}</Fault>}
      {dry.error && <Fault again={() => void dry.refetch()}>{wordsFor(dry.error)}</Fault>}
      {tried && (
        <section aria-label="Last test" className="mt-4 border-l-2 border-oxide pl-4">
          <h2>
            Sent <Moment at={tried.at} />
            {tried.revision !== route.revision && (
              <span className="font-sans text-body font-normal text-ochre"> before the last edits</span>
            )}
          </h2>
          <Asks run={tried} isReal />
        </section>
      )}
      {!dry.data && !dry.error && (
        <p role="status" className="late mt-4 font-serif text-ink-3">
          {isStored ? 'Looking up…' : 'Saving edits first…'}
        </p>
      )}
      {dry.data && (
        <section aria-label="What would be sent" className="mt-4">
          {tried && <h2>What would be sent now</h2>}
          <p className="font-serif text-ink-2">
            {dry.data.asks.some(each => each.status !== undefined) ? (
              <>
                Look-ups were sent <Moment at={new Date(dry.dataUpdatedAt).toISOString()} />; nothing else.{' '}
                <Act onClick={() => void dry.refetch()} disabled={dry.isFetching}>
                  Look up again
                </Act>
              </>
            ) : (
              'Nothing was sent.'
            )}
          </p>
          <Asks run={dry.data} isReal={false} />
        </section>
      )}
      {editing.draft.calls.some(each => each.find) && <Overview />}
    </div>
  );
}
