import type { CallInput, FindInput } from '@grammata/contract';
import { mayRead, proposeFinds, proposeIdentity } from '@grammata/core/perform';
import { compileLine } from '@grammata/core/request';
import { newLine } from '@grammata/core/route';
import { cleaningFor } from '@grammata/core/match';
import { placeWords, referredTo } from '@grammata/core/scope';
import { isReading, type Operation } from '@grammata/core/target';
import { useState } from 'react';
import { Act, Choice, Combobox } from '../../../ui';
import { kindOf } from '../../mapping/source/kindOf';
import { Steps } from '../../mapping/steps/Steps';
import { ReferencePick, useWorkbench } from '../../workbench';
import { AlsoSent } from './AlsoSent';
import { FoundAnswer } from './FoundAnswer';

const noneWords: Record<FindInput['whenNone'], string> = {
  create: 'create one',
  leave: 'skip',
  hold: 'hold the delivery',
};
const severalWords: Record<FindInput['whenSeveral'], string> = {
  hold: 'hold the delivery',
  first: 'use the first',
  every: 'use all',
};

/** Samples whose answers say what cleaning they need. */
const LOOKED = 200;

const taken = (operation: Operation) => operation.fields.filter(field => !field.readOnly && field.in !== 'header');

/** A look-up by an operation of which nothing more is known yet. */
function begun(operation: Operation): FindInput {
  const [first] = taken(operation);
  return {
    operationId: operation.id,
    line: newLine('find', first?.key ?? ''),
    ...(operation.method === 'GET' ? {} : { readsOnly: true }),
    list: '',
    equals: '',
    whenNone: 'create',
    whenSeveral: 'hold',
    update: null,
  };
}

/** Looking a record up before writing: with what, by what, where it stands in the answer, and what is done about none and several. */
export function FindSettings({ onChange }: { onChange: (more: Pick<CallInput, 'find' | 'identity'>) => void }) {
  const { call, target, operation } = useWorkbench('call');
  const { find } = call;
  const [isPicking, setPicking] = useState(false);
  const operations = target?.operations ?? [];
  const set = (next: FindInput | null) => {
    const finder = operations.find(each => each.id === next?.operationId) ?? null;
    const identity = operation && next?.operationId !== find?.operationId ? proposeIdentity(operation, finder) : null;
    onChange({ find: next, ...(identity && { identity }) });
  };
  if (!target || !operation || isReading(operation)) return null;
  if (find) return <Composed find={find} operations={operations} onChange={set} />;
  const ways = proposeFinds(call, operations);
  const others = operations.filter(each => each.id !== operation.id && taken(each).length > 0);
  if (others.length === 0) return null;
  return (
    <div>
      <p className="text-small text-ink-2">Existing record</p>
      <p>
        Not looked up: each delivery creates a new record.{' '}
        {ways.slice(0, 3).map(way => (
          <Act key={`${way.operationId} ${way.equals}`} className="mr-4" onClick={() => set(way)}>
            Find by {placeWords(way.equals)} first
          </Act>
        ))}
        {!isPicking && (
          <Act onClick={() => setPicking(true)}>
            {ways.length > 0 ? 'Find in another way' : 'Find an existing record'}
          </Act>
        )}
      </p>
      {isPicking && (
        <Combobox
          label="Look up with"
          className="mt-2 sm:w-1/2"
          placeholder="choose an operation…"
          autoFocus
          options={[...others]
            .sort((a, b) => Number(mayRead(b)) - Number(mayRead(a)))
            .map(each => ({
              value: each.id,
              label: each.label,
              group: mayRead(each) ? 'Read only' : 'Others: only if they change nothing',
              detail: `${each.method} ${each.path}`,
            }))}
          value=""
          onPick={id => set(begun(others.find(each => each.id === id)!))}
        />
      )}
    </div>
  );
}

