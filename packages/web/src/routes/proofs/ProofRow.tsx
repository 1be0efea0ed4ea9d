import type { ProofView } from '@grammata/contract';
import {
  faultOf,
  patternOf,
  type Difference,
  type ProofResult,
  type LineFault,
  type Pattern,
} from '@grammata/core/proof';
import { callName } from '@grammata/core/route';
import { scopeOf } from '@grammata/core/scope';
import { asText, tokensOf, type Json } from '@grammata/core/submission';
import { useState } from 'react';
import { Link } from 'react-router';
import { wordsFor } from '../../api';
import { Act, Confirm, counted, Fault, Moment } from '../../ui';
import { otherThanShown, useShownDraft, type Editing } from '../draft';
import { useWorkbench } from '../workbench';
import { accepting, useAccept, useLoosen, useRemoveProofs } from './useProofs';

const patternWords: Record<Pattern, string> = {
  time: 'time',
  date: 'date',
  uuid: 'identifier',
  number: 'number',
  text: 'text',
};

/** One proof: whether it holds, and if not, what is otherwise than approved, line by line. */
export function ProofRow({
  proof,
  held,
  isOlder,
}: {
  proof: ProofView;
  held: ProofResult | null;
  /** True while a newer answer is under way. */
  isOlder: boolean;
}) {
  const { route, editing } = useWorkbench('route', 'editing');
  const [isOpen, setOpen] = useState(false);
  const accept = useAccept(route.id);
  const loosen = useLoosen(route.id);
  const remove = useRemoveProofs(route.id);
  const differences = held?.differences ?? [];
  const name = proof.name || 'submission without answers';
  const [done, isOther] = useShownDraft(editing);
  const take = () => done(revision => accept.mutate(accepting([proof], revision)));
  const anySuch = ({ callId, place, was }: Difference) => {
    const pattern = patternOf(was);
    if (!callId || !pattern) return;
    const others = proof.loose.filter(each => each.callId !== callId || each.pointer !== place);
    loosen.mutate({ proofId: proof.id, loose: [...others, { callId, pointer: place, pattern }] });
  };
  const error = accept.error ?? loosen.error ?? remove.error;
  return (
    <li className="border-b border-rule py-2" aria-label={name}>
      <div className="flex flex-wrap items-baseline gap-x-3">
        <span
          aria-hidden
          className={`font-mono text-small font-bold ${differences.length > 0 ? 'text-crimson' : 'text-verdigris'}`}
        >
          {held === null ? '·' : differences.length > 0 ? '!' : '✓'}
        </span>
        <button
          type="button"
          aria-expanded={isOpen}
          onClick={() => setOpen(!isOpen)}
          className="min-w-0 flex-1 truncate text-left hover:underline"
        >
          {name}
        </button>
        <span className={differences.length > 0 ? 'text-crimson' : 'text-ink-2'}>
          {held === null
            ? ''
            : differences.length > 0
              ? counted(differences.length, 'difference')
              : proof.approved.goes
                ? proof.approved.held.length > 0
                  ? 'passes: held'
                  : `passes, ${counted(proof.approved.requests.length, 'request')}`
                : 'passes: filtered out'}
        </span>
        <span className="text-small text-ink-3">
          <Moment at={proof.at} />
        </span>
      </div>
      {(isOpen || differences.length > 0) && differences.length > 0 && (
        <ul className="mt-1.5 space-y-1.5 border-l-2 border-crimson pl-4">
          {differences.slice(0, isOpen ? 200 : 3).map((each, index) => (
            <Differs key={index} difference={each} proof={proof} onAny={() => anySuch(each)} />
          ))}
          {!isOpen && differences.length > 3 && (
            <li>
              <Act onClick={() => setOpen(true)}>{differences.length - 3} more</Act>
            </li>
          )}
        </ul>
      )}
      {error && <Fault>{wordsFor(error)}</Fault>}
      {isOther && <Fault>{otherThanShown}</Fault>}
      {(isOpen || differences.length > 0) && (
        <p className="mt-1.5 pl-5">
          {differences.length > 0 && (
            <Act className="mr-5" onClick={() => void take()} disabled={accept.isPending || isOlder}>
              Approve the new result
            </Act>
          )}
          {proof.sampleId !== '' && (
            <Link className="act mr-5" to={`/routes/${route.id}/mapping?sample=${proof.sampleId}`}>
              Show sample
            </Link>
          )}
          <Confirm
            ask="Remove proof"
            deed="Remove"
            onDo={() => remove.mutate({ ids: [proof.id] })}
            isBusy={remove.isPending}
          >
            Edits will no longer be checked against this sample.
          </Confirm>
        </p>
      )}
      {isOpen && differences.length === 0 && (
        <ul className="mt-1 pl-5 font-mono text-small text-ink-2">
          {proof.approved.requests.map(({ callId, item, purpose, method, url }) => (
            <li key={`${callId} ${item} ${purpose}`} className="truncate">
              {method} {url}
            </li>
          ))}
          {proof.approved.held.map(({ message }) => (
            <li key={message} className="font-serif">
              held: {message}
            </li>
          ))}
        </ul>
      )}
    </li>
  );
}

