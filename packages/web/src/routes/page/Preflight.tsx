import { accessOf, preflight, soughtIn } from '@grammata/core/preflight';
import { useEffect, useMemo, useState } from 'react';
import { Link } from 'react-router';
import { wordsFor } from '../../api';
import { useReadTargets } from '../../targets/queries';
import { count, Fault, Press, Note } from '../../ui';
import { otherThanShown, useShownDraft } from '../draft';
import { useProofResults } from '../proofs/useProofs';
import { useFilesCheck, useGoLive } from '../queries';
import { useWorkbench } from '../workbench';

/** Samples over which is seen whether look-ups tell records apart. */
const MOST_SOUGHT = 1000;

export function Preflight({ onClose, onLive = onClose }: { onClose: () => void; onLive?: () => void }) {
  const { route, editing, samples, stock, run } = useWorkbench('route', 'editing', 'walk', 'rehearsed');
  const { all: proofs, held, isOlder, differing } = useProofResults();
  const isUpToDate = run?.goes.length === samples.length && !stock.isOlder;
  const { mutate: read, data: connections, error: unread } = useReadTargets(route.targets);
  const goLive = useGoLive(route.id);
  useEffect(() => read(undefined), [read]);
  const { data: files, error: noFiles } = useFilesCheck(route.id);
  const targets = useMemo(() => route.targets.map(each => ({ ...each, ...accessOf(each) })), [route.targets]);
  const [now] = useState(() => Date.now());
  const newest = samples.slice(0, MOST_SOUGHT);
  const sought = useMemo(
    () =>
      soughtIn(
        editing.draft,
        targets,
        newest.map(each => each.submission),
      ),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the same samples, as long as their first and number are the same
    [editing.draft, targets, newest.length, newest[0]?.id],
  );
  const recorded = samples.filter(each => !each.isVariant);
  const all = preflight({
    definition: editing.draft,
    targets,
    questions: route.form.schema.fields,
    sought,
    newestAt: recorded[0] ? Date.parse(recorded[0].receivedAt) : null,
    now,
    // What is not known does not count as fine: it waits until all is rehearsed, and stops where that can't be.
    rehearsal:
      stock.fault !== null
        ? { fault: stock.fault }
        : {
            summary: stock.state === 'all' && isUpToDate && run && stock.fares ? { ...run, ...stock.fares } : null,
            samples: stock.recorded,
          },
    reached: route.targets.map(({ id, name }) => {
      const connection = connections?.get(id);
      const words = connection && `${connection.verdict} ${connection.advice ?? ''}`.trim();
      const fault = unread && { ok: false, words: wordsFor(unread) };
      return { id, name, answer: connection ? { ...connection, words: words! } : fault };
    }),
    ...(noFiles && { files: { fault: wordsFor(noFiles) } }),
    ...(files && { files: { looked: files.looked, faults: files.faults.map(each => each.message) } }),
    ...(proofs && held && !isOlder && { proofs: { total: proofs.length, differing } }),
    trial: route.trial?.revision === route.revision && editing.saving === 'saved' ? route.trial : null,
  });
  const [done, isOther] = useShownDraft(editing);
  const start = () => done(revision => goLive.mutate({ revision }, { onSuccess: onLive }));
  return (
    <section aria-label="Before going live" className="mt-3 border border-ink bg-raised px-5 py-4">
      <h2>Before going live</h2>
      <ul className="mt-2 space-y-1.5">
        {all.map(check => (
          <li key={check.words}>
            <Note tone={check.tone}>
              {check.words} {check.remedy}{' '}
              {check.at && (
                <Link
                  className="act"
                  to={`/routes/${route.id}/mapping?call=${check.at.callId}&line=${check.at.lineId}`}
                >
                  Open line
                </Link>
              )}
              {check.targetId !== undefined && (
                <Link className="act" to={`/targets/${check.targetId}`}>
                  Open target
                </Link>
              )}
            </Note>
          </li>
        ))}
      </ul>
      <p className="mt-3 font-serif text-ink-2">
        After publishing, each new submission is delivered at once
        {route.state === 'paused' && route.waiting > 0
          ? `, including the ${count(route.waiting)} received while paused.`
          : '.'}{' '}
        Earlier submissions are not sent. Use “Send past submissions” for them.
      </p>
      {goLive.error && <Fault>{wordsFor(goLive.error)}</Fault>}
      {isOther && <Fault>{otherThanShown}</Fault>}
      <div className="mt-3 flex items-baseline gap-4">
        <Press onClick={() => void start()} disabled={all.some(check => check.stops) || goLive.isPending}>
          Publish now
        </Press>
        <Press quiet onClick={onClose}>
          Cancel
        </Press>
        {all.some(check => check.tone === 'look') && (
          <Link className="act" to={`/routes/${route.id}/rehearsal`}>
            Open rehearsal
          </Link>
        )}
      </div>
    </section>
  );
}
