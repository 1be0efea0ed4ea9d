import type { BatchItem, BatchView } from '@grammata/contract';
import { asText, tokensOf } from '@grammata/core/submission';
import { variantIdeas } from '@grammata/core/variant';
import { useState } from 'react';
import { Link } from 'react-router';
import { wordsFor } from '../../api';
import { Act, count, counted, Fault, Moment, Press, Tick } from '../../ui';
import { otherThanShown, useShownDraft } from '../draft';
import { type Seen, useWorkbench } from '../workbench';
import { Asks, whereTo } from './Asks';
import { useBatch, useTakeAnswers, useTryBatch } from './useTest';

const recorded = { id: 'recorded', name: 'Unchanged', why: 'Typical values must be accepted.' };

/** What people try by hand before they trust a mapping, tried one after the other; one report over all of it. */
export function Batch({ sample }: { sample: Seen }) {
  const { route, editing } = useWorkbench('route', 'editing');
  const ideas = [recorded, ...variantIdeas(sample.submission, route.form.schema)];
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [proofs, setProofs] = useState(false);
  const report = useBatch(route.id);
  const run = useTryBatch(route.id);
  const picked = ideas.filter(each => !left.has(each.id));
  const turn = (id: string, isPicked: boolean) =>
    setLeft(before => {
      const next = new Set(before);
      if (isPicked) next.delete(id);
      else next.add(id);
      return next;
    });
  // What goes to where the real records are is asked about once more.
  const isAside = route.targets.every(each => each.tryBaseUrl !== null);
  const [asking, setAsking] = useState(false);
  const [done, isOther] = useShownDraft(editing);
  const start = () => {
    setAsking(false);
    return done(revision => run.mutate({ sampleId: sample.id, ideas: picked.map(each => each.id), proofs, revision }));
  };
  const isNothing = picked.length === 0 && !proofs;
  return (
    <>
      <section aria-label="Samples to test" className="mt-4">
        <p className="font-serif text-lead text-ink-2">
          Variants of this sample. Each is sent, and read back if the route is set to.
        </p>
        <ul className="mt-2 grid gap-x-8 sm:grid-cols-2">
          {ideas.map(({ id, name, why }) => (
            <li key={id} className="border-b border-rule py-1.5">
              <Tick label={name} hint={why} checked={!left.has(id)} onChange={is => turn(id, is)} />
            </li>
          ))}
          <li className="border-b border-rule py-1.5">
            <Tick label="Samples of proofs" hint="Send what was approved." checked={proofs} onChange={setProofs} />
          </li>
        </ul>
        {asking && <p className="mt-3 font-serif text-ochre">{whereTo(route.targets)}</p>}
        <p className="mt-3 flex items-baseline gap-5">
          {asking ? (
            <>
              <Press onClick={() => void start()}>Send</Press>
              <Act onClick={() => setAsking(false)}>Cancel</Act>
            </>
          ) : (
            <Press onClick={() => (isAside ? void start() : setAsking(true))} disabled={run.isPending || isNothing}>
              {isNothing ? 'Test' : `Test ${proofs ? 'all' : count(picked.length)}${isAside ? '' : '…'}`}
            </Press>
          )}
          <Act onClick={() => setLeft(left.size > 0 ? new Set() : new Set(ideas.map(each => each.id)))}>
            {left.size > 0 ? 'Select all' : 'Clear selection'}
          </Act>
        </p>
        {run.error && <Fault>{wordsFor(run.error)}</Fault>}
        {isOther && <Fault>{otherThanShown}</Fault>}
      </section>
      {report.error && <Fault again={() => void report.refetch()}>{wordsFor(report.error)}</Fault>}
      {report.data && <Report report={report.data} />}
    </>
  );
}

