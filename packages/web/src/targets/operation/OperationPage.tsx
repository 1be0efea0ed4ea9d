import { OperationFieldInput, OperationInput, type OperationView, type TargetView } from '@grammata/contract';
import type { Json } from '@grammata/core/submission';
import { doubtsAbout, fieldsOfRecord, methods, type BodyKind, type Operation } from '@grammata/core/target';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { afterwards, wordsFor } from '../../api';
import { Read } from '../../app/Read';
import { Act, Confirm, Note, Sheet } from '../../ui';
import { ChoiceField, InputForm, TextField, useInput } from '../../ui/form';
import { useFromSource, useOperation, useSetOperation, useTakeAway, useTarget } from '../queries';
import { AnswerPart } from './AnswerPart';
import { fieldColumns, FieldRow } from './FieldRow';
import { FromJson } from './FromJson';
import { useFields, type OperationForm } from './form';
import { PathParts } from './PathParts';
import { TryIt } from './TryIt';

/** One thing a target can be asked to do, edited by hand: its address, its fields, what it answers. */
export function OperationPage() {
  const { id = '' } = useParams();
  const [params] = useSearchParams();
  const operationId = params.get('id');
  const target = useTarget(id);
  const operation = useOperation(id, operationId);
  const [times, setTimes] = useState(0);
  return (
    <Read title="Operation" query={target}>
      {of =>
        operationId === null ? (
          <Editor key="new" target={of} view={null} onAnew={() => undefined} />
        ) : (
          <Read title="Operation" query={operation}>
            {view => (
              <Editor key={`${operationId} ${times}`} target={of} view={view} onAnew={() => setTimes(times + 1)} />
            )}
          </Read>
        )
      }
    </Read>
  );
}

const bodyNames: Partial<Record<BodyKind, string>> = {
  json: 'JSON',
  urlencoded: 'form fields (urlencoded)',
  multipart: 'parts (multipart), with files',
  xml: 'XML',
  text: 'plain text',
  raw: 'a file, its content',
  none: 'nothing',
};

const begun = (): OperationInput => ({ ...new OperationInput(), label: '', method: 'POST', path: '/', body: 'json' });

function Editor({
  target,
  view,
  onAnew,
}: {
  target: TargetView;
  view: OperationView | null;
  /** What is stored is another now than what was begun with. */
  onAnew: () => void;
}) {
  const navigate = useNavigate();
  const store = useSetOperation(target.id);
  const given = view ? (view.operation as OperationInput) : begun();
  const of = useInput<OperationForm>({
    input: OperationInput,
    values: given,
    keptAs: `operation.${target.id}.${view?.operation.id ?? 'new'}`,
    save: async input => {
      const { operation } = await store.mutateAsync(input as OperationInput);
      of.form.reset(input);
      if (!view)
        await navigate(`/targets/${target.id}/operation?id=${encodeURIComponent(operation.id)}`, { replace: true });
    },
  });
  const [now, isChanged] = [useWatch({ control: of.form.control }) as OperationInput, of.form.formState.isDirty];
  return (
    <Sheet
      crumb={
        <>
          <Link to="/targets" className="hover:underline">
            Targets
          </Link>{' '}
          ·{' '}
          <Link to={`/targets/${target.id}`} className="hover:underline">
            {target.name}
          </Link>
        </>
      }
      title={view?.operation.label ?? 'New operation'}
      aside={
        <Margin
          target={target}
          view={view}
          now={now}
          isStored={store.isSuccess && !isChanged}
          onAnew={() => {
            of.discard();
            onAnew();
          }}
          onDoubt={next => of.form.setValue('fields', next, { shouldDirty: true })}
        />
      }
    >
      <InputForm
        of={of}
        label="Operation"
        deed={view ? 'Save' : 'Add'}
        className="mt-4 space-y-6"
        onCancel={() => void navigate(`/targets/${target.id}`)}
      >
        <div className="space-y-4">
          <TextField<OperationForm> name="label" label="Name" placeholder="Add a contact" autoFocus={!view} />
          <div className="grid gap-x-6 gap-y-4 sm:grid-cols-[8rem_minmax(0,1fr)_14rem]">
            <ChoiceField<OperationForm, Operation['method']>
              name="method"
              label="Method"
              look="code"
              options={Object.fromEntries(methods.map(each => [each, each]))}
              onPick={method => of.form.setValue('body', method === 'GET' || method === 'DELETE' ? 'none' : 'json')}
            />
            <TextField<OperationForm>
              name="path"
              label="Path"
              look="code"
              hint={`Relative to ${target.baseUrl}`}
              placeholder="/contacts/{contact_id}"
            />
            <ChoiceField<OperationForm, BodyKind> name="body" label="Body format" options={bodyNames} />
          </div>
          <PathParts />
        </div>
        <Fields />
        <AnswerPart />
        {view && <TryIt targetId={target.id} tryBaseUrl={target.tryBaseUrl} view={view} isChanged={isChanged} />}
      </InputForm>
    </Sheet>
  );
}

