import type { SelectionInput } from '@grammata/contract';
import { useEffect } from 'react';
import { Link, NavLink, Outlet, useNavigate, useParams, useSearchParams } from 'react-router';
import { useAddress, useParam } from '../../address';
import { wordsFor } from '../../api';
import { Read } from '../../app/Read';
import { isTyping, useKeys } from '../../app/keys';
import { SendRecorded } from '../../recorded';
import {
  Act,
  count,
  counted,
  Fault,
  listed,
  More,
  MoreAct,
  MoreLink,
  Press,
  RouteStateWord,
  span,
  useTitle,
} from '../../ui';
import { WorkStrip } from '../../work';
import { Conflict } from '../differences';
import type { Editing } from '../draft';
import { ProofsOf, useProofResults } from '../proofs/useProofs';
import { usePause, useRoute } from '../queries';
import { useWorkbench, WorkbenchOf } from '../workbench';
import { Preflight } from './Preflight';

export function RoutePage() {
  const { id = '' } = useParams();
  const route = useRoute(id);
  return (
    <Read title="Route" query={route}>
      {data => (
        <WorkbenchOf key={`${id} ${data.formId}`} route={data}>
          <ProofsOf>
            <Page />
          </ProofsOf>
        </WorkbenchOf>
      )}
    </Read>
  );
}

/** What stands above every part of a route, and the part that the address names. */
function Page() {
  const { route, editing, stock } = useWorkbench('route', 'editing', 'rehearsed');
  // What is published: the draft as it is, or with the repair of a change, to which one goes back then.
  const [publishing, publish] = useParam('publish');
  const navigate = useNavigate();
  const sending = useSending();
  useUndoKeys();
  useTitle(editing.draft.name);
  return (
    <main data-older={stock.isOlder || undefined} className="flex min-h-full flex-col">
      <div className="noprint px-6 pt-4 max-sm:px-4">
        <Head onGoLive={() => publish('')} onSend={sending.open} />
        {editing.saving === 'failed' && (
          <Fault again={() => void editing.flush()}>Saving failed. {wordsFor(editing.fault)}</Fault>
        )}
        <Conflict />
        {editing.isRescued && editing.saving !== 'conflict' && (
          <p role="status" className="mt-2 border-l-2 border-ochre pl-3 font-serif text-ink-2">
            Unsaved edits from your last visit were restored.
          </p>
        )}
        {publishing !== null && (
          <Preflight
            onClose={() => publish(null)}
            onLive={() => (publishing === '' ? publish(null) : void navigate(`/changes?change=${publishing}`))}
          />
        )}
        {sending.selection && route.state === 'live' && (
          <SendRecorded route={route} selection={sending.selection} onClose={sending.close} />
        )}
        <WorkStrip about={{ route: route.id }} />
        <Parts />
      </div>
      <Outlet />
    </main>
  );
}

/** Whether recorded submissions are to be sent, and which: it stands in the address. */
function useSending() {
  const [params, put] = useAddress();
  const arrivalId = params.get('arrival');
  const search = params.get('matching');
  const selection: SelectionInput | null = params.has('send')
    ? { ...(arrivalId && { arrivalId }), ...(search && { search }) }
    : null;
  return {
    selection,
    open: () => put({ send: '' }),
    close: () => put({ send: null, arrival: null, matching: null }),
  };
}

/** What is said of the draft beside its name. */
const savingWords: Record<Editing['saving'], string> = {
  saved: 'Saved',
  unsaved: 'Saving…',
  failed: 'Not saved',
  conflict: 'Edited elsewhere',
};

function Head({ onGoLive, onSend }: { onGoLive: () => void; onSend: () => void }) {
  const { route, editing, samples, stock } = useWorkbench('route', 'editing', 'walk', 'rehearsed');
  const pause = usePause(route.id);
  const [params] = useSearchParams();
  const rehearse = { pathname: `/routes/${route.id}/rehearsal`, search: params.toString() };
  return (
    <div className="flex flex-wrap items-baseline gap-x-4 gap-y-2 sm:justify-end">
      <Link to="/routes" className="text-ink-2 hover:underline">
        Routes /
      </Link>
      <h1 className="min-w-0 wrap-anywhere">{editing.draft.name}</h1>
      <span className="min-w-40 flex-1 text-ink-2">
        <RouteStateWord state={route.state} />
        {route.version !== null && (
          <>
            {' '}
            ·{' '}
            <Link className="act quiet" to={{ pathname: `/routes/${route.id}/versions`, search: params.toString() }}>
              version {route.version}
            </Link>
            {route.changed &&
              (route.targetsChanged.length === 0 ? ', edited' : `; ${listed(route.targetsChanged)} changed`)}
          </>
        )}
        {/* Said aloud only where somebody has to know: edits are kept at every pause. */}
        <span
          role={editing.saving === 'failed' || editing.saving === 'conflict' ? 'status' : undefined}
          className="ml-2 text-ink-3"
        >
          {savingWords[editing.saving]}
        </span>
      </span>
      <Act className="quiet" onClick={editing.undo} disabled={!editing.canUndo} title="Ctrl Z">
        Undo
      </Act>
      <Act className="quiet" onClick={editing.redo} disabled={!editing.canRedo} title="Ctrl Shift Z">
        Redo
      </Act>
      <More>
        <MoreLink to={{ pathname: `/routes/${route.id}/sheet`, search: params.toString() }}>Handover sheet</MoreLink>
        {route.version !== null && (
          <MoreLink to={{ pathname: `/routes/${route.id}/versions`, search: params.toString() }}>Versions</MoreLink>
        )}
        {route.state === 'live' && <MoreAct onSelect={onSend}>Send past submissions…</MoreAct>}
      </More>
      {route.state === 'live' && (
        <Press quiet onClick={() => pause.mutate(undefined)} disabled={pause.isPending}>
          Pause
        </Press>
      )}
      <Link className="press quiet" to={rehearse}>
        {stock.state === 'loading' ? 'Rehearse all' : `Rehearse all ${count(samples.length)}`}
      </Link>
      {(route.state !== 'live' || route.changed || editing.saving === 'unsaved') && (
        <Press onClick={onGoLive}>
          {route.state === 'live' ? 'Publish changes…' : route.state === 'paused' ? 'Resume…' : 'Go live…'}
        </Press>
      )}
      {pause.error && <Fault>{wordsFor(pause.error)}</Fault>}
    </div>
  );
}