const fates: Record<BatchItem['fate'], { mark: string; colour: string; words: string }> = {
  fine: { mark: '✓', colour: 'text-verdigris', words: 'sent' },
  otherwise: { mark: '△', colour: 'text-ochre', words: 'differs' },
  refused: { mark: '!', colour: 'text-crimson', words: 'refused' },
  held: { mark: '!', colour: 'text-crimson', words: 'held' },
  leftOut: { mark: '–', colour: 'text-ink-3', words: 'left out' },
};

function Report({ report }: { report: BatchView }) {
  const { route } = useWorkbench('route');
  const { items, at, by, revision, wanted } = report;
  const amiss = items.filter(each => each.fate !== 'fine' && each.fate !== 'leftOut').length;
  return (
    <section aria-label="Report" className="mt-8">
      <h2 className="flex flex-wrap items-baseline gap-x-3 border-b border-ink pb-1.5">
        {amiss > 0
          ? `${count(amiss)} of ${counted(items.length, 'sample')} failed`
          : items.some(each => each.fate === 'fine')
            ? 'All passed'
            : 'All left out by the filter'}
        <span className="font-sans text-body font-normal text-ink-2">
          <Moment at={at} />, by {by}
          {revision !== route.revision && <span className="text-ochre">, before the last edits</span>}
          {wanted > items.length && `, ${items.length} of ${wanted}`}
        </span>
      </h2>
      <ol className="ledger">
        {items.map((item, place) => (
          <Item key={place} item={item} at={at} />
        ))}
      </ol>
    </section>
  );
}

/** What a proof would send otherwise than approved, with what is answered now. */
function Answered({ routeId, at, proof }: { routeId: string; at: string; proof: NonNullable<BatchItem['proof']> }) {
  const take = useTakeAnswers(routeId);
  return (
    <div className="mt-1 border-l-2 border-ochre pl-4">
      <ul>
        {proof.differences.slice(0, 6).map((each, at) => (
          <li key={at} className="flex flex-wrap items-baseline gap-x-3 font-mono text-small">
            <b className="font-medium">{tokensOf(each.place).join('.') || 'the request'}</b>
            <s className="text-ink-2 [overflow-wrap:anywhere]">{asText(each.was) || 'nothing'}</s>
            <span className="[overflow-wrap:anywhere]">{asText(each.now) || 'nothing'}</span>
          </li>
        ))}
      </ul>
      {take.error && <Fault>{wordsFor(take.error)}</Fault>}
      {take.isSuccess ? (
        <p role="status" className="font-serif text-ink-2">
          The proof now has the new responses.{' '}
          <Link className="act" to={`/routes/${routeId}/proofs`}>
            Open proofs
          </Link>
        </p>
      ) : (
        <Act onClick={() => take.mutate({ proofId: proof.id, at })} disabled={take.isPending}>
          Update the proof with these responses
        </Act>
      )}
    </div>
  );
}

function Item({ item, at }: { item: BatchItem; at: string }) {
  const { route } = useWorkbench('route');
  const [isOpen, setOpen] = useState(item.fate === 'otherwise' || item.fate === 'refused');
  const { mark, colour, words } = fates[item.fate];
  return (
    <li className="py-2" aria-label={item.name}>
      <div className="flex flex-wrap items-baseline gap-x-3">
        <span aria-hidden className={`w-3 font-mono text-small font-bold ${colour}`}>
          {mark}
        </span>
        <b className="font-semibold">{item.name}</b>
        <span className={colour}>{words}</span>
        <span className="min-w-0 flex-1 font-serif text-ink-2">{item.words}</span>
        {item.asks.length > 0 && (
          <Act aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
            {isOpen ? 'Close' : counted(item.asks.length, 'request')}
          </Act>
        )}
      </div>
      {item.proof && item.proof.differences.length > 0 && <Answered routeId={route.id} at={at} proof={item.proof} />}
      {isOpen && item.asks.length > 0 && (
        <div className="mt-1 border-l-2 border-rule pl-4">
          <Asks run={{ asks: item.asks, done: item.done, problems: [] }} isReal />
        </div>
      )}
    </li>
  );
}
