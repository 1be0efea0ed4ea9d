import { aboutSubmission } from '@grammata/core/submission';
import { useView } from '../../address';
import { useKeys } from '../../app/keys';
import { Act, Choices, count, Note, Margin } from '../../ui';
import { NoSample, useWorkbench } from '../workbench';
import { whereTo } from './Asks';
import { Batch } from './Batch';
import { WholeWay } from './WholeWay';
import { StepByStep } from './StepByStep';

const ways = [
  { value: 'steps', label: 'One request at a time' },
  { value: 'batch', label: 'Several samples' },
  { value: 'way', label: 'End to end' },
] as const;

/** A route tried out before it is live: a request at a time, with what people try by hand, and from the intake on. */
export function Test() {
  const { route, sample, samples, at, show, run } = useWorkbench('route', 'walk', 'rehearsed');
  const [way, take] = useView('try', { steps: true, batch: true, way: true }, 'steps');
  useKeys([
    { key: 'h', does: 'previous sample', run: () => show(at - 1) },
    { key: 'l', does: 'next sample', run: () => show(at + 1) },
  ]);
  if (!sample)
    return (
      <p className="px-6 py-4 font-serif text-ink-2">
        <NoSample none="No samples yet. Send a submission to the intake first." />
      </p>
    );
  return (
    <div className="grid flex-1 lg:grid-cols-[minmax(0,1fr)_268px]">
      <div className="min-w-0 px-6 pt-3 pb-12 max-sm:px-4">
        <div className="flex flex-wrap items-baseline justify-between gap-x-6 gap-y-1 border-b border-rule pb-2">
          <Choices label="Kind of test" value={way} ways={ways} onChange={take} />
          <span className="flex min-w-0 items-baseline gap-3">
            <Act onClick={() => show(at - 1)} disabled={at === 0} aria-label="Previous sample">
              ←
            </Act>
            <span className="min-w-0 truncate" role="status" aria-label="Sample">
              <span className="text-ink-2">Sample {count(at + 1)}</span>{' '}
              {sample.name ?? aboutSubmission(sample.submission)}
            </span>
            <Act onClick={() => show(at + 1)} disabled={at === samples.length - 1} aria-label="Next sample">
              →
            </Act>
          </span>
        </div>
        {way === 'steps' && <StepByStep key={sample.id} sampleId={sample.id} />}
        {way === 'batch' && <Batch sample={sample} />}
        {way === 'way' && <WholeWay key={sample.id} sample={sample} />}
      </div>
      <Margin>
        {way === 'way' ? (
          <Note tone="goes">
            The message is sent to the intake over HTTP with the original method, headers and body, signed again. It is
            read, checked and delivered like any other.
          </Note>
        ) : (
          <>
            {run?.goes[sample.place] === 0 && (
              <Note tone="look">
                The filter leaves this sample out
                {way === 'steps' ? '. Without the filter it would send this.' : ', and probably its variants too.'}
              </Note>
            )}
            <Note tone="goes">This tests the saved draft, not the live version.</Note>
            <Note tone={route.targets.every(each => each.tryBaseUrl !== null) ? 'goes' : 'look'}>
              {whereTo(route.targets)}
            </Note>
          </>
        )}
      </Margin>
    </div>
  );
}
