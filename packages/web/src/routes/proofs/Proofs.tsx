import type { ProofView, ProposedProofs } from '@grammata/contract';
import { useState } from 'react';
import { wordsFor } from '../../api';
import { Act, count, counted, Fault, Note, Press, Tick, Margin } from '../../ui';
import { otherThanShown, useShownDraft, type Editing } from '../draft';
import { useWorkbench } from '../workbench';
import { ProofRow } from './ProofRow';
import { accepting, useAccept, useApprove, useProofResults, usePropose } from './useProofs';

/** What a person decided is right, sample by sample; every edit is held against it. */
export function Proofs() {
  const { route, editing } = useWorkbench('route', 'editing');
  const { all, held, isOlder, fault, differing, error } = useProofResults();
  const [done, isOther] = useShownDraft(editing);
  const propose = usePropose(route.id);
  const accept = useAccept(route.id);
  const ask = async () => {
    // It is proposed for what is stored.
    if (await editing.flush()) propose.mutate();
  };
  const acceptAll = async (differ: ProofView[]) => {
    await done(revision => accept.mutate(accepting(differ, revision)));
  };
  const differ = (all ?? []).filter(each => (held?.get(each.id)?.differences.length ?? 0) > 0);
  const rest = (all ?? []).filter(each => !differ.includes(each));
  return (
    <div className="grid flex-1 lg:grid-cols-[minmax(0,1fr)_268px]">
      <div className="min-w-0 px-6 pt-4 pb-12">
        {Boolean(error) && <Fault>{wordsFor(error)}</Fault>}
        {fault && <Fault>{fault}</Fault>}
        {all?.length === 0 && !propose.data && (
          <p className="font-serif text-lead text-ink-2">
            No proofs yet. Approve the requests of a few samples once; from then on every edit is checked against them.
          </p>
        )}
        <p className="pt-1">
          <Press quiet onClick={() => void ask()} disabled={propose.isPending}>
            {propose.isPending ? 'Choosing samples…' : 'Suggest samples to approve'}
          </Press>
          {differ.length > 1 && (
            <Act className="ml-5" onClick={() => void acceptAll(differ)} disabled={accept.isPending || isOlder}>
              Approve all {differ.length} new results
            </Act>
          )}
        </p>
        {propose.error && <Fault>{wordsFor(propose.error)}</Fault>}
        {accept.error && <Fault>{wordsFor(accept.error)}</Fault>}
        {isOther && <Fault>{otherThanShown}</Fault>}
        {propose.data && (
          <Proposal
            key={propose.submittedAt}
            routeId={route.id}
            editing={editing}
            proposed={propose.data}
            onDone={() => propose.reset()}
          />
        )}
        {[...differ, ...rest].length > 0 && (
          <ul aria-label="Proofs" className="mt-5 border-t border-ink">
            {[...differ, ...rest].map(proof => (
              <ProofRow key={proof.id} proof={proof} held={held?.get(proof.id) ?? null} isOlder={isOlder} />
            ))}
          </ul>
        )}
      </div>
      <Margin>
        {all && all.length > 0 && (
          <div role="status">
            {held === null || isOlder ? (
              <Note tone="look">Checking the draft…</Note>
            ) : differing > 0 ? (
              <Note tone="trouble">
                {counted(differing, 'proof')} of {count(all.length)} {differing === 1 ? 'differs' : 'differ'} from what
                was approved.
              </Note>
            ) : (
              <Note tone="fine">
                {all.length === 1 ? 'The proof passes.' : `All ${count(all.length)} proofs pass.`}
              </Note>
            )}
          </div>
        )}
        <Note tone="goes">
          A proof is a sample, the targets’ responses, and the approved requests. Edits are checked against it without
          sending anything.
        </Note>
      </Margin>
    </div>
  );
}

const approvedWords = (approved: number, all: number): string =>
  approved === 0
    ? ''
    : approved === all
      ? `; ${all === 1 ? 'it is' : 'all are'} already approved`
      : `; ${approved} of them ${approved === 1 ? 'is' : 'are'} already approved`;

function Proposal({
  routeId,
  editing,
  proposed,
  onDone,
}: {
  routeId: string;
  editing: Editing;
  proposed: ProposedProofs;
  onDone: () => void;
}) {
  const [done, isOther] = useShownDraft(editing);
  const approve = useApprove(routeId);
  const fresh = proposed.samples.filter(each => !each.isProved);
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const taken = fresh.filter(each => !left.has(each.sampleId));
  const turn = (id: string, isTaken: boolean) =>
    setLeft(before => {
      const next = new Set(before);
      if (isTaken) next.delete(id);
      else next.add(id);
      return next;
    });
  return (
    <section aria-label="Proposed samples" className="mt-4 border-y border-ink bg-raised px-4 py-4">
      <p className="font-serif">
        {proposed.samples.length === 0
          ? 'No samples yet.'
          : `${counted(proposed.samples.length, 'sample')} of ${count(proposed.looked)} ${proposed.samples.length === 1 ? 'shows' : 'show'} whatever any of them does${approvedWords(proposed.samples.length - fresh.length, proposed.samples.length)}.`}
      </p>
      <ul className="mt-2 max-h-96 overflow-auto">
        {fresh.map(({ sampleId, name, shows }) => (
          <li key={sampleId} className="border-b border-rule py-1.5">
            <Tick
              label={name || 'submission without answers'}
              checked={!left.has(sampleId)}
              onChange={is => turn(sampleId, is)}
            />
            <p className="pl-6 text-small text-ink-2">
              shows {shows.slice(0, 4).join('; ')}
              {shows.length > 4 && `; and ${shows.length - 4} more`}
            </p>
          </li>
        ))}
      </ul>
      {proposed.uncovered.length > 0 && (
        <details className="mt-2 text-small text-ink-2">
          <summary className="cursor-pointer">Not covered: {counted(proposed.uncovered.length, 'thing')}</summary>
          <ul className="list-inside list-disc pt-1">
            {proposed.uncovered.map(each => (
              <li key={each}>{each}</li>
            ))}
          </ul>
        </details>
      )}
      {approve.error && <Fault>{wordsFor(approve.error)}</Fault>}
      {isOther && <Fault>{otherThanShown}</Fault>}
      <div className="mt-3 flex gap-4">
        {fresh.length > 0 && (
          <Press
            onClick={() =>
              void done(revision =>
                approve.mutate({ sampleIds: taken.map(each => each.sampleId), revision }, { onSuccess: onDone }),
              )
            }
            disabled={taken.length === 0 || approve.isPending}
          >
            {taken.length === 0 ? 'Approve' : taken.length === 1 ? 'Approve' : `Approve ${taken.length}`}
          </Press>
        )}
        <Press quiet onClick={onDone}>
          {fresh.length > 0 ? 'Cancel' : 'Close'}
        </Press>
      </div>
    </section>
  );
}
