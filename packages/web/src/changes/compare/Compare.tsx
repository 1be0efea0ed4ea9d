import type { ArrivalView } from '@grammata/contract';
import type { AnswerPair, Comparing, Side } from '@grammata/core/drift';
import { asText, patchOf, type Json, type ValueChange } from '@grammata/core/submission';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { useAddress } from '../../address';
import { wordsFor } from '../../api';
import { changeWords } from '../../drift';
import { useArrival, useArrivals } from '../../intakes/queries';
import { useIntakes } from '../../lists';
import { Combobox, CopyAct, count, counted, Fault, FileAct, LinesBox, Note, Sheet, Sides, when } from '../../ui';
import { useComparing } from './useComparing';

type SideName = 'before' | 'after';
const sideWords: Record<SideName, string> = { before: 'Before', after: 'After' };
/** Places that are shown at once. */
const MOST_PLACES = 200;

/** Two messages, documents or schemas, held against each other in words. */
export function Compare() {
  const [params, put] = useAddress();
  const [typed, setTyped] = useState<Record<SideName, string>>({ before: '', after: '' });
  const recorded = { before: useArrival(params.get('before')), after: useArrival(params.get('after')) };
  const sides = {
    before: useSide(params.get('before') ? recorded.before.data : undefined, typed.before),
    after: useSide(params.get('after') ? recorded.after.data : undefined, typed.after),
  };
  const { compared, fault } = useComparing(sides.before, sides.after);
  const pick = (side: SideName, id: string) => put({ [side]: id || null });
  const write = (side: SideName, text: string) => {
    pick(side, '');
    setTyped(before => ({ ...before, [side]: text }));
  };
  const error = recorded.before.error ?? recorded.after.error;
  return (
    <Sheet
      crumb={
        <Link to="/changes" className="hover:underline">
          Changes
        </Link>
      }
      title="Compare two messages"
      aside={
        <Note tone="goes">
          Two messages from forms, two OpenAPI documents, or two JSON Schemas. Pasted text stays in this browser.
        </Note>
      }
    >
      <div className="mt-4 grid gap-6 md:grid-cols-2">
        {(['before', 'after'] as const).map(side => (
          <Chosen
            key={side}
            side={side}
            arrivalId={params.get(side) ?? ''}
            arrival={params.get(side) ? recorded[side].data : undefined}
            text={sides[side].text}
            onPick={id => pick(side, id)}
            onWrite={text => write(side, text)}
          />
        ))}
      </div>
      {error && <Fault>{wordsFor(error)}</Fault>}
      {fault && <Fault>They can’t be compared. {fault}</Fault>}
      {compared ? (
        <Told compared={compared} />
      ) : (
        <p className="mt-5 font-serif text-ink-2">Fill in both sides to see the differences.</p>
      )}
    </Sheet>
  );
}

/** A side as it is held against the other: what is recorded, else what was written. */
function useSide(arrival: ArrivalView | undefined, typed: string): Side {
  return useMemo(() => {
    if (!arrival) return { text: typed };
    const { body, contentType, url } = arrival;
    const at = url.indexOf('?');
    return { text: body ?? '', type: contentType, query: at < 0 ? '' : url.slice(at) };
  }, [arrival, typed]);
}

function Chosen({
  side,
  arrivalId,
  arrival,
  text,
  onPick,
  onWrite,
}: {
  side: SideName;
  arrivalId: string;
  arrival: ArrivalView | undefined;
  text: string;
  onPick: (id: string) => void;
  onWrite: (text: string) => void;
}) {
  const intakes = useIntakes().data ?? [];
  const [picked, setPicked] = useState<string | null>(null);
  const intakeId = picked ?? arrival?.intakeId ?? intakes[0]?.id ?? '';
  return (
    <section aria-label={sideWords[side]} className="min-w-0 space-y-3">
      <h2>{sideWords[side]}</h2>
      <div className="grid gap-x-4 gap-y-3 sm:grid-cols-2">
        <Combobox
          label="Intake"
          options={intakes.map(each => ({ value: each.id, label: each.name }))}
          value={intakeId}
          onPick={setPicked}
        />
        {intakeId !== '' && <MessagePick intakeId={intakeId} value={arrivalId} onPick={onPick} />}
      </div>
      <LinesBox label="Message or document" rows={8} value={text} onChange={onWrite} placeholder="or paste text here" />
      {arrival?.body === null && <Fault>This message is binary and can’t be compared.</Fault>}
      {arrival?.cut && arrival.body !== null && <Note tone="look">Only the beginning of this message was stored.</Note>}
      <p>
        <FileAct onFile={file => void file.text().then(onWrite)}>Open file…</FileAct>
      </p>
    </section>
  );
}

