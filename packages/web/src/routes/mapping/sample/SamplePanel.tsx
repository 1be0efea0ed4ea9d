import { useDraggable } from '@dnd-kit/core';
import { fieldsOf, type Source } from '@grammata/core/route';
import { referredTo, type Scope } from '@grammata/core/scope';
import { asText, isBlank, isFile, type FieldKind } from '@grammata/core/submission';
import { useState } from 'react';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import { Act, bytes, count, Fault, IconAct, kindMarks, Moment } from '../../../ui';
import { NoSample, useWorkbench, type Offered, type Stock, type Walk } from '../../workbench';

/** The sample at hand: every question of the form with its answer. Picking one fills the open line; dragging one fills any. */
export function SamplePanel({ onPick, hot }: { onPick: ((key: string) => void) | null; hot: Source | null }) {
  const { sample, at, samples, stock, items, show, references, call, editing, nextInTrouble, nextThatDiffers, absent } =
    useWorkbench('editing', 'call', 'walk', 'offers', 'rehearsed');
  // Where there is room for one column the lines come first.
  const [isOpen, setOpen] = useState(false);
  // Of all calls: what another one uses is used.
  const used = new Set(editing.draft.calls.flatMap(each => each.lines.flatMap(line => fieldsOf(line.source))));
  const isHot = new Set(fieldsOf(hot));
  const of = (group: Offered['group']) => references.filter(each => each.group === group);
  const row = (reference: Offered) => (
    <Answer
      key={reference.key}
      reference={reference}
      scope={sample?.scope ?? null}
      isUsed={used.has(reference.key)}
      isHot={isHot.has(reference.key)}
      onPick={onPick}
    />
  );
  return (
    <section
      aria-label="Sample"
      className="border-rule pr-3.5 pb-2 pl-6 max-lg:border-b max-sm:pl-4 lg:pb-6 lg:sticky lg:top-0 lg:max-h-[calc(100vh-5rem)] lg:overflow-auto lg:border-r"
    >
      <div className="flex items-baseline justify-between pt-2.5">
        <span className="truncate">
          <b className="font-semibold">Sample {sample ? at + 1 : '–'}</b>{' '}
          <span className="text-ink-3">
            of {count(samples.length)}
            {stock.state === 'loading' && samples.length > 0 && ' so far'}
          </span>
        </span>
        <span className="flex">
          <IconAct
            icon={ChevronLeft}
            label="Previous sample"
            keys="h"
            onClick={() => show(at - 1)}
            disabled={at <= 0}
          />
          <IconAct
            icon={ChevronRight}
            label="Next sample"
            keys="l"
            onClick={() => show(at + 1)}
            disabled={at >= samples.length - 1}
          />
        </span>
      </div>
      <div className="flex flex-wrap gap-x-3 border-b border-rule pt-0.5 pb-2 text-small">
        {sample && (
          <span className="basis-full text-ink-3">
            {sample.isVariant ? 'variant' : <Moment at={sample.receivedAt} />}
          </span>
        )}
        <Act className="quiet" onClick={() => nextInTrouble()} aria-keyshortcuts="n" title="Key n">
          Next problem
        </Act>
        <Act
          className="quiet"
          onClick={() => nextThatDiffers()}
          aria-keyshortcuts="d"
          title="Key d: in the questions the lines use"
        >
          Next different value
        </Act>
      </div>
      <p className="pt-1.5 lg:hidden">
        <Act aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
          {isOpen ? 'Hide answers' : 'Show answers'}
        </Act>
      </p>
      {absent && (
        <p className="py-2 font-serif text-ink-2">
          <NoSample none="" />
        </p>
      )}
      <StockWords stock={stock} isEmpty={samples.length === 0} />
      <div className={isOpen ? '' : 'max-lg:hidden'}>
        {call.repeat && <Items items={items} />}
        <ul>{of('question').map(row)}</ul>
        {of('delivery').length > 0 && sample && (
          <>
            <h2 className="pt-4 pb-1 font-sans! text-small! font-normal! text-ink-3">Available while sending</h2>
            <ul className="border-t border-rule">{of('delivery').map(row)}</ul>
          </>
        )}
        {sample && (
          <>
            <h2 className="pt-4 pb-1 font-sans! text-small! font-normal! text-ink-3">About the submission</h2>
            <ul className="border-t border-rule">{of('about').map(row)}</ul>
          </>
        )}
      </div>
    </section>
  );
}

