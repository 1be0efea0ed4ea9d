import type { FormView } from '@grammata/contract';
import type { FieldSchema } from '@grammata/core/schema';
import { Pencil } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { wordsFor } from '../api';
import { changeWords, useChanges } from '../drift';
import { Read } from '../app/Read';
import { useChangeForm } from './queries';
import { useForms } from '../lists';
import { Act, Combobox, count, counted, IconAct, kindMarks, Moment, Note, Sheet } from '../ui';
import { SendThrough } from '../recorded';
import { HeatMap } from './HeatMap';
import { FormNaming, QuestionNaming } from './Naming';
import { useForm, useNameQuestion, useWeeks } from './queries';
import { SampleSearch } from './SampleSearch';

/** What is known of a form: its questions, how they are answered, and the submissions behind it. */
export function FormPage() {
  const { id = '' } = useParams();
  const form = useForm(id);
  return (
    <Read title="Form" query={form}>
      {data => <Loaded key={id} form={data} />}
    </Read>
  );
}

function Loaded({ form }: { form: FormView }) {
  const weeks = useWeeks(form.id).data;
  const change = useChangeForm();
  const marks = (useChanges().data?.changes ?? []).flatMap(each =>
    each.subject === 'form' && each.subjectId === form.id && each.key !== null
      ? [{ key: each.key, at: each.firstAt, words: changeWords(each) }]
      : [],
  );
  const [naming, setNaming] = useState(false);
  const wanted = useSearchParams()[0].get('question');
  const { fields, count: total } = form.schema;
  const crumb = (
    <>
      <Link to="/forms" className="hover:underline">
        Forms
      </Link>{' '}
      /{' '}
      <Link to={`/intakes/${form.intakeId}`} className="hover:underline">
        {form.intakeName}
      </Link>
    </>
  );
  return (
    <Sheet
      crumb={crumb}
      title={form.name}
      aside={<Notes form={form} />}
      actions={!naming && <Act onClick={() => setNaming(true)}>Rename</Act>}
    >
      {naming && (
        <FormNaming
          name={form.name}
          own={form.ownName ?? form.name}
          save={name => change.mutateAsync({ id: form.id, name })}
          onDone={() => setNaming(false)}
        />
      )}
      <p className="mt-1 text-ink-2">
        {form.ownName && <>named “{form.ownName}” in the builder · </>}
        {counted(total, 'submission')}, {counted(fields.length, 'question')}
        {form.lastAt && (
          <>
            {' '}
            · last <Moment at={form.lastAt} />
          </>
        )}
      </p>
      <section aria-label="Questions" className="mt-5">
        <h2 className="border-b border-ink pb-1.5">Questions</h2>
        <ul className="ledger">
          {fields.map(field => (
            <Question key={field.key} field={field} form={form} isWanted={field.key === wanted} />
          ))}
        </ul>
      </section>
      {weeks && weeks.length > 0 && (
        <figure className="mt-8">
          <figcaption className="flex items-baseline justify-between border-b border-ink pb-1.5">
            <span className="font-serif text-lead font-semibold">Answers by week</span>
            <span className="text-ink-2">
              darker: answered more often; dashed: not asked
              {marks.length > 0 && '; △: question changed'}
            </span>
          </figcaption>
          <HeatMap fields={fields} weeks={weeks} marks={marks} />
        </figure>
      )}
      <SampleSearch form={form} />
    </Sheet>
  );
}

/** What nobody has decided of a form yet. */
function StateNote({ form }: { form: FormView }) {
  const change = useChangeForm();
  if (form.state === 'adopted') return <SameForms form={form} />;
  const set = (state: FormView['state']) => change.mutate({ id: form.id, state });
  return (
    <>
      {form.state === 'new' ? (
        <Note tone="look">
          New form at this intake. <Act onClick={() => set('adopted')}>Use form</Act> or{' '}
          <Act onClick={() => set('ignored')}>ignore it</Act>
          <SameAs form={form} />
        </Note>
      ) : (
        <Note tone="look">
          This form is ignored. Its submissions are stored but not delivered.{' '}
          <Act onClick={() => set('adopted')}>Use form</Act>
        </Note>
      )}
      {change.error && <Note tone="trouble">{wordsFor(change.error)}</Note>}
    </>
  );
}

