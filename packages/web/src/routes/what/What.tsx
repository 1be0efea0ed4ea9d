import { DndContext, DragOverlay, PointerSensor, pointerWithin, useSensor, useSensors } from '@dnd-kit/core';
import { isLikely, isSure, type LineProposal } from '@grammata/core/match';
import { curlLine, wireText } from '@grammata/core/request';
import type { Line } from '@grammata/core/route';
import { maskedCredentials } from '@grammata/core/target';
import { useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { useKeys } from '../../app/keys';
import { Act, Choices, count, counted, Empty, Wire, type Way } from '../../ui';
import type { Workbench } from '../workbench';
import { SamplePanel } from './sample/SamplePanel';
import type { Fate } from './line/LineSamples';
import { useRefusals } from '../queries';
import { LineRow } from './line/LineRow';
import { Requests } from './views/Requests';
import { Calls } from '../calls/Calls';
import { Threads } from './views/Threads';
import { useLines } from './useLines';

/** Which line is open; it stands in the address. */
function useOpenLine(lines: Line[]) {
  const [params, setParams] = useSearchParams();
  const open = params.get('line');
  const setOpen = (id: string | null) =>
    setParams(
      before => {
        const after = new URLSearchParams(before);
        if (id) after.set('line', id);
        else after.delete('line');
        return after;
      },
      { replace: true },
    );
  const index = lines.findIndex(line => line.id === open);
  return { open: index < 0 ? null : open, index, setOpen };
}

/** What is looked at: the lines, the same as a drawing, or everything that the sample sends. */
const views = {
  lines: { label: 'Lines', keys: undefined, title: 'A line for each field of the target' },
  threads: { label: 'Threads', keys: 't', title: 'Which question goes where, as a drawing. Key t' },
  requests: { label: 'Requests', keys: 'r', title: 'Everything that this sample sends, call by call. Key r' },
} as const;
type View = keyof typeof views;

/** What stands beside the lines. */
const besides = {
  notes: { label: 'Notes', keys: undefined, title: 'What there is to say about each line' },
  message: { label: 'Message', keys: 'w', title: 'The message that this sample becomes. Key w' },
} as const;
type Beside = keyof typeof besides;

const ways = <T extends string>(all: Record<T, Omit<Way<T>, 'value'>>) =>
  (Object.keys(all) as T[]).map(value => ({ value, ...all[value] }));

/** Of several views one is looked at; it stands in the address. */
function useView<T extends string>(name: string, all: Record<T, unknown>, first: T) {
  const [params, setParams] = useSearchParams();
  const given = params.get(name);
  const view = given !== null && Object.hasOwn(all, given) ? (given as T) : first;
  const set = (next: T) =>
    setParams(
      before => {
        const after = new URLSearchParams(before);
        if (next === first) after.delete(name);
        else after.set(name, next);
        return after;
      },
      { replace: true },
    );
  return [view, set] as const;
}

/** The mapping as a numbered galley: the sample on the left, a line for each field of the target, the margin on the right. */
export function What({ workbench }: { workbench: Workbench }) {
  const { compiled, sample, at, show, items, nextInTrouble, nextThatDiffers, call, target, editing, proposals } =
    workbench;
  const refusals = useRefusals(workbench.route.id).data ?? [];
  const desk = useLines(workbench);
  const { lines } = desk;
  const { open, index: openIndex, setOpen } = useOpenLine(lines);
  const [cursor, setCursor] = useState(0);
  const [view, setView] = useView<View>('view', views, 'lines');
  const [beside, setBeside] = useView<Beside>('beside', besides, 'notes');
  const [fate, setFate] = useState<{ line: string; fate: Fate } | null>(null);
  const [dragged, setDragged] = useState<string | null>(null);
  const [, setParams] = useSearchParams();
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const go = (by: number) => {
    const next = Math.min(lines.length - 1, Math.max(0, cursor + by));
    setCursor(next);
    document.getElementById(`line-${lines[next]?.id}`)?.focus();
  };
  const openOrAny = openIndex < 0 ? undefined : openIndex;
  const proposed = lines.flatMap(line => (line.source === null ? (proposals.get(line.to) ?? []) : []));
  const toggle = (wanted: View) => setView(view === wanted ? 'lines' : wanted);
  useKeys([
    { key: 'j', does: 'next line', run: () => go(1) },
    { key: 'k', does: 'previous line', run: () => go(-1) },
    { key: 'n', does: 'next sample with trouble', run: () => nextInTrouble(openOrAny) },
    { key: 'd', does: 'next sample that differs', run: () => nextThatDiffers(openOrAny) },
    { key: 'h', does: 'previous sample', run: () => show(at - 1) },
    { key: 'l', does: 'next sample', run: () => show(at + 1) },
    { key: 'a', does: 'take what is proposed for the line', run: () => takeAt(cursor) },
    { key: 'w', does: 'notes or the message', run: () => setBeside(beside === 'notes' ? 'message' : 'notes') },
    { key: 't', does: 'lines or threads', run: () => toggle('threads') },
    { key: 'r', does: 'lines or requests', run: () => toggle('requests') },
    { key: 'Escape', does: 'close the line', run: () => setOpen(null) },
  ]);
  const takeAt = (index: number) => {
    const proposal = lines[index] && proposals.get(lines[index].to);
    if (proposal) desk.take([proposal]);
  };
  if (!compiled)
    return (
      <div className="px-6 pt-4">
        <Calls workbench={workbench} />
        <Empty title="The target does not offer this operation any more.">
          Read the target again, or start a new route. The lines of this one are kept.
        </Empty>
      </div>
    );
  const context = { timeZone: editing.draft.terms.timeZone };
  const masked = maskedCredentials(target?.hasToken ? target.auth : { kind: 'none' });
  const isMade = items.count > 0;
  const planned = sample && isMade ? compiled.plan(sample.scope, context) : null;
  const wire = planned ? wireText(planned.request, masked.headers, masked.query) : '';
  const isGalley = view === 'lines';
  /** One change of the address: two would overwrite each other. */
  const openFromDrawing = (id: string) =>
    setParams(
      before => {
        const after = new URLSearchParams(before);
        after.delete('view');
        after.set('line', id);
        return after;
      },
      { replace: true },
    );
  const openLine = (index: number, is: boolean) => {
    setCursor(index);
    setOpen(is ? lines[index]!.id : null);
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={pointerWithin}
      onDragStart={({ active }) => setDragged((active.data.current as { label: string }).label)}
      onDragCancel={() => setDragged(null)}
      onDragEnd={({ active, over }) => {
        setDragged(null);
        if (over) desk.fill(String(over.id), (active.data.current as { key: string }).key);
      }}
    >
      <div className="grid flex-1 grid-cols-1 md:grid-cols-[minmax(0,1fr)] lg:grid-cols-[276px_minmax(0,1fr)]">
        <SamplePanel
          workbench={workbench}
          onPick={openIndex < 0 ? null : key => desk.fill(open!, key)}
          hot={lines[openIndex]?.source ?? null}
        />
        <div className="flex min-w-0 flex-col">
          <Calls workbench={workbench} />
          <section aria-label="Lines" className="relative min-w-0 flex-1">
            {isGalley && (
              <div
                aria-hidden
                className="absolute inset-y-0 right-0 w-[268px] border-l border-rule bg-sunk max-xl:hidden"
              />
            )}
            <div className="relative flex flex-wrap items-baseline justify-between gap-x-6 border-b border-rule px-3.5 pt-1.5 xl:grid xl:grid-cols-[minmax(0,1fr)_268px] xl:px-0">
              <Choices label="Look at" value={view} onChange={setView} ways={ways(views)} className="xl:pl-[58px]" />
              {isGalley && (
                <Choices
                  label="Beside the lines"
                  value={beside}
                  onChange={setBeside}
                  ways={ways(besides)}
                  className="xl:pl-5"
                />
              )}
            </div>
            {isGalley && (
              <div className="relative grid xl:grid-cols-[minmax(0,1fr)_268px]">
                <Heading workbench={workbench} />
              </div>
            )}
            {isGalley && proposed.length > 0 && <Proposals proposed={proposed} onTake={desk.take} />}
            {isGalley && sample && !isMade && <NotMade workbench={workbench} />}
            {isGalley && beside === 'message' && (
              <aside
                aria-label="Outgoing message"
                className="relative border-b border-rule bg-sunk px-3.5 py-3 xl:absolute xl:z-10 xl:border-0 xl:bg-transparent xl:top-12 xl:right-0 xl:w-[252px] xl:p-0 xl:pr-[18px]"
              >
                {planned ? (
                  <Wire label="Outgoing message" text={wire} curl={curlLine(wire, target ? [target.baseUrl] : [])} />
                ) : (
                  <p className="font-serif text-ink-2">No sample to make a message of.</p>
                )}
                {planned && !planned.sendable && (
                  <p className="mt-3 border-l-2 border-crimson pl-2 font-serif text-crimson">
                    It can’t be sent as it is: the margin says why.
                  </p>
                )}
              </aside>
            )}
            {view === 'requests' ? (
              <Requests workbench={workbench} />
            ) : view === 'threads' ? (
              <Threads workbench={workbench} proposals={proposals} onOpen={openFromDrawing} />
            ) : (
              <ol className="relative">
                {compiled.lines.map((line, index) => (
                  <LineRow
                    key={line.line.id}
                    workbench={workbench}
                    compiled={line}
                    index={index}
                    outcome={planned?.outcomes[index] ?? null}
                    proposal={line.line.source === null ? (proposals.get(line.line.to) ?? null) : null}
                    isOpen={open === line.line.id}
                    onOpen={is => openLine(index, is)}
                    fate={fate?.line === line.line.id ? fate.fate : null}
                    onFate={next => setFate(next && { line: line.line.id, fate: next })}
                    edit={desk.edit(line.line.id)}
                    onTake={() => takeAt(index)}
                    onRemove={() => desk.remove(line.line.id)}
                    onMoveTo={key => desk.moveTo(line.line.id, key)}
                    showNotes={beside === 'notes'}
                    refusal={
                      refusals.find(
                        each => each.callId === call.id && each.sampleId === sample?.id && each.lineId === line.line.id,
                      ) ?? null
                    }
                  />
                ))}
              </ol>
            )}
            {desk.lineless.length > 0 && isGalley && (
              <p className="relative px-3.5 py-2 text-ink-2 md:pl-[58px]">
                {counted(desk.lineless.length, 'field')} of the target without a line:{' '}
                <span className="font-mono text-small">{desk.lineless.map(each => each.key).join(', ')}</span>.{' '}
                <Act onClick={() => desk.add(desk.lineless.map(each => each.key))}>Add lines</Act>
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
function NotMade({ workbench: { call, labelOf } }: { workbench: Workbench }) {
  return (
    <p className="relative border-b border-rule px-3.5 py-2 font-serif text-[0.9375rem] md:pl-[58px]">
      This call is not made for this sample:{' '}
      {call.repeat
        ? `there is nothing in “${labelOf(call.repeat)}” that it would be made for.`
        : 'its condition does not hold.'}
    </p>
  );
}

function Heading({ workbench: { target, samples, sample, at, stock, run } }: { workbench: Workbench }) {
  // The bars below count those that go.
  const going = useMemo(() => run?.goes.reduce((sum, each) => sum + (each === 1 ? 1 : 0), 0) ?? null, [run]);
  return (
    <div className="grid grid-cols-[34px_minmax(0,1fr)_74px] gap-x-2.5 border-b border-rule px-3.5 pt-1.5 pb-1.5 text-fine text-ink-2 md:grid-cols-[34px_150px_minmax(0,1fr)_178px_74px]">
      <span />
      <span className="truncate">{target?.name} field</span>
      <span className="max-md:hidden">Comes from</span>
      <span className="max-md:hidden">Value for sample {sample ? count(at + 1) : '–'}</span>
      <span className="whitespace-nowrap">
        {going === null || going === samples.length ? `All ${count(samples.length)}` : `${count(going)} that go`}
        {stock.state === 'loading' && ' so far'}
      </span>
    </div>
  );
}

/** How many lines are proposed, and taking several at once: those that are sure, and with a word of their own those that are likely. */
function Proposals({ proposed, onTake }: { proposed: LineProposal[]; onTake: (proposals: LineProposal[]) => void }) {
  const sure = proposed.filter(isSure);
  const likely = proposed.filter(each => isLikely(each) && !isSure(each));
  return (
    <p className="relative border-b border-rule px-3.5 py-2 font-serif text-[0.9375rem] md:pl-[58px]">
      {counted(proposed.length, 'line')} {proposed.length === 1 ? 'is' : 'are'} proposed
      {sure.length === 0
        ? '; look at each.'
        : sure.length === proposed.length
          ? ', and sure.'
          : `, ${sure.length} of them sure.`}{' '}
      <span className="space-x-3 font-sans text-body">
        {sure.length > 0 && (
          <Act onClick={() => onTake(sure)}>
            {sure.length === 1 ? 'Take the sure one' : `Take the ${sure.length} sure ones`}
          </Act>
        )}
        {likely.length > 0 && (
          <Act
            onClick={() => onTake([...sure, ...likely])}
            title="They are told apart in the margin: look at each afterwards."
          >
            {sure.length > 0 ? `Take the ${likely.length} likely ones too` : `Take the ${likely.length} likely ones`}
          </Act>
        )}
      </span>
    </p>
  );
}
