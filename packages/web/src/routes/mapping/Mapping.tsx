import {
  DndContext,
  DragOverlay,
  PointerSensor,
  pointerWithin,
  useSensor,
  useSensors,
  type Active,
  type Announcements,
  type Over,
} from '@dnd-kit/core';
import { isLikely, isSure, type LineProposal } from '@grammata/core/match';
import { curlLine, wireText } from '@grammata/core/request';
import type { Line } from '@grammata/core/route';
import { maskedCredentials } from '@grammata/core/target';
import { useMemo, useState } from 'react';
import { useAddress, useParam, useView } from '../../address';
import { useKeys } from '../../app/keys';
import { Act, useLatest, Choices, count, counted, Empty, Wire, type Way } from '../../ui';
import { NoSample, useWorkbench } from '../workbench';
import { SamplePanel } from './sample/SamplePanel';
import type { Fate } from './line/LineSamples';
import { useRefusals } from '../queries';
import { LineRow } from './line/LineRow';
import type { LineDeeds } from './line/lineRowProps';
import { Requests } from './views/Requests';
import { Calls } from '../calls/Calls';
import { Threads } from './views/Threads';
import { useFares, useOutcomes } from './line/useSteady';
import { takesProposals, useLines } from './useLines';

/** A press becomes a drag after so many px. It stays the same object: with another every line would be rendered. */
const dragging = { activationConstraint: { distance: 6 } };

/** The views of a mapping: its lines, the same as a drawing, or all requests of the sample. */
const views = {
  lines: { label: 'Lines', keys: undefined, title: 'A line for each field of the target' },
  threads: { label: 'Threads', keys: 't', title: 'Which question goes to which field, as a drawing. Key t' },
  requests: { label: 'Requests', keys: 'r', title: 'All requests of this sample, call by call. Key r' },
} as const;
type View = keyof typeof views;

/** What stands beside the lines. */
const besides = {
  notes: { label: 'Notes', keys: undefined, title: 'Notes on each line' },
  message: { label: 'Body', keys: 'w', title: 'The request body for this sample. Key w' },
} as const;

const ways = <T extends string>(all: Record<T, Omit<Way<T>, 'value'>>) =>
  (Object.keys(all) as T[]).map(value => ({ value, ...all[value] }));

/** What is said aloud while an answer is dragged to a line. */
function dragWords(lines: Line[]): Announcements {
  const label = (active: Active) => `“${(active.data.current as { label: string }).label}”`;
  const to = (over: Over | null) => lines.find(line => line.id === over?.id)?.to;
  return {
    onDragStart: ({ active }) => `${label(active)} is picked up.`,
    onDragOver: ({ active, over }) =>
      to(over) ? `${label(active)} is over ${to(over)}.` : `${label(active)} is over no line.`,
    onDragEnd: ({ active, over }) =>
      to(over) ? `${label(active)} fills ${to(over)}.` : `${label(active)} was let go over no line.`,
    onDragCancel: ({ active }) => `${label(active)} was let go.`,
  };
}

/** The line that keys are for: the one that has the focus, or else the one that they were for last. */
function cursorOr(cursor: number, lines: Line[]): number {
  const focused = document.activeElement?.closest('[data-line]')?.getAttribute('data-line');
  const at = lines.findIndex(line => line.id === focused);
  return at < 0 ? cursor : at;
}

