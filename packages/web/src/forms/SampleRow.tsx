import type { FormView, NamedSample } from '@grammata/contract';
import { asText } from '@grammata/core/submission';
import { useState } from 'react';
import { Link } from 'react-router';
import { wordsFor } from '../api';
import { Act, bytes, Confirm, Fault, kindMarks, TextBox, When } from '../ui';
import { useDescribeSample, useRemoveVariant } from './queries';
import { VariantEditor } from './VariantEditor';

/** Kinds whose values are about a person. */
const personal = new Set(['name', 'email', 'phone', 'address']);

/** One sample of a form: opens in place, can be named, kept, edited into a variant. */
export function SampleRow({ form, sample, covered }: { form: FormView; sample: NamedSample; covered: boolean }) {
  const [open, setOpen] = useState(false);
  const { submission, name, kept, isVariant } = sample;
  const shown = (kind: string, text: string) => (covered && personal.has(kind) ? '••••' : text);
  return (
    <li>
      <button
        type="button"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        className="grid w-full grid-cols-[8rem_minmax(0,1fr)_auto] gap-x-4 py-1.5 text-left hover:bg-raised"
      >
        <span className="text-ink-2">{isVariant ? 'variant' : <When at={sample.receivedAt} />}</span>
        <span className="truncate">
          {name && <b className="mr-3 font-serif">{name}</b>}
          <span className="font-mono text-small">
            {submission.fields
              .map(field => shown(field.kind, asText(field.value).replace(/\s+/g, ' ')))
              .concat(submission.files.map(file => file.name))
              .join(' · ')}
          </span>
        </span>
        <span className="text-small text-ink-2">{kept && !isVariant && 'kept'}</span>
      </button>
      {open && <OpenSample form={form} sample={sample} shown={shown} />}
    </li>
  );
}

function OpenSample({
  form,
  sample,
  shown,
}: {
  form: FormView;
  sample: NamedSample;
  shown: (kind: string, text: string) => string;
}) {
  const [editing, setEditing] = useState<'new' | 'this' | null>(null);
  const [name, setName] = useState(sample.name ?? '');
  const describe = useDescribeSample(form.id);
  const remove = useRemoveVariant(form.id);
  const { id, submission, kept, isVariant } = sample;
  const labelOf = (key: string) => form.schema.fields.find(each => each.key === key)?.label;
  const kindOf = (key: string) => form.schema.fields.find(each => each.key === key)?.kind ?? 'text';
  if (editing)
    return (
      <VariantEditor
        formId={form.id}
        id={editing === 'this' ? id : undefined}
        name={editing === 'this' ? (sample.name ?? '') : ''}
        submission={submission}
        kindOf={kindOf}
        onDone={() => setEditing(null)}
      />
    );
  const error = describe.error ?? remove.error;
  return (
    <div className="border-t border-dotted border-rule pt-2 pb-3 pl-4">
      <dl className="grid grid-cols-[18px_minmax(0,14rem)_minmax(0,1fr)] gap-x-3 gap-y-0.5">
        {submission.fields.map(field => (
          <div key={field.key} className="contents">
            <span className="font-mono text-fine/[1.25rem] text-ink-3" aria-hidden>
              {kindMarks[field.kind].mark}
            </span>
            <dt className="text-lapis">{labelOf(field.key) ?? field.label}</dt>
            <dd className="font-mono text-small/5 whitespace-pre-wrap [overflow-wrap:anywhere]">
              {shown(field.kind, asText(field.value))}
            </dd>
          </div>
        ))}
        {submission.files.map((file, index) => (
          <div key={index} className="contents">
            <span className="font-mono text-fine/[1.25rem] text-ink-3" aria-hidden>
              {kindMarks.files.mark}
            </span>
            <dt className="text-lapis">
              {submission.questions.find(each => each.key === file.field)?.label ?? file.field}
            </dt>
            <dd className="font-mono text-small/5">
              {file.name}
              {file.size !== null && ` (${bytes(file.size)})`}
            </dd>
          </div>
        ))}
      </dl>
      <div className="mt-2 flex flex-wrap items-baseline gap-x-4 gap-y-1">
        {!isVariant && (
          <form
            className="flex items-baseline gap-2"
            onSubmit={event => {
              event.preventDefault();
              describe.mutate({ id, name, kept: true });
            }}
          >
            <TextBox
              label="Name of this sample"
              isBare
              boxClass="w-52!"
              placeholder="add a name"
              value={name}
              maxLength={120}
              onChange={setName}
            />
            {name.trim() !== (sample.name ?? '') && <Act type="submit">Save name</Act>}
          </form>
        )}
        {!isVariant && (
          <Act onClick={() => describe.mutate({ id, kept: !kept })} aria-pressed={kept}>
            {kept ? 'Stop keeping' : 'Keep'}
          </Act>
        )}
        <Act onClick={() => setEditing('new')}>Create variant</Act>
        {sample.arrivalId && (
          <Link className="act" to={`/arrivals/${sample.arrivalId}`}>
            Open raw message
          </Link>
        )}
        {isVariant && <Act onClick={() => setEditing('this')}>Edit</Act>}
        {isVariant && (
          <Confirm ask="Remove" deed="Remove" onDo={() => remove.mutate(id)} isBusy={remove.isPending}>
            Its edited answers will be deleted.
          </Confirm>
        )}
      </div>
      {error && <Fault>{wordsFor(error)}</Fault>}
    </div>
  );
}
