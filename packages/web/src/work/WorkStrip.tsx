import type { WorkView } from '@grammata/contract';
import { useState } from 'react';
import { Act, count } from '../ui';
import { useStopWork, useWork, type About } from './queries';

/** Long work: how far it is, a way to stop it, and what came of it. */
export function WorkStrip({ about, kinds }: { about: About; kinds?: WorkView['kind'][] }) {
  const works = (useWork(about).data ?? []).filter(each => !kinds || kinds.includes(each.kind));
  const [put, setPut] = useState<string[]>([]);
  const [openedAt] = useState(() => Date.now());
  const shown = works.filter(
    each => !put.includes(each.id) && (each.state === 'running' || Date.parse(each.startedAt) > openedAt - 60_000),
  );
  return shown.map(work => <Piece key={work.id} work={work} onPutAway={() => setPut([...put, work.id])} />);
}

const marks = { running: '…', done: '✓', stopped: '?', failed: '!' };
const colours = { running: 'text-ink-3', done: 'text-verdigris', stopped: 'text-ochre', failed: 'text-crimson' };

function Piece({ work, onPutAway }: { work: WorkView; onPutAway: () => void }) {
  const [open, setOpen] = useState(false);
  const stop = useStopWork();
  const { state, title, done, total, summary, report, reported } = work;
  return (
    <div role="group" aria-label={title} className="border-b border-rule py-2">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <span aria-hidden className={`font-mono font-bold ${colours[state]}`}>
          {marks[state]}
        </span>
        <span role="status">
          {state === 'running' ? (total === null ? title : `${title}: ${count(done)} of ${count(total)}`) : summary}
        </span>
        {state === 'running' && (
          <progress
            aria-label={title}
            className="h-1.5 w-40 self-center accent-(--oxide)"
            {...(total === null ? {} : { value: done, max: total })}
          />
        )}
        <span className="flex-1" />
        {reported > 0 && (
          <Act onClick={() => setOpen(!open)} aria-expanded={open}>
            {reported === 1 ? '1 problem' : `${count(reported)} problems`}
          </Act>
        )}
        {state === 'running' ? (
          <Act onClick={() => stop.mutate(work.id)} disabled={stop.isPending}>
            Stop
          </Act>
        ) : (
          <Act onClick={onPutAway}>Close</Act>
        )}
      </div>
      {open && (
        <ul className="mt-1 max-h-48 overflow-auto border-l-2 border-ochre pl-3 font-serif" tabIndex={0}>
          {report.map((line, index) => (
            <li key={index}>{line}</li>
          ))}
          {reported > report.length && <li className="text-ink-3">and {count(reported - report.length)} more.</li>}
        </ul>
      )}
    </div>
  );
}
