import type { FilesView } from '@grammata/contract';
import { useEffect } from 'react';
import { Link } from 'react-router';
import { wordsFor } from '../app/api';
import { useReadTargets } from '../targets/queries';
import { count, counted, Fault, Press, type Tone, Note } from '../ui';
import { useFilesCheck, useGoLive } from './queries';
import type { Workbench } from './workbench';

interface Check {
  tone: Tone;
  words: string;
  /** True when the route can't go live because of it. */
  stops: boolean;
}

/** Whether the draft was tried for real, where that is asked for. The server looks at what was read back. */
function trialChecks({ route, editing }: Workbench): Check[] {
  if (!editing.draft.terms.needsTrial) return [];
  return route.trial?.revision === route.revision
    ? [{ tone: 'fine', words: 'It was tried for real as it stands.', stops: false }]
    : [{ tone: 'trouble', words: 'It has to be tried for real as it stands: under What, Run.', stops: true }];
}

/** What must hold before a route goes live, and what is only to be known. */
function checks({ editing, operationOf, targetOf, run, samples }: Workbench): Check[] {
  const gone = editing.draft.calls.find(call => operationOf(call) === null);
  if (gone)
    return [
      {
        tone: 'trouble',
        words: `${targetOf(gone)?.name ?? 'A target that was removed'} does not offer this operation any more. Read the target again.`,
        stops: true,
      },
    ];
  if (!run) return [{ tone: 'look', words: 'Being rehearsed…', stops: true }];
  const unsent = run.going - run.sendable;
  const missing = run.calls.flatMap(call => call?.missing ?? []);
  return [
    missing.length > 0
      ? { tone: 'trouble', words: `Required and not filled: ${missing.join(', ')}.`, stops: true }
      : { tone: 'fine', words: 'Every required field is filled.', stops: false },
    run.going === 0
      ? { tone: 'look', words: 'The condition lets none of the recorded submissions through.', stops: false }
      : {
          tone: 'fine',
          words: `${count(run.going)} of ${counted(samples.length, 'recorded submission')} would go.`,
          stops: false,
        },
    unsent > 0
      ? {
          tone: 'look',
          words: `${count(unsent)} of them can’t be sent as they are. The like would be held for you to look at.`,
          stops: false,
        }
      : { tone: 'fine', words: 'Each of them can be sent.', stops: false },
  ];
}

/** Whether the files of the newest submissions can be had. */
function fileChecks(files: FilesView | undefined): Check[] {
  if (!files || files.looked === 0) return [];
  if (files.faults.length === 0)
    return [
      { tone: 'fine', words: `Files of the newest submissions can be had: ${files.looked} looked at.`, stops: false },
    ];
  const [first] = files.faults;
  const words = `${files.faults.length} of ${files.looked} files that were looked at can’t be had. ${first!.message}`;
  return [{ tone: 'look', words, stops: false }];
}

export function Preflight({ workbench, onClose }: { workbench: Workbench; onClose: () => void }) {
  const { route, editing } = workbench;
  const { mutate: read, data: connections } = useReadTargets(route.targets);
  const goLive = useGoLive(route.id);
  useEffect(() => read(undefined), [read]);
  const reach = route.targets.map(({ id, name }): Check => {
    const connection = connections?.get(id);
    return connection
      ? {
          tone: connection.ok ? 'fine' : 'trouble',
          words: `${name}: ${connection.verdict} ${connection.advice ?? ''}`,
          stops: !connection.ok,
        }
      : { tone: 'look', words: `Asking ${name}…`, stops: true };
  });
  const files = useFilesCheck(route.id);
  const all = [...checks(workbench), ...trialChecks(workbench), ...reach, ...fileChecks(files.data)];
  const start = () => void editing.flush().then(() => goLive.mutate(undefined, { onSuccess: onClose }));
  return (
    <section aria-label="Before it goes live" className="mt-3 border border-ink bg-raised px-5 py-4">
      <h2>Before it goes live</h2>
      <ul className="mt-2 space-y-1.5">
        {all.map(check => (
          <li key={check.words}>
            <Note tone={check.tone}>{check.words}</Note>
          </li>
        ))}
      </ul>
      <p className="mt-3 font-serif text-ink-2">
        From then on, each new submission is delivered at once
        {route.state === 'paused' && route.waiting > 0
          ? `, and so are the ${count(route.waiting)} that gathered while it was paused.`
          : '.'}{' '}
        What was recorded before is sent when you say so, with “Send what is recorded”.
      </p>
      {goLive.error && <Fault>{wordsFor(goLive.error)}</Fault>}
      <div className="mt-3 flex items-baseline gap-4">
        <Press onClick={start} disabled={all.some(check => check.stops) || goLive.isPending}>
          Go live now
        </Press>
        <Press quiet onClick={onClose}>
          Not yet
        </Press>
        {all.some(check => check.tone === 'look') && (
          <Link className="act" to={`/routes/${route.id}/rehearsal`}>
            Look at the rehearsal
          </Link>
        )}
      </div>
    </section>
  );
}
