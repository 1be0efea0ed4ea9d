import type { CallInput } from '@grammata/contract';
import { partsOf } from '@grammata/core/condition';
import { proposeReadBack } from '@grammata/core/perform';
import { useEffect, useRef } from 'react';
import { Act, Choice, TextBox, Tick, onEscape } from '../../ui';
import { ReferencePick } from '../workbench';
import { Group } from '../filter/Group';
import { type Offered, useWorkbench } from '../workbench';
import { FindSettings } from './find/FindSettings';
import { Tries } from './Tries';

/** How a call is made: when, for what, after finding whom, and what its failing does. */
export function CallTerms({ onClose }: { onClose: () => void }) {
  const { call, callAt, editing, editCall, references, operation, target, showCall } = useWorkbench(
    'editing',
    'call',
    'offers',
  );
  const { calls } = editing.draft;
  const panel = useRef<HTMLDivElement>(null);
  useEffect(() => panel.current?.focus(), []);
  const set = (more: Partial<CallInput>) => editCall(before => ({ ...before, ...more }));
  const move = (by: number) => {
    editing.edit(draft => {
      const next = [...draft.calls];
      const [own] = next.splice(callAt, 1);
      next.splice(callAt + by, 0, own!);
      return { ...draft, calls: next };
    });
    // What was pressed may be gone: the first call moves no further up.
    panel.current?.focus();
  };
  const remove = () => {
    const next = calls[callAt === 0 ? 1 : callAt - 1]!;
    editing.edit(draft => ({ ...draft, calls: draft.calls.filter(each => each.id !== call.id) }));
    showCall(next.id);
  };
  const readBack = operation && target ? proposeReadBack(operation, target.operations) : null;
  const reader = target?.operations.find(each => each.id === (call.readBack ?? readBack)?.operationId);
  return (
    <div
      ref={panel}
      tabIndex={-1}
      role="group"
      aria-label="Call settings"
      className="outline-none space-y-4 border-t border-rule bg-raised px-3.5 pt-3 pb-4 pl-[50px] max-sm:pl-3.5"
      onKeyDown={onEscape(onClose)}
    >
      <TextBox
        label="Name"
        className="max-w-[22rem]"
        placeholder={operation?.label ?? call.operationId}
        value={call.name ?? ''}
        onChange={name => set({ name })}
      />
      <div className="grid max-w-[46rem] gap-x-6 gap-y-3 sm:grid-cols-2">
        <ReferencePick
          label="Runs"
          hint="A repeated call runs once for each file, choice, row, or item of an earlier response, and not at all for none."
          references={references.filter(isList)}
          value={call.repeat ?? ''}
          none="once per submission"
          onPick={key => set({ repeat: key || null })}
        />
        <Choice
          label="If it fails"
          hint="After all retries. Later calls may need its response."
          value={call.whenFailed ?? 'stop'}
          options={{ stop: 'stop: the delivery fails', passOver: 'continue, and note the error' }}
          onChange={whenFailed => set({ whenFailed })}
        />
      </div>
      <div>
        <p className="text-small text-ink-2">Condition</p>
        {call.condition && partsOf(call.condition).length > 0 ? (
          <>
            <Group condition={call.condition} onChange={condition => set({ condition })} path={[]} says="Runs when " />
            <Act onClick={() => set({ condition: null })}>Remove condition</Act>
          </>
        ) : (
          <p>
            none{' '}
            <Act
              onClick={() =>
                set({
                  condition: {
                    all: [{ field: references[0]?.key ?? '', is: 'blank', values: [], not: true }],
                  },
                })
              }
            >
              Add condition
            </Act>
          </p>
        )}
      </div>
      <Tries call={call} answersPage={operation?.answersPage ?? false} onChange={set} />
      <FindSettings onChange={set} />
      {reader && (
        <Tick
          className="max-w-[46rem]"
          label={`Read back with “${reader.label}” and compare with what was sent`}
          hint="One more request per delivery."
          checked={Boolean(call.readBack)}
          onChange={is => set({ readBack: is ? readBack : null })}
        />
      )}
      {calls.length > 1 && (
        <p className="flex gap-5">
          {callAt > 0 && <Act onClick={() => move(-1)}>Move up</Act>}
          {callAt < calls.length - 1 && <Act onClick={() => move(1)}>Move down</Act>}
          <Act className="removes ml-auto" onClick={remove}>
            Remove call
          </Act>
        </p>
      )}
    </div>
  );
}

/** Answers that may hold several things. */
const isList = ({ kind, isQuestion, items }: Offered) =>
  items !== undefined || (isQuestion && ['files', 'choices', 'table', 'json'].includes(kind));