function Composed({
  find,
  operations,
  onChange,
}: {
  find: FindInput;
  operations: readonly Operation[];
  onChange: (find: FindInput | null) => void;
}) {
  const { references, route, samples } = useWorkbench('offers', 'route', 'walk');
  const finder = operations.find(each => each.id === find.operationId) ?? null;
  const { line } = find;
  const field = finder?.fields.find(each => each.key === line.to) ?? null;
  const edit = (change: (before: FindInput['line']) => FindInput['line']) => onChange({ ...find, line: change(line) });
  /** What brings a question’s answers into what the parameter takes, as for a line of the mapping. */
  const cleaningOf = (key: string) => {
    const asked = route.form.schema.fields.find(each => each.key === key);
    const values = samples.slice(0, LOOKED).flatMap(each => referredTo(each.scope, key) ?? []);
    return asked && field ? cleaningFor(asked, values, field) : [];
  };
  return (
    <fieldset className="max-w-[46rem]">
      <legend className="text-small text-ink-2">Existing record</legend>
      <p>
        Found with “{finder?.label ?? find.operationId}”
        {find.equals !== '' ? (
          <>
            ; its <code className="font-mono text-small">{placeWords(find.equals)}</code> must equal the value
            below.{' '}
          </>
        ) : find.takesAny ? (
          '. The response is the record. '
        ) : (
          <>
            . <span className="text-crimson">! Send a look-up, then point at the value to compare.</span>{' '}
          </>
        )}
        <Act onClick={() => onChange(null)}>Remove look-up</Act>
      </p>
      <div className="mt-2 grid gap-x-6 gap-y-3 sm:grid-cols-2">
        <Choice
          label="Search parameter"
          look="code"
          value={line.to}
          options={finder ? taken(finder).map(({ key }) => ({ value: key, label: key })) : []}
          onChange={to => edit(each => ({ ...each, to }))}
        />
        <ReferencePick
          label={`Value of ${line.to}`}
          references={references}
          value={line.source?.from === 'field' ? line.source.field : ''}
          none="choose an answer…"
          onPick={key =>
            edit(each => ({
              ...each,
              source: key ? { from: 'field', field: key } : null,
              cleaning: each.cleaning.length > 0 ? each.cleaning : cleaningOf(key),
            }))
          }
        />
      </div>
      {line.source && <Steps compiled={compileLine(line, field)} kind={kindOf(line.source, references)} edit={edit} />}
      {finder && <AlsoSent finder={finder} find={find} references={references} onChange={onChange} />}
      <FoundAnswer find={find} onChange={onChange} />
      <div className="mt-4 grid gap-x-6 gap-y-3 sm:grid-cols-2">
        <Choice
          label="If none is found"
          value={find.whenNone}
          options={noneWords}
          onChange={whenNone => onChange({ ...find, whenNone })}
        />
        <Choice
          label="If several are found"
          value={find.whenSeveral}
          options={severalWords}
          onChange={whenSeveral => onChange({ ...find, whenSeveral })}
        />
        <Changed find={find} operations={operations} onChange={onChange} />
      </div>
      <p className="mt-2 font-serif text-ink-2">
        {find.update
          ? 'Only differences are sent to an existing record; nothing if there are none. Each line says what it may overwrite.'
          : 'An existing record is not changed.'}
      </p>
    </fieldset>
  );
}

/** How one that is found is changed: by an operation that says in its address which record is meant. */
function Changed({
  find,
  operations,
  onChange,
}: {
  find: FindInput;
  operations: readonly Operation[];
  onChange: (find: FindInput) => void;
}) {
  const updates = operations.flatMap(each => {
    const to = each.fields.find(field => field.in === 'path');
    const mayChange = each.method === 'PATCH' || each.method === 'PUT' || (each.method === 'POST' && to !== undefined);
    return mayChange && to ? [{ operation: each, to: to.key }] : [];
  });
  if (updates.length === 0) return null;
  return (
    <Combobox
      label="Update an existing record with"
      none="nothing: leave it unchanged"
      options={updates.map(({ operation }) => ({
        value: operation.id,
        label: operation.label,
        detail: `${operation.method} ${operation.path}`,
      }))}
      value={find.update?.operationId ?? ''}
      onPick={id => {
        const update = updates.find(each => each.operation.id === id);
        onChange({
          ...find,
          update: update ? { operationId: id, to: update.to, from: find.update?.from ?? '/id' } : null,
        });
      }}
    />
  );
}