/** Says that it is a form that is known already, in another generation of its builder. */
function SameAs({ form }: { form: FormView }) {
  const change = useChangeForm();
  const others = useForms().data?.filter(
    each => each.intakeId === form.intakeId && each.id !== form.id && each.state === 'adopted',
  );
  if (!others || others.length === 0) return null;
  return (
    <>
      <Combobox
        label="Merge with"
        className="mt-2"
        placeholder="choose a form…"
        options={others.map(each => ({ value: each.id, label: each.name }))}
        value=""
        onPick={sameAs => change.mutate({ id: form.id, sameAs })}
      />
      {change.error && <span role="alert">{wordsFor(change.error)}</span>}
    </>
  );
}

/** Forms under other keys that count as this one. */
function SameForms({ form }: { form: FormView }) {
  const change = useChangeForm();
  return (
    <>
      {form.same.map(each => (
        <Note key={each.id} tone="fine">
          <b>{each.name}</b> is merged into this form: its submissions are listed here.{' '}
          <Act onClick={() => change.mutate({ id: each.id, sameAs: '' })}>Separate</Act>
        </Note>
      ))}
      {change.error && <Note tone="trouble">{wordsFor(change.error)}</Note>}
    </>
  );
}

function Notes({ form }: { form: FormView }) {
  const never = form.schema.fields.filter(field => field.filled === 0);
  const mixed = form.schema.fields.filter(field => Object.keys(field.kinds).length > 1);
  return (
    <>
      <StateNote form={form} />
      {mixed.map(field => (
        <Note key={field.key} tone="look">
          <b>{field.label}</b> received as{' '}
          {Object.entries(field.kinds)
            .sort((a, b) => b[1] - a[1])
            .map(([kind, n]) => `${kindMarks[kind as keyof typeof kindMarks].word} (${count(n)})`)
            .join(', ')}
          .
        </Note>
      ))}
      {never.length > 0 && (
        <Note tone="look">No answers to {never.map(field => `“${field.label}”`).join(', ')} yet.</Note>
      )}
      <Note tone="goes">
        <Link className="act" to={`/routes?new&form=${form.id}`}>
          Create a route
        </Link>{' '}
        with it.
      </Note>
      <SendThrough formId={form.id} what="submissions" />
      <Note tone="goes">
        Export as{' '}
        {[
          ['csv', 'CSV'],
          ['ndjson', 'NDJSON'],
          ['schema', 'JSON Schema'],
        ].map(([as, name], index) => (
          <span key={as}>
            {index > 0 && (index === 2 ? ' or ' : ', ')}
            <a className="act" href={`/api/forms/${form.id}/export/${as}`} download>
              {name}
            </a>
          </span>
        ))}
        .
      </Note>
    </>
  );
}

/** How many ways of writing are named. */
const MOST_SHAPES = 4;

/** In which ways values are written, where that matters; else how long they are. */
function Writing({ field }: { field: FieldSchema }) {
  const { shapes, longest } = field;
  const ways = Object.entries(shapes).sort((a, b) => b[1] - a[1]);
  if (['date', 'time', 'datetime', 'phone', 'number'].includes(field.kind) && ways.length > 1)
    return (
      <span className="block truncate text-small text-ink-3" title="9 = digit, a = letter">
        written{' '}
        {ways.slice(0, MOST_SHAPES).map(([way, n], index) => (
          <span key={way}>
            {index > 0 && ', '}
            <code className="font-mono">{way}</code> {count(n)}
          </span>
        ))}
        {ways.length > MOST_SHAPES && ' …'}
      </span>
    );
  if ((field.kind === 'text' || field.kind === 'multiline') && longest > 0)
    return <span className="block text-small text-ink-3">up to {counted(longest, 'character')}</span>;
  return null;
}

/** How many options are named with their counts. */
const MOST_OPTIONS = 8;

/** Shorter than that a question that did not show may just have been left blank. */
const A_WEEK = 7 * 86_400_000;

