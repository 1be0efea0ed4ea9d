import type { CallInput } from '@grammata/contract';
import { partsOf } from '@grammata/core/condition';
import { proposeReadBack } from '@grammata/core/perform';
import { useEffect, useRef } from 'react';
import { Act, Choice, TextBox, Tick } from '../../ui';
import { ReferencePick } from '../workbench';
import { Group } from '../when/Group';
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
  const move = (by: number) =>
    editing.edit(draft => {
      const next = [...draft.calls];
      const [own] = next.splice(callAt, 1);
      next.splice(callAt + by, 0, own!);
      return { ...draft, calls: next };
    });
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
      aria-label="How the call is made"
      className="outline-none space-y-4 border-t border-rule bg-raised px-3.5 pt-3 pb-4 pl-[58px] max-sm:pl-3.5"
      onKeyDown={event => event.key === 'Escape' && onClose()}
    >
      <TextBox
        label="Its name"
        className="max-w-[22rem]"
        placeholder={operation?.label ?? call.operationId}
        value={call.name ?? ''}
        onChange={name => set({ name })}
      />
      <div className="grid max-w-[46rem] gap-x-6 gap-y-3 sm:grid-cols-2">
        <ReferencePick
          label="Made"
          hint="A call that repeats is made once for each file, choice or row; for none, not at all."
          references={references.filter(isList)}
          value={call.repeat ?? ''}
          none="once for a submission"
          onPick={key => set({ repeat: key || null })}
        />
        <Choice
          label="When it fails"
          hint="After all tries. The calls behind it may need its answer."
          value={call.whenFailed ?? 'stop'}
          options={{ stop: 'stop, and keep the delivery as a dead letter', passOver: 'note it, and go on' }}
          onChange={whenFailed => set({ whenFailed })}
        />
      </div>
      <div>
        <p className="text-small text-ink-2">Only when</p>
        {call.condition && partsOf(call.condition).length > 0 ? (
          <>
            <Group
              condition={call.condition}
              onChange={condition => set({ condition })}
              path={[]}
              says="It is made when "
            />
            <Act onClick={() => set({ condition: null })}>Make it always</Act>
          </>
        ) : (
          <p>
            always.{' '}
            <Act
              onClick={() =>
                set({
                  condition: {
                    all: [{ field: references[0]?.key ?? '', is: 'blank', values: [], not: true }],
                  },
                })
              }
            >
              Add a condition
            </Act>
          </p>
        )}
      </div>
      <Tries call={call} answersPage={operation?.answersPage ?? false} onChange={set} />
      <FindSettings onChange={set} />
      {reader && (
        <Tick
          className="max-w-[46rem]"
          label={`Read back what was stored, with “${reader.label}”, and compare it with what was sent`}
          hint="One more request for each delivery."
          checked={Boolean(call.readBack)}
          onChange={is => set({ readBack: is ? readBack : null })}
        />
      )}
      {calls.length > 1 && (
        <p className="flex gap-5">
          {callAt > 0 && <Act onClick={() => move(-1)}>Make it earlier</Act>}
          {callAt < calls.length - 1 && <Act onClick={() => move(1)}>Make it later</Act>}
          <Act onClick={remove}>Remove this call</Act>
        </p>
      )}
    </div>
  );
}

/** Answers that may hold several things. */
const isList = ({ kind, isQuestion }: Offered) => isQuestion && ['files', 'choices', 'table', 'json'].includes(kind);
