import type { ArrivalView } from '@grammata/contract';
import type { FieldSchema } from '@grammata/core/schema';
import { asText, type Field } from '@grammata/core/submission';
import { useState, type ReactNode } from 'react';
import { Act, bytes, clock, counted, kindMarks, Wire } from '../../ui';
import { useForm } from '../../forms/queries';
import { PinColumn, type Pinning } from '../pinning';
import { Structure } from './Structure';
import { moved } from './moved';

/** Raw message beside what was read from it. Pointing at an answer lights it up in the message. */
export function ArrivalColumns({ arrival, pinning }: { arrival: ArrivalView; pinning: Pinning }) {
  const [hot, setHot] = useState<string | null>(null);
  const pointing = pinning.isOpen && pinning.mode === 'places';
  const hotField = arrival.decoded.flatMap(each => each.fields).find(field => field.pointer === hot) ?? null;
  return (
    <div className="mt-3.5 grid grid-cols-1 md:grid-cols-2 lg:grid-cols-[1.05fr_0.9fr_1fr]">
      {pointing ? (
        <Column
          stays
          title="Correct the reading"
          fact="point at a place"
          className="md:border-r md:border-rule md:pr-4"
        >
          <PinColumn pinning={pinning} />
        </Column>
      ) : (
        <Column
          stays
          title="Raw message"
          fact={`${bytes(arrival.size)}, ${clock(arrival.receivedAt)}`}
          className="md:border-r md:border-rule md:pr-4"
        >
          <Raw arrival={arrival} mark={hotField && placeIn(arrival.body ?? '', hotField)} />
        </Column>
      )}
      <Column
        stays
        title="Structure"
        fact={arrival.media ?? ''}
        act={arrival.document !== null && !pinning.isOpen ? <Act onClick={pinning.open}>Correct…</Act> : undefined}
        className={`${pointing ? '' : 'max-lg:hidden'} lg:border-r lg:border-rule lg:px-4`}
      >
        <Structure arrival={arrival} hot={hot} onHot={setHot} onPoint={pointing ? pinning.point : null} />
      </Column>
      <Column
        title="Answers"
        fact={
          arrival.decoded.length > 1
            ? counted(arrival.decoded.length, 'submission')
            : counted(arrival.decoded[0]?.fields.length ?? 0, 'answer')
        }
        className="md:pl-4"
      >
        <Answers arrival={arrival} hot={hot} onHot={setHot} />
      </Column>
    </div>
  );
}

interface ColumnProps {
  title: string;
  fact: string;
  className: string;
  /** Something to do, beside the title. */
  act?: ReactNode;
  /** Stays in view while a longer column beside it is scrolled. */
  stays?: boolean;
  children: ReactNode;
}

function Column({ title, fact, act, className, stays = false, children }: ColumnProps) {
  return (
    <section aria-label={title} className={`min-w-0 ${className}`}>
      <div className={stays ? 'md:sticky md:top-3' : ''}>
        <h2 className="mb-2 flex gap-3 border-b border-rule pb-1.5 font-sans text-small font-semibold text-ink-2">
          <span className="flex-1">{title}</span>
          {act} <span className="font-normal text-ink-3">{fact}</span>
        </h2>
        {children}
      </div>
    </section>
  );
}

function Raw({ arrival, mark }: { arrival: ArrivalView; mark: string | null }) {
  const { method, url, headers, body, size, cut } = arrival;
  const head = [`${method} ${url}`, ...headers.map(([name, value]) => `${name}: ${value}`)].join('\n');
  return (
    <div role="region" aria-label="The message" className="max-h-[calc(100vh-21rem)] min-h-40 overflow-auto">
      <Wire label="Message text" text={`${head}\n\n${body ?? ''}`} mark={mark} />
      {body === null ? (
        <i className="font-serif text-ink-2">{bytes(size)} of binary data.</i>
      ) : body === '' ? (
        <i className="font-serif text-ink-2">No body.</i>
      ) : (
        cut && <i className="font-serif text-ink-2">… cut here: {bytes(size)} in all.</i>
      )}
    </div>
  );
}

/** The text of the body that an answer was read from, as far as it stands there to the letter. */
function placeIn(body: string, field: Field): string | null {
  const value = Array.isArray(field.value) ? field.value[0] : field.value;
  const candidates = [
    JSON.stringify(value),
    JSON.stringify(JSON.stringify(field.value)),
    asText(value),
    encodeURIComponent(asText(value)).replaceAll('%20', '+'),
  ];
  return candidates.find(text => text && text !== '""' && body.includes(text)) ?? null;
}