/** What is known of the samples where there is none to show, and where they could not be had. */
function StockWords({ stock: { state, fault, again }, isEmpty }: { stock: Stock; isEmpty: boolean }) {
  if (state === 'failed')
    return (
      <Fault again={again}>
        {isEmpty ? 'Samples could not be loaded.' : 'Not all samples could be loaded.'} {fault}
      </Fault>
    );
  if (!isEmpty) return null;
  return (
    <p className="py-3 font-serif text-reading text-ink-2">
      {state === 'loading' ? 'Loading samples…' : 'No submission yet. Send one to the intake; it shows here.'}
    </p>
  );
}

/** Which item of a repeated call is looked at. */
function Items({ items: { at, count: many, show } }: { items: Walk['items'] }) {
  if (many === 0) return <p className="border-b border-rule py-2 text-ink-2">Nothing to repeat in this sample.</p>;
  return (
    <div className="flex items-baseline justify-between border-b border-rule py-1.5">
      <span>
        Item {at + 1} <span className="text-ink-3">of {many}</span>
      </span>
      <span className="space-x-3">
        <Act onClick={() => show(at - 1)} disabled={at === 0}>
          up
        </Act>
        <Act onClick={() => show(at + 1)} disabled={at >= many - 1}>
          later
        </Act>
      </span>
    </div>
  );
}

/** An answer in a few words: text as it is, files by their number and size. */
function words(scope: Scope | null, key: string): { text: string; kind: FieldKind | null } {
  if (!scope) return { text: '', kind: null };
  const { submission } = scope;
  const field = submission.fields.find(each => each.key === key);
  if (field) return { text: asText(field.value), kind: field.kind };
  const files = submission.files.filter(each => each.field === key);
  if (files.length === 0) {
    const value = referredTo(scope, key);
    return { text: isBlank(value) ? '' : isFile(value) ? value.name : asText(value), kind: null };
  }
  const size = files.reduce((sum, file) => sum + (file.size ?? 0), 0);
  const counted = `${files.length} ${files.length === 1 ? 'file' : 'files'}`;
  return { text: size > 0 ? `${counted}, ${bytes(size)}` : counted, kind: 'files' };
}

function Answer({
  reference: { key, label, kind, isQuestion },
  scope,
  isUsed,
  isHot,
  onPick,
}: {
  reference: Offered;
  scope: Scope | null;
  isUsed: boolean;
  isHot: boolean;
  onPick: ((key: string) => void) | null;
}) {
  const { setNodeRef, listeners, isDragging } = useDraggable({ id: `answer ${key}`, data: { key, label } });
  const answer = words(scope, key);
  const { mark, word } = kindMarks[answer.kind ?? kind];
  return (
    <li
      ref={setNodeRef}
      {...listeners}
      className={`relative -mr-3.5 -ml-6 cursor-grab border-b border-dotted border-rule ${isHot ? 'bg-lapis-wash' : ''} ${isDragging ? 'opacity-40' : ''}`}
    >
      <button
        type="button"
        disabled={!onPick}
        onClick={() => onPick?.(key)}
        title={onPick ? `Use “${label}” in the open line` : `${word} · ${key} · drag it to a line`}
        className="block w-full py-[5px] pr-3.5 pl-[46px] text-left enabled:cursor-pointer enabled:hover:bg-oxide-wash disabled:cursor-grab"
      >
        <span className="absolute top-1.5 left-6 w-4 text-center font-mono text-fine/[1.125rem] text-ink-3">
          <span aria-hidden>{mark}</span>
          <span className="sr-only">{word}</span>
        </span>
        <span className={`block text-small/4 ${isUsed ? 'text-lapis' : 'text-ink-2'}`}>
          {label}
          {isQuestion && !isUsed && <span className="sr-only"> (not used)</span>}
        </span>
        <span className="block min-h-[17px] truncate font-mono text-small/[17px]">
          {answer.text || <span className="text-ink-3">–</span>}
        </span>
      </button>
    </li>
  );
}