/** The mapping as a numbered galley: the sample on the left, a line for each field of the target, the margin on the right. */
export function Mapping() {
  const { route, editing, compiled, sample, at, show, items, nextInTrouble, nextThatDiffers, call, target, proposals } =
    useWorkbench('route', 'editing', 'call', 'walk', 'offers');
  const fares = useFares();
  const refusals = useRefusals(route.id).data;
  const { lines, lineless, deeds: lineDeeds } = useLines();
  const [openId, setOpen] = useParam('line');
  const openIndex = lines.findIndex(line => line.id === openId);
  const open = openIndex < 0 ? null : openId;
  const [cursor, setCursor] = useState(0);
  const [view, setView] = useView('view', views, 'lines');
  const [beside, setBeside] = useView('beside', besides, 'notes');
  const [fate, setFate] = useState<{ line: string; fate: Fate } | null>(null);
  const [dragged, setDragged] = useState<string | null>(null);
  const [, put] = useAddress();
  const sensors = useSensors(useSensor(PointerSensor, dragging));
  const go = (by: number) => {
    const next = Math.min(lines.length - 1, Math.max(0, cursorOr(cursor, lines) + by));
    setCursor(next);
    document.getElementById(`line-${lines[next]?.id}`)?.focus();
  };
  const openOrAny = openIndex < 0 ? undefined : openIndex;
  const proposed = lines.flatMap(line => (takesProposals(line) ? (proposals.get(line.to) ?? []) : []));
  const toggle = (wanted: View) => setView(view === wanted ? 'lines' : wanted);
  const latest = useLatest({ lines, proposals });
  const deeds = useMemo<LineDeeds>(
    () => ({
      open: (id, is) => {
        setCursor(latest.current.lines.findIndex(line => line.id === id));
        setOpen(is ? id : null);
        // What closes gives the focus back to its line.
        if (!is) document.getElementById(`line-${id}`)?.focus();
      },
      showFate: (id, next) => {
        setFate(next && { line: id, fate: next });
        if (!next) document.getElementById(`bar-${id}`)?.focus();
      },
      edit: lineDeeds.edit,
      take: id => {
        const line = latest.current.lines.find(each => each.id === id);
        const proposal = line && latest.current.proposals.get(line.to);
        if (proposal) lineDeeds.take([proposal]);
      },
      remove: lineDeeds.remove,
      moveTo: lineDeeds.moveTo,
    }),
    [latest, lineDeeds, setOpen],
  );
  useKeys([
    { key: 'j', does: 'next line', run: () => go(1) },
    { key: 'k', does: 'previous line', run: () => go(-1) },
    { key: 'n', does: 'next sample with a problem', run: () => nextInTrouble(openOrAny) },
    { key: 'd', does: 'next sample with a different value', run: () => nextThatDiffers(openOrAny) },
    { key: 'h', does: 'previous sample', run: () => show(at - 1) },
    { key: 'l', does: 'next sample', run: () => show(at + 1) },
    {
      key: 'a',
      does: 'accept the suggestion for the line',
      run: () => {
        const line = lines[cursorOr(cursor, lines)];
        if (line) deeds.take(line.id);
      },
    },
    { key: 'w', does: 'notes or body', run: () => setBeside(beside === 'notes' ? 'message' : 'notes') },
    { key: 't', does: 'lines or threads', run: () => toggle('threads') },
    { key: 'r', does: 'lines or requests', run: () => toggle('requests') },
    { key: 'Escape', does: 'close the line', run: () => openId && deeds.open(openId, false) },
  ]);
  const { timeZone } = editing.draft.terms;
  const planned = useMemo(
    () => (sample && items.count > 0 && compiled ? compiled.plan(sample.scope, { timeZone }) : null),
    [sample, items.count, compiled, timeZone],
  );
  const outcomes = useOutcomes(planned?.outcomes ?? null);
  if (!compiled)
    return (
      <div className="px-6 pt-4">
        <Calls />
        <Empty title="The target no longer offers this operation.">
          Read the target again, or create a new route. The lines are kept.
        </Empty>
      </div>
    );
  const masked = maskedCredentials(target?.hasToken ? target.auth : { kind: 'none' });
  const isMade = items.count > 0;
  const wire = planned ? wireText(planned.request, masked.headers, masked.query) : '';
  const isGalley = view === 'lines';
  const openFromDrawing = (id: string) => put({ view: null, line: id });
  return (
    <DndContext
      sensors={sensors}
      accessibility={{ announcements: dragWords(lines) }}
      collisionDetection={pointerWithin}
      onDragStart={({ active }) => setDragged((active.data.current as { label: string }).label)}
      onDragCancel={() => setDragged(null)}
      onDragEnd={({ active, over }) => {
        setDragged(null);
        if (over) lineDeeds.fill(String(over.id), (active.data.current as { key: string }).key);
      }}
    >
      <div className="grid flex-1 grid-cols-1 md:grid-cols-[minmax(0,1fr)] lg:grid-cols-[248px_minmax(0,1fr)]">
        <SamplePanel
          onPick={openIndex < 0 ? null : key => lineDeeds.fill(open!, key)}
          hot={lines[openIndex]?.source ?? null}
        />
        <div className="flex min-w-0 flex-col">
          <Calls />
          <section aria-label="Lines" className="relative min-w-0 flex-1">
            <div className="relative flex flex-wrap items-baseline gap-x-2.5 border-b border-rule px-3.5 pt-1.5 xl:flex-nowrap xl:pr-0">
              <Choices
                label="View"
                value={view}
                onChange={setView}
                ways={ways(views)}
                className="xl:w-[184px] xl:gap-x-3.5 xl:shrink-0"
              />
              {isGalley && <Heading />}
              {isGalley && (
                <Choices
                  label="Beside the lines"
                  value={beside}
                  onChange={setBeside}
                  ways={ways(besides)}
                  className="xl:w-[264px] xl:shrink-0 xl:pl-3"
                />
              )}
            </div>
            {isGalley && proposed.length > 0 && <Proposals proposed={proposed} onTake={lineDeeds.take} />}
            {isGalley && sample && !isMade && <NotMade />}
            {isGalley && beside === 'message' && (
              <aside
                aria-label="Request body"
                className="relative border-b border-rule bg-sunk px-3.5 py-3 xl:absolute xl:inset-y-0 xl:top-9 xl:right-0 xl:z-10 xl:w-[264px] xl:border-b-0 xl:border-l xl:py-2 xl:pr-[18px] xl:pl-3"
              >
                {planned ? (
                  <Wire label="Request body" text={wire} curl={curlLine(wire, target ? [target.baseUrl] : [])} />
                ) : (
                  <p className="font-serif text-ink-2">
                    <NoSample none="No samples yet." />
                  </p>
                )}
                {planned && !planned.sendable && (
                  <p className="mt-3 border-l-2 border-crimson pl-2 font-serif text-crimson">
                    Can’t be sent: see the notes.
                  </p>
                )}
              </aside>
            )}
            {view === 'requests' ? (
              <Requests />
            ) : view === 'threads' ? (
              <Threads proposals={proposals} onOpen={openFromDrawing} />
            ) : (
              <ol className="relative">
                {compiled.lines.map((line, index) => (
                  <LineRow
                    key={line.line.id}
                    compiled={line}
                    index={index}
                    outcome={outcomes?.[index] ?? null}
                    proposal={takesProposals(line.line) ? (proposals.get(line.line.to) ?? null) : null}
                    fare={fares.get(line.line.id) ?? null}
                    isOpen={open === line.line.id}
                    fate={fate?.line === line.line.id ? fate.fate : null}
                    showNotes={beside === 'notes'}
                    refusal={
                      refusals?.find(
                        each => each.callId === call.id && each.sampleId === sample?.id && each.lineId === line.line.id,
                      ) ?? null
                    }
                    scope={sample?.scope ?? null}
                    timeZone={timeZone}
                    changesRecords={call.find?.update != null}
                    deeds={deeds}
                  />
                ))}
              </ol>
            )}
            {lineless.length > 0 && isGalley && (
              <p className="relative px-3.5 py-2 text-ink-2 md:pl-[50px]">
                {counted(lineless.length, 'field')} without a line:{' '}
                <span className="font-mono text-small">{lineless.map(each => each.key).join(', ')}</span>.{' '}
                <Act onClick={() => lineDeeds.add(lineless.map(each => each.key))}>Add lines</Act>
              </p>
            )}
          </section>
        </div>
      </div>
      <DragOverlay dropAnimation={null}>
        {dragged !== null && (
          <span className="inline-block max-w-60 truncate border border-lapis bg-raised px-2 py-1 text-lapis shadow-[0_8px_24px_-8px_rgb(0_0_0/0.35)]">
            {dragged}
          </span>
        )}
      </DragOverlay>
    </DndContext>
  );
}

