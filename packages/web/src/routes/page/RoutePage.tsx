import type { SelectionInput } from '@grammata/contract';
import { useEffect, useState } from 'react';
import { Link, NavLink, Outlet, useParams, useSearchParams } from 'react-router';
import { useAddress } from '../../address';
import { wordsFor } from '../../api';
import { Read } from '../../app/Read';
import { isTyping, useKeys } from '../../app/keys';
import { SendRecorded } from '../../recorded';
import { Act, count, counted, Fault, listed, Moment, Press, RouteStateWord, span, useTitle } from '../../ui';
import { WorkStrip } from '../../work';
import { Conflict } from '../differences';
import type { Editing } from '../draft';
import { ProofsOf, useKnownProofs } from '../proofs/useProofs';
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
  const [preflight, setPreflight] = useState(false);
  const sending = useSending();
  useUndoKeys();
  useTitle(editing.draft.name);
  return (
    <main data-older={stock.isOlder || undefined} className="flex min-h-full flex-col">
      <div className="noprint px-6 pt-4 max-sm:px-4">
        <div className="text-small text-ink-3">
          <Link to="/routes" className="hover:underline">
            Routes
          </Link>
        </div>
        <Head onGoLive={() => setPreflight(true)} onSend={sending.open} />
        {editing.saving === 'failed' && (
          <Fault again={() => void editing.flush()}>It could not be stored. {wordsFor(editing.fault)}</Fault>
        )}
        <Conflict />
        {editing.isRescued && editing.saving !== 'conflict' && (
          <p role="status" className="mt-2 border-l-2 border-ochre pl-3 font-serif text-ink-2">
            Edits that could not be stored when this page was left are taken up again.
          </p>
        )}
        {preflight && <Preflight onClose={() => setPreflight(false)} />}
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
  saved: 'edits kept',
  unsaved: 'keeping edits…',
  failed: 'edits not kept yet',
  conflict: 'edited elsewhere',
};

function Head({ onGoLive, onSend }: { onGoLive: () => void; onSend: () => void }) {
  const { route, editing, samples, stock } = useWorkbench('route', 'editing', 'walk', 'rehearsed');
  const pause = usePause(route.id);
  const [params] = useSearchParams();
  const rehearse = { pathname: `/routes/${route.id}/rehearsal`, search: params.toString() };
  return (
    <div className="flex flex-wrap items-baseline justify-end gap-x-4 gap-y-2">
      <h1 className="min-w-0 grow basis-60 wrap-anywhere">{editing.draft.name}</h1>
      <span className="text-ink-2">
        <RouteStateWord state={route.state} />
        {route.version !== null && (
          <>
            {' '}
            ·{' '}
            <Link className="act" to={{ pathname: `/routes/${route.id}/versions`, search: params.toString() }}>
              version {route.version}
            </Link>
            {route.changed &&
              (route.targetsChanged.length === 0
                ? ', edited since'
                : `; ${listed(route.targetsChanged)} changed since`)}
          </>
        )}
        {route.liveSince && (
          <>
            {' '}
            · since <Moment at={route.liveSince} />
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
      <Act onClick={editing.undo} disabled={!editing.canUndo} title="Ctrl Z">
        Undo
      </Act>
      <Act onClick={editing.redo} disabled={!editing.canRedo} title="Ctrl Shift Z">
        Redo
      </Act>
      <Link className="act" to={{ pathname: `/routes/${route.id}/sheet`, search: params.toString() }}>
        Handover sheet
      </Link>
      <Link className="press quiet" to={rehearse}>
        {stock.state === 'loading' ? 'Rehearse all' : `Rehearse all ${count(samples.length)}`}
      </Link>
      {route.state === 'live' && <Act onClick={onSend}>Send what is recorded…</Act>}
      {route.state === 'live' && (
        <Press quiet onClick={() => pause.mutate(undefined)} disabled={pause.isPending}>
          Pause
        </Press>
      )}
      {(route.state !== 'live' || route.changed || editing.saving === 'unsaved') && (
        <Press onClick={onGoLive}>
          {route.state === 'live' ? 'Make it live…' : route.state === 'paused' ? 'Resume…' : 'Go live…'}
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

/** When, What, How: what each holds, in a few words. */
function Parts() {
  const { route, editing, run, stock } = useWorkbench('route', 'editing', 'rehearsed');
  const { all, held, isOlder, differing } = useKnownProofs();
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
    { part: 'when', name: 'When', says: fares ? `${count(fares.going)} of ${count(recorded)} go${soFar}` : '' },
    {
      part: 'what',
      name: 'What',
      says: madeOf + counted(lines.filter(line => line.source).length, 'line'),
      warns: [troubled > 0 && `${troubled} with trouble`, missing > 0 && `${missing} required but empty`]
        .filter(Boolean)
        .join(', '),
    },
    {
      part: 'how',
      name: 'How',
      says: editing.draft.terms.hours === 0 ? 'tried once' : `tried for ${span(editing.draft.terms.hours)}`,
    },
    {
      part: 'proofs',
      name: 'Proofs',
      says: !all ? '' : all.length === 0 ? 'none' : held && !isOlder ? `${count(all.length - differing)} hold` : '',
      warns: differing > 0 ? `${count(differing)} ${differing === 1 ? 'differs' : 'differ'}` : '',
    },
    {
      part: 'rehearsal',
      name: 'Rehearsal',
      says: fares ? `${count(fares.sendable)} can be sent` : '',
      warns: fares && fares.going > fares.sendable ? `${count(fares.going - fares.sendable)} can’t` : '',
    },
    { part: 'tryout', name: 'Trying out', says: '' },
  ];
  return (
    <nav aria-label="Parts of the route" className="mt-3 flex flex-wrap gap-x-8 border-b border-ink max-sm:gap-x-5">
      {parts.map(({ part, name, says, warns }) => (
        <NavLink
          key={part}
          to={{ pathname: `/routes/${route.id}/${part}`, search: params.toString() }}
          className={({ isActive }) =>
            `pb-2 max-sm:pb-1 ${isActive ? 'text-ink shadow-[inset_0_-3px_0_var(--oxide)]' : 'text-ink-2 hover:text-ink'}`
          }
        >
          <b className="mr-1.5 font-serif text-[0.9375rem] font-semibold">{name}</b>
          <span className="counted">
            {says}
            {warns && (
              <>
                , <span className="text-crimson">{warns}</span>
              </>
            )}
          </span>
        </NavLink>
      ))}
    </nav>
  );
}