/** When a question began or ceased to show, where the form went on without it. */
function Span({ field: { firstAt, lastAt }, fields }: { field: FieldSchema; fields: FieldSchema[] }) {
  const isLater = firstAt - Math.min(...fields.map(each => each.firstAt)) > A_WEEK;
  const isGone = Math.max(...fields.map(each => each.lastAt)) - lastAt > A_WEEK;
  if (!isLater && !isGone) return null;
  return (
    <span className="block text-small text-ink-2">
      {isLater && (
        <>
          first seen <Moment at={new Date(firstAt).toISOString()} />
        </>
      )}
      {isLater && isGone && ' · '}
      {isGone && (
        <>
          last seen <Moment at={new Date(lastAt).toISOString()} />
        </>
      )}
    </span>
  );
}

function Question({ field, form, isWanted }: { field: FieldSchema; form: FormView; isWanted: boolean }) {
  const { fields, count: total } = form.schema;
  const [naming, setNaming] = useState(false);
  const name = useNameQuestion(form.id);
  const row = useRef<HTMLLIElement>(null);
  useEffect(() => {
    if (isWanted) row.current?.scrollIntoView({ block: 'center' });
  }, [isWanted]);
  const { mark, word } = kindMarks[field.kind];
  const share = total === 0 ? 0 : field.filled / total;
  const options = field.options.toSorted((a, b) => b.times - a.times);
  return (
    <li
      ref={row}
      className={`grid grid-cols-[18px_minmax(0,1fr)_7rem] gap-x-3 py-2 md:grid-cols-[18px_minmax(0,15rem)_minmax(0,1fr)_7rem] ${isWanted ? 'chosen' : ''}`}
    >
      <span className="text-center font-mono text-fine/[1.25rem] text-ink-3" aria-hidden>
        {mark}
      </span>
      <span className="min-w-0">
        <span className="flex items-start gap-1">
          <span className="min-w-0 text-lapis [overflow-wrap:anywhere]">{field.label}</span>
          <IconAct
            icon={Pencil}
            label={`Rename “${field.label}”`}
            className="-mt-0.5 [&_svg]:size-3"
            aria-expanded={naming}
            onClick={() => setNaming(!naming)}
          />
        </span>
        {field.asked && <span className="block text-small text-ink-2">question text: “{field.asked}”</span>}
        <span className="block truncate text-small text-ink-3">
          <code className="font-mono">{field.key}</code> · {word}
        </span>
        <Span field={field} fields={fields} />
      </span>
      <span className="min-w-0 max-md:hidden">
        {options.length > 0 ? (
          <span className="text-small text-ink-2">
            {options.slice(0, MOST_OPTIONS).map(({ value, times }, index) => (
              <span key={value}>
                {index > 0 && ' · '}
                {value} <span className="font-mono text-fine text-ink-3">{count(times)}</span>
              </span>
            ))}
            {options.length > MOST_OPTIONS && ` · and ${options.length - MOST_OPTIONS} more`}
          </span>
        ) : (
          <span className="block truncate font-mono text-small text-ink-2">
            {field.examples.length > 0 ? field.examples.map(each => each.split('\n')[0]).join(' · ') : 'never answered'}
          </span>
        )}
        <Writing field={field} />
      </span>
      <span className="text-right">
        <span className="font-mono text-fine text-ink-2">{Math.round(share * 100)} %</span>
        <span
          role="img"
          aria-label={`answered in ${field.filled} of ${total}`}
          title={`answered in ${count(field.filled)} of ${count(total)}`}
          className="mt-1 ml-auto block h-1.5 w-24 bg-rule"
        >
          <span className="block h-1.5 bg-verdigris" style={{ width: `${share * 100}%` }} />
        </span>
      </span>
      {naming && (
        <div className="col-span-full">
          <QuestionNaming
            questionKey={field.key}
            name={field.label}
            own={field.asked ?? field.label}
            save={next => name.mutateAsync({ key: field.key, name: next })}
            onDone={() => setNaming(false)}
          />
        </div>
      )}
    </li>
  );
}