/** The call is not made for the sample at hand. */
function NotMade() {
  const { call, labelOf } = useWorkbench('call', 'offers');
  return (
    <p className="relative border-b border-rule px-3.5 py-2 font-serif text-reading md:pl-[50px]">
      This call does not run for this sample:{' '}
      {call.repeat ? `“${labelOf(call.repeat)}” is empty.` : 'its condition is not met.'}
    </p>
  );
}

function Heading() {
  const { samples, sample, at, stock, run } = useWorkbench('walk', 'rehearsed');
  // The bars below count those that go.
  const going = useMemo(() => run?.goes.reduce((sum, each) => sum + (each === 1 ? 1 : 0), 0) ?? null, [run]);
  return (
    <div className="grid min-w-0 flex-1 grid-cols-[62px_minmax(0,1.1fr)_minmax(0,1fr)] xl:grid-cols-[62px_300px_minmax(0,1fr)] gap-x-2.5 text-ink-2 max-md:hidden">
      <span className="whitespace-nowrap">
        {going === null || going === samples.length ? `All ${count(samples.length)}` : `${count(going)} pass`}
        {stock.state === 'loading' && '…'}
      </span>
      <span>Source</span>
      <span className="truncate">Value in sample {sample ? count(at + 1) : '–'}</span>
    </div>
  );
}

/** How many lines have a suggestion, and accepting several at once: the confident ones, and separately the likely ones. */
function Proposals({ proposed, onTake }: { proposed: LineProposal[]; onTake: (proposals: LineProposal[]) => void }) {
  const sure = proposed.filter(isSure);
  const likely = proposed.filter(each => isLikely(each) && !isSure(each));
  return (
    <p className="relative border-b border-rule px-3.5 py-2 font-serif text-reading md:pl-[50px]">
      {counted(proposed.length, 'line')} {proposed.length === 1 ? 'is' : 'are'} suggested
      {sure.length === 0
        ? '; check each.'
        : sure.length === proposed.length
          ? ', all confident.'
          : `, ${sure.length} of them confident.`}{' '}
      <span className="space-x-3 font-sans text-body">
        {sure.length > 0 && (
          <Act onClick={() => onTake(sure)}>
            {sure.length === 1 ? 'Accept confident suggestion' : `Accept ${sure.length} confident suggestions`}
          </Act>
        )}
        {likely.length > 0 && (
          <Act onClick={() => onTake([...sure, ...likely])} title="Check each afterwards: the notes mark them.">
            {sure.length > 0 ? `Accept ${likely.length} likely too` : `Accept ${likely.length} likely`}
          </Act>
        )}
      </span>
    </p>
  );
}
