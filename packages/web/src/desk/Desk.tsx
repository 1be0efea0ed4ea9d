import type { DeskView } from '@grammata/contract';
import { useQuery } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { Link } from 'react-router';
import { api, keys } from '../api';
import { Read } from '../app/Read';
import { useKeys } from '../app/keys';
import { counted, useTitle } from '../ui';
import { attentionOf, headingOf, type Attention } from './attention';
import { DeliveryChart } from './DeliveryChart';
import { Guide, useGuide } from './guide';
import { Pace } from './Pace';

const useDesk = () => useQuery({ queryKey: keys.desk, queryFn: () => api<DeskView>('/desk') });

/** What needs a person, then what goes on; the guide instead, until a first route is live or somebody leaves it. */
export function Desk() {
  return (
    <Read title="Desk" query={useDesk()}>
      {desk => <Loaded desk={desk} />}
    </Read>
  );
}

function Loaded({ desk }: { desk: DeskView }) {
  const guide = useGuide(desk);
  useTitle('Desk');
  if (guide.isOpen) return <Guide desk={desk} onLeave={guide.leave} />;
  return (
    <main className="min-w-0 px-6 pt-4 pb-12 max-sm:px-4">
      <Attentions desk={desk} onGuide={guide.open} />
      <DeliveryChart days={desk.days} />
      <Pace />
    </main>
  );
}

const tones: Record<Attention['tone'], { mark: string; colour: string }> = {
  stopped: { mark: '!', colour: 'text-crimson' },
  check: { mark: '?', colour: 'text-ochre' },
  open: { mark: '○', colour: 'text-ink-2' },
};

/** What needs a person, a row each, with the one action that leads on: the first one filled. */
function Attentions({ desk, onGuide }: { desk: DeskView; onGuide: () => void }) {
  const things = attentionOf(desk);
  const [at, setAt] = useState(-1);
  const list = useRef<HTMLUListElement>(null);
  const go = (by: number) => {
    const next = Math.max(0, Math.min(things.length - 1, at + by));
    setAt(next);
    list.current?.children[next]?.querySelector('a')?.focus();
  };
  useKeys([
    { key: 'j', does: 'next item', run: () => go(1) },
    { key: 'k', does: 'previous item', run: () => go(-1) },
  ]);
  const stopped = desk.counts.held + desk.counts.dead;
  return (
    <section aria-label="Needs attention">
      <div className="flex flex-wrap items-baseline gap-x-4 border-b border-ink pb-2">
        <h1>{headingOf(things)}</h1>
        <p className="flex-1 font-serif text-ink-2">
          {stopped > 0
            ? `${counted(stopped, 'delivery is', 'deliveries are')} stopped.`
            : desk.arrivalsToday === 0
              ? 'No submissions today.'
              : `${counted(desk.arrivalsToday, 'submission')} today.`}
        </p>
        <button type="button" className="act quiet" onClick={onGuide}>
          Guide: connect a form
        </button>
      </div>
      <ul ref={list}>
        {things.map((each, index) => (
          <li
            key={each.key}
            className="grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-4 gap-y-0.5 border-b border-rule py-1.5 md:grid-cols-[7.5rem_6.5rem_14rem_minmax(0,1fr)_10rem]"
          >
            <span className="text-ink-2 max-md:hidden">
              {things[index - 1]?.group === each.group ? <span className="sr-only">{each.group}</span> : each.group}
            </span>
            <span className={`max-md:order-1 ${tones[each.tone].colour}`}>
              <span aria-hidden className="mr-1.5 inline-block w-3 font-mono font-bold">
                {tones[each.tone].mark}
              </span>
              {each.state}
            </span>
            <b className="truncate font-semibold max-md:order-3 max-md:col-span-2">{each.subject}</b>
            <span className="font-serif [overflow-wrap:anywhere] max-md:order-4 max-md:col-span-2">{each.reason}</span>
            {each.action && (
              <Link
                to={each.action.to}
                aria-label={`${each.action.words}: ${each.subject}`}
                className={`press text-center max-md:order-2 ${index === 0 ? '' : 'quiet'}`}
                onFocus={() => setAt(index)}
              >
                {each.action.words}
              </Link>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