function useUndoKeys() {
  const { editing } = useWorkbench('editing');
  useKeys([{ key: 'u', does: 'undo', run: editing.undo }]);
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (
        !(event.ctrlKey || event.metaKey) ||
        event.key.toLowerCase() !== 'z' ||
        // What is typed is undone where it is typed.
        (event.target instanceof HTMLElement && isTyping(event.target))
      )
        return;
      event.preventDefault();
      if (event.shiftKey) editing.redo();
      else editing.undo();
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [editing]);
}

/** The parts of a route, with what each holds. */
function Parts() {
  const { route, editing, run, stock } = useWorkbench('route', 'editing', 'rehearsed');
  const { all, held, isOlder, differing } = useProofResults();
  const [params] = useSearchParams();
  const { calls } = editing.draft;
  const lines = calls.flatMap(call => call.lines);
  const byCall = run?.calls.flatMap(call => call ?? []) ?? [];
  const troubled = byCall.flatMap(each => each.lines).filter(line => line.trouble > 0).length;
  const missing = byCall.flatMap(each => each.missing).length;
  const madeOf = calls.length > 1 ? `${counted(calls.length, 'call')}, ` : '';
  const { fares, recorded, total, state } = stock;
  const soFar = state === 'loading' ? ' so far' : total > recorded ? `, the newest of ${count(total)}` : '';
  const parts = [
    { part: 'filter', name: 'Filter', says: fares ? `${count(fares.going)} of ${count(recorded)} pass${soFar}` : '' },
    {
      part: 'mapping',
      name: 'Mapping',
      says: madeOf + counted(lines.filter(line => line.source).length, 'line'),
      warns: [
        troubled > 0 && `${troubled} with problems`,
        missing > 0 && `${counted(missing, 'required field')} missing`,
      ]
        .filter(Boolean)
        .join(', '),
    },
    {
      part: 'delivery',
      name: 'Delivery',
      says: editing.draft.terms.hours === 0 ? 'no retries' : `retries for ${span(editing.draft.terms.hours)}`,
    },
    {
      part: 'proofs',
      name: 'Proofs',
      says: !all
        ? ''
        : all.length === 0
          ? 'none'
          : held && !isOlder && differing < all.length
            ? `${count(all.length - differing)} pass`
            : '',
      warns: differing > 0 ? `${count(differing)} ${differing === 1 ? 'differs' : 'differ'}` : '',
    },
    {
      part: 'rehearsal',
      name: 'Rehearsal',
      says: fares ? `${count(fares.sendable)} can be sent` : '',
      warns: fares && fares.going > fares.sendable ? `${count(fares.going - fares.sendable)} can’t` : '',
    },
    { part: 'test', name: 'Test', says: '' },
  ];
  return (
    <nav aria-label="Parts of the route" className="mt-2 flex flex-wrap gap-x-8 border-b border-ink max-sm:gap-x-5">
      {parts.map(({ part, name, says, warns }) => (
        <NavLink
          key={part}
          to={{ pathname: `/routes/${route.id}/${part}`, search: params.toString() }}
          className={({ isActive }) =>
            `pb-2 max-sm:pb-1 ${isActive ? 'text-ink shadow-[inset_0_-3px_0_var(--oxide)]' : 'text-ink-2 hover:text-ink'}`
          }
        >
          <b className="mr-1.5 font-serif text-reading font-semibold">{name}</b>
          <span className="counted">
            {says}
            {warns && (
              <>
                {says && ', '}
                <span className="text-crimson">{warns}</span>
              </>
            )}
          </span>
        </NavLink>
      ))}
    </nav>
  );
}
