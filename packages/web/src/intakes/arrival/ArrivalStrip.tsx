import type { ArrivalSummary } from '@grammata/contract';
import { useState } from 'react';
import { Act, clock, count, useExactTimes, When, OneStop } from '../../ui';

const dots: Record<ArrivalSummary['state'], { mark: string; colour: string; word: string }> = {
  read: { mark: '✓', colour: 'text-verdigris', word: 'read' },
  unread: { mark: '△', colour: 'text-ochre', word: 'not read' },
  refused: { mark: '!', colour: 'text-crimson', word: 'refused' },
  waiting: { mark: '…', colour: 'text-ink-3', word: 'waiting to be read' },
  reading: { mark: '…', colour: 'text-ink-3', word: 'reading' },
};

/** Read, and perhaps otherwise than it was meant. */
const unsure = { mark: '△', colour: 'text-ochre', word: 'read, needs a check' };

const isToday = (iso: string) => new Date(iso).toDateString() === new Date().toDateString();

/** What arrived, newest first, in one row to move along. A fresh arrival lights up. */
export function ArrivalStrip({
  arrivals,
  shownId,
  onShow,
  older,
  isBringing,
}: {
  arrivals: ArrivalSummary[];
  shownId: string | null;
  onShow: (id: string) => void;
  /** Brings older ones; null where there are none. */
  older: (() => void) | null;
  isBringing: boolean;
}) {
  const [openedAt] = useState(() => Date.now());
  const { isExact } = useExactTimes();
  if (arrivals.length === 0) return null;
  return (
    <OneStop as="ol" aria-label="Messages, newest first" className="flex overflow-x-auto border-b border-rule">
      {arrivals.map(each => {
        const { mark, colour, word } = each.state === 'read' && !each.isSure ? unsure : dots[each.state];
        const isShown = each.id === shownId;
        return (
          <li
            key={each.id}
            className={`shrink-0 border-r border-rule ${Date.parse(each.receivedAt) > openedAt ? 'arrived' : ''}`}
          >
            <button
              type="button"
              onClick={() => onShow(each.id)}
              aria-current={isShown || undefined}
              className={`h-full px-3 pt-1.5 pb-1.5 text-left ${isShown ? 'shadow-[inset_0_-3px_0_var(--oxide)]' : 'hover:bg-raised'}`}
            >
              <span className="block text-small whitespace-nowrap">
                <span className={`mr-1.5 font-mono font-bold ${colour}`} aria-hidden>
                  {mark}
                </span>
                <span className="sr-only">{word}, </span>
                {isToday(each.receivedAt) && !isExact ? (
                  <time dateTime={each.receivedAt}>{clock(each.receivedAt)}</time>
                ) : (
                  <When at={each.receivedAt} />
                )}
              </span>
              <span className="block max-w-36 truncate text-fine text-ink-2">
                {each.method} · {count(each.size)} B{each.repeats ? ' · sent again' : ''}
              </span>
            </button>
          </li>
        );
      })}
      {older && (
        <li className="shrink-0 self-center px-4">
          <Act onClick={older} disabled={isBringing}>
            {isBringing ? 'Loading…' : 'Older'}
          </Act>
        </li>
      )}
    </OneStop>
  );
}