function MessagePick({ intakeId, value, onPick }: { intakeId: string; value: string; onPick: (id: string) => void }) {
  const { data: arrivals = [] } = useArrivals(intakeId);
  return (
    <Combobox
      label="Stored message"
      options={arrivals.map(({ id, receivedAt, about, formName }) => ({
        value: id,
        label: when(receivedAt),
        says: about ?? formName ?? undefined,
        words: `${about} ${formName}`,
      }))}
      value={value}
      onPick={onPick}
      none="none: use the text below"
      placeholder="none: use the text below"
    />
  );
}

const kindWords: Record<Comparing['kind'], string> = {
  documents: 'two API documents',
  schemas: 'two schemas',
  messages: 'two messages',
};

function Told({ compared: { kind, changes, answers, places } }: { compared: Comparing }) {
  const labels = new Map(answers.map(each => [each.key, each.label]));
  const changeRows = changes.map(change =>
    changeWords({
      change: change.change,
      question:
        'question' in change && change.question !== null ? (labels.get(change.question) ?? change.question) : null,
      operation: 'operation' in change ? (kind === 'schemas' ? null : change.operation) : null,
      field: 'operation' in change ? (change.field ?? null) : null,
      was: change.was ?? null,
      now: change.now ?? null,
    }),
  );
  return (
    <section aria-label="Differences" className="mt-6 border-t border-ink pt-3">
      <p role="status" className="font-serif text-lead">
        {changeRows.length === 0
          ? `As ${kindWords[kind]}: no differences.`
          : `As ${kindWords[kind]}: ${counted(changeRows.length, 'change')}.`}
      </p>
      <ul className="font-serif">
        {changeRows.map((words, at) => (
          <li key={at} className="border-b border-rule py-1.5 [overflow-wrap:anywhere]">
            {words}
          </li>
        ))}
      </ul>
      {answers.length > 0 && <Answers all={answers} />}
      {places && places.length > 0 && <Places all={places} />}
    </section>
  );
}

const shown = (value: Json | undefined): string => asText(value).slice(0, 300);

const Answers = ({ all }: { all: AnswerPair[] }) => (
  <>
    <h2 className="mt-5 mb-1">Answers</h2>
    <Sides
      heads={['Question', 'Before', 'After']}
      names="words"
      values="code"
      rows={all.map(({ key, label, before, after }) => ({
        key,
        where: label || key,
        title: key,
        before: shown(before) || '–',
        after:
          asText(before) === asText(after) ? (
            <span className="font-sans text-ink-3">the same</span>
          ) : (
            shown(after) || '–'
          ),
      }))}
    />
  </>
);

/** As much of it as two lines hold. */
const Short = ({ value }: { value: Json }) => <span className="line-clamp-2">{shown(value)}</span>;

/** Where the two differ as JSON, place by place. */
function Places({ all }: { all: ValueChange[] }) {
  return (
    <>
      <div className="mt-5 mb-1 flex flex-wrap items-baseline gap-4">
        <h2>Places</h2>
        <span className="flex-1 text-small text-ink-2">
          {counted(all.length, 'place')} of the JSON {all.length === 1 ? 'is' : 'are'} different
          {all.length > MOST_PLACES && `; the first ${count(MOST_PLACES)} are shown`}
        </span>
        <CopyAct text={() => JSON.stringify(patchOf(all), null, 2)} label="Copy as a JSON Patch (RFC 6902)">
          Copy as a JSON Patch
        </CopyAct>
      </div>
      <Sides
        heads={['Place', 'Before', 'After']}
        values="code"
        rows={all.slice(0, MOST_PLACES).map(({ pointer, before, after }) => ({
          key: pointer,
          where: pointer || 'whole document',
          before: before === undefined ? null : <Short value={before} />,
          after: after === undefined ? null : <Short value={after} />,
        }))}
      />
    </>
  );
}