/** The fields of the request, a row each. */
function Fields() {
  const [fields, set, { control }] = useFields();
  const method = useWatch({ control, name: 'method' });
  const [fromRecord, setFromRecord] = useState(false);
  const add = () =>
    set([...fields, { ...new OperationFieldInput(), ...(method === 'GET' && { in: 'query' as const }) }]);
  const take = (document: Json) => {
    const shown = Array.isArray(document) ? document[0] : document;
    const found = shown === undefined ? [] : (fieldsOfRecord(shown) as OperationInput['fields']);
    if (found.length === 0) return 'Paste a record as an object: {"name": "value"}.';
    const taken = new Set(fields.map(each => each.key));
    set([...fields, ...found.filter(each => !taken.has(each.key))]);
    return null;
  };
  return (
    <section aria-label="Fields">
      <h2 className="border-b border-ink pb-1.5">Fields</h2>
      {fields.length === 0 && <p className="pt-2 font-serif text-ink-2">No fields yet.</p>}
      {fields.length > 0 && (
        <div aria-hidden className={`grid ${fieldColumns} pt-2 text-small text-ink-2 max-md:hidden`}>
          <span>Name</span>
          <span>Part of the request</span>
          <span>Type</span>
        </div>
      )}
      <ul className="divide-y divide-rule">
        {fields.map((_, index) => (
          <FieldRow key={index} index={index} onRemove={() => set(fields.filter((__, other) => other !== index))} />
        ))}
      </ul>
      <p className="border-t border-rule pt-2">
        <Act onClick={add}>Add field</Act>
        {!fromRecord && (
          <Act className="ml-5" onClick={() => setFromRecord(true)}>
            Add fields from a record
          </Act>
        )}
      </p>
      {fromRecord && (
        <FromJson
          label="Record in JSON"
          placeholder={'{"email": "…", "address": {"town": "…"}}'}
          deed="Add its fields"
          onTake={take}
          onClose={() => setFromRecord(false)}
        />
      )}
    </section>
  );
}

function Margin({
  target,
  view,
  now,
  isStored,
  onDoubt,
  onAnew,
}: {
  target: TargetView;
  view: OperationView | null;
  now: OperationInput;
  isStored: boolean;
  onDoubt: (fields: OperationInput['fields']) => void;
  onAnew: () => void;
}) {
  const navigate = useNavigate();
  const restore = useFromSource(target.id);
  const remove = useTakeAway(target.id);
  const loosen = (key: string | null) =>
    onDoubt(now.fields.map(each => (each.key === key ? { ...each, fixed: undefined } : each)));
  return (
    <>
      {isStored && (
        <div role="status">
          <Note tone="fine">Saved. Calls that use it are updated.</Note>
        </div>
      )}
      {/* Documents know; examples do not. */}
      {(target.reads === 'example' || view?.own === 'added' ? doubtsAbout(now as Operation) : []).map(doubt => (
        <Note key={`${doubt.about} ${doubt.field}`} tone="look">
          {doubt.words} {doubt.about === 'alwaysTheSame' && <Act onClick={() => loosen(doubt.field)}>Varies</Act>}
        </Note>
      ))}
      {view?.own === 'changed' && (
        <Note tone="goes">
          Edited by hand. Your edits are kept when the target is read again.{' '}
          <Act onClick={() => restore.mutate(view.operation.id, { onSuccess: onAnew })} disabled={restore.isPending}>
            Reset to source
          </Act>
        </Note>
      )}
      {view?.own === 'added' && <Note tone="goes">Added by hand.</Note>}
      {view && view.usedBy.length > 0 && (
        <Note tone="goes">
          Used by{' '}
          {view.usedBy
            .slice(0, 5)
            .map(each => `“${each}”`)
            .join(', ')}
          {view.usedBy.length > 5 && ` and ${view.usedBy.length - 5} more`}. Their calls are updated with it.
        </Note>
      )}
      {view && view.usedBy.length === 0 && (
        <p className="pl-4">
          <Confirm
            ask="Remove…"
            deed="Remove"
            isBusy={remove.isPending}
            fault={remove.error && wordsFor(remove.error)}
            onDo={() => afterwards(remove.mutateAsync(view.operation.id), () => void navigate(`/targets/${target.id}`))}
          >
            {view.own === 'added' ? 'It is removed permanently.' : 'It is hidden until you undo this.'}
          </Confirm>
        </p>
      )}
    </>
  );
}