function Answers({
  arrival,
  hot,
  onHot,
}: {
  arrival: ArrivalView;
  hot: string | null;
  onHot: (pointer: string | null) => void;
}) {
  const form = useForm(arrival.formId);
  if (arrival.decoded.length === 0) {
    return (
      <p className="py-3 font-serif text-reading text-ink-2">
        {arrival.state === 'refused'
          ? 'Refused, so not read.'
          : arrival.state === 'waiting'
            ? 'Reading…'
            : 'No answers found. The note on the right says why.'}
      </p>
    );
  }
  const schemaOf = (key: string) => form.data?.schema.fields.find(each => each.key === key);
  return arrival.decoded.map((submission, index) => (
    <div key={submission.sampleId}>
      {arrival.decoded.length > 1 && (
        <p className="mt-3 text-small font-semibold text-ink-2">
          Submission {index + 1}
          {submission.id && ` · ${submission.id}`}
        </p>
      )}
      <ul>
        {submission.fields.map(field => (
          <AnswerRow
            key={field.pointer}
            mark={kindMarks[field.kind]}
            label={schemaOf(field.key)?.label ?? field.label}
            keyText={field.key}
            value={asText(field.value)}
            schema={schemaOf(field.key)}
            total={form.data?.schema.count ?? 0}
            isHot={hot === field.pointer}
            onHot={is => onHot(is ? field.pointer : null)}
            pointer={field.pointer}
          />
        ))}
        {[...new Set(submission.files.map(file => file.field))].map(key => (
          <AnswerRow
            key={key}
            mark={kindMarks.files}
            label={submission.questions.find(each => each.key === key)?.label ?? key}
            keyText={key}
            value={submission.files
              .filter(file => file.field === key)
              .map(file => `${file.name}${file.size === null ? '' : ` (${bytes(file.size)})`}`)
              .join(' · ')}
            schema={schemaOf(key)}
            total={form.data?.schema.count ?? 0}
            isHot={false}
            onHot={() => undefined}
            pointer=""
          />
        ))}
      </ul>
    </div>
  ));
}

interface AnswerRowProps {
  mark: { mark: string; word: string };
  label: string;
  keyText: string;
  value: string;
  pointer: string;
  schema: FieldSchema | undefined;
  total: number;
  isHot: boolean;
  onHot: (is: boolean) => void;
}

function AnswerRow({ mark, label, keyText, value, pointer, schema, total, isHot, onHot }: AnswerRowProps) {
  const filled = schema && total > 0 ? schema.filled / total : 0;
  return (
    <li
      onMouseMove={event => moved(event) && onHot(true)}
      onMouseLeave={event => moved(event) && onHot(false)}
      className={`-mx-2 grid grid-cols-[18px_minmax(0,1fr)_44px] gap-1 border-b border-dotted border-rule px-2 py-[5px] ${isHot ? 'bg-lapis-wash' : ''}`}
    >
      <span className="font-mono text-fine/[1.125rem] text-ink-3" title={mark.word}>
        <span aria-hidden>{mark.mark}</span>
        <span className="sr-only">{mark.word}</span>
      </span>
      <button
        type="button"
        onFocus={() => onHot(true)}
        onBlur={() => onHot(false)}
        className="min-w-0 text-left"
        title={[keyText, pointer].filter(Boolean).join(' · ')}
      >
        <span className="flex items-baseline gap-3 text-small/4">
          <span className="text-lapis">{label}</span>
          <span className="min-w-0 flex-1 truncate text-right font-mono text-fine/4 text-ink-3">
            {keyText}
            {pointer && ` · ${pointer}`}
          </span>
        </span>
        <span
          className={`block font-mono text-small whitespace-pre-wrap [overflow-wrap:anywhere] ${isHot ? '' : 'line-clamp-2'}`}
        >
          {value}
        </span>
      </button>
      <span
        role="img"
        aria-label={`answered in ${schema?.filled ?? 0} of ${total}`}
        title={`answered in ${schema?.filled ?? 0} of ${total}`}
        className="mt-[7px] block h-1.5 bg-rule"
      >
        <span className="block h-1.5 bg-verdigris" style={{ width: `${filled * 100}%` }} />
      </span>
    </li>
  );
}