const kindWords: Record<Exclude<Difference['kind'], 'value' | 'gone' | 'new' | 'header'>, string> = {
  goes: 'filter',
  held: 'reason for holding',
  'request-gone': 'request removed',
  'request-new': 'new request',
  address: 'the address',
  files: 'the files',
};

const shown = (value: Json): string =>
  value === null ? 'nothing' : value === true ? 'yes' : value === false ? 'no' : asText(value) || 'blank';

function Differs({ difference, proof, onAny }: { difference: Difference; proof: ProofView; onAny: () => void }) {
  const { editing, operationOf, route } = useWorkbench('route', 'editing', 'call');
  const { kind, callId, place, was, now, lineId } = difference;
  const call = editing.draft.calls.find(each => each.id === callId);
  const where =
    kind === 'value' || kind === 'gone' || kind === 'new'
      ? tokensOf(place).join('.')
      : kind === 'header'
        ? place
        : kindWords[kind];
  const fault = lineId === null ? null : lineFault(difference, proof, editing.draft);
  const pattern = kind === 'value' ? patternOf(was) : null;
  return (
    <li>
      <p className="flex flex-wrap items-baseline gap-x-3">
        <code className="font-mono text-small font-medium">{where || 'the body'}</code>
        {editing.draft.calls.length > 1 && call && (
          <span className="text-small text-ink-3">of “{callName(call, operationOf(call))}”</span>
        )}
        <code className="font-mono text-small text-ink-2 line-through [overflow-wrap:anywhere]">{shown(was)}</code>
        <code className="font-mono text-small [overflow-wrap:anywhere]">{shown(now)}</code>
      </p>
      <p className="font-serif text-ink-2">
        {fault && `${faultWords(fault)} `}
        {call && lineId && (
          <Link
            className="act mr-4 font-sans text-small"
            to={`/routes/${route.id}/mapping?call=${call.id}&line=${lineId}&sample=${proof.sampleId}`}
          >
            Open line
          </Link>
        )}{' '}
        {pattern && (
          <Act className="font-sans text-small" onClick={onAny}>
            Accept any {patternWords[pattern]} here
          </Act>
        )}
      </p>
    </li>
  );
}

/** Where in its line the value parts from what was approved. */
function lineFault(
  { lineId, callId }: Difference,
  proof: ProofView,
  draft: Editing['draft'],
): LineFault | 'line-gone' | 'line-new' | null {
  const lineIn = (calls: ProofView['calls']) =>
    calls.find(each => each.id === callId)?.lines.find(each => each.id === lineId);
  const [approved, now] = [lineIn(proof.calls), lineIn(draft.calls)];
  if (!approved) return now ? 'line-new' : null;
  if (!now) return 'line-gone';
  return faultOf(approved, now, scopeOf(proof.submission), { timeZone: draft.terms.timeZone });
}

function faultWords(fault: LineFault | 'line-gone' | 'line-new'): string {
  if (fault === 'line-gone') return 'Line removed.';
  if (fault === 'line-new') return 'New line.';
  switch (fault.at) {
    case 'source':
      return `Source changed: “${shown(fault.was)}” → “${shown(fault.now)}”.`;
    case 'step':
      return `Result of step ${fault.number} (${fault.words}) changed: “${shown(fault.was)}” → “${shown(fault.now)}”.`;
    case 'step-new':
      return `New step ${fault.number}: ${fault.words}.`;
    case 'step-gone':
      return `Step ${fault.number} removed: ${fault.words}.`;
    case 'policy':
      return 'The rule for blank or invalid values changed.';
  }
}
