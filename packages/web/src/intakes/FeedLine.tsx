import type { FeedView, IntakeView } from '@grammata/contract';
import { wordsFor } from '../api';
import { Act, counted, Fault, Moment, When } from '../ui';
import { useReadFeed } from './queries';

/** How a feed stands: when it was read, what came, when it is read next. */
export function FeedLine({ intake, onSet, isOpen }: { intake: IntakeView; onSet: () => void; isOpen: boolean }) {
  const read = useReadFeed(intake.id);
  const { feed } = intake;
  if (!feed) return null;
  return (
    <section aria-label="Feed" className="border-t border-rule py-2.5">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <b className="font-serif">{feed.on ? 'Reads' : 'Paused'}</b>
        <code className="min-w-0 font-mono text-small break-all">{feed.url}</code>
        <span className="flex-1" />
        <span className="text-ink-2" role="status">
          <Reading feed={feed} />
        </span>
        <Act onClick={() => read.mutate()} disabled={read.isPending}>
          {read.isPending ? 'Reading…' : 'Poll now'}
        </Act>
        <Act onClick={onSet} aria-expanded={isOpen}>
          Change
        </Act>
      </div>
      {feed.reading?.fault && <Fault>{feed.reading.fault}</Fault>}
      {read.error && <Fault>{wordsFor(read.error)}</Fault>}
    </section>
  );
}

function Reading({ feed: { reading, nextAt } }: { feed: FeedView }) {
  const next = nextAt && (
    <>
      {' '}
      · next <When at={nextAt} />
    </>
  );
  if (!reading) return <>not polled yet{next}</>;
  return (
    <>
      read <Moment at={reading.at} />, {reading.fresh === 0 ? 'nothing new' : counted(reading.fresh, 'new submission')}
      {next}
    </>
  );
}
