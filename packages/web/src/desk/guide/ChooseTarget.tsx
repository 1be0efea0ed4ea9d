import { TargetInput, type FormListed } from '@grammata/contract';
import { useState } from 'react';
import { wordsFor } from '../../api';
import { useOffered, usePractice } from '../../lists';
import { OperationPick } from '../../routes/calls/OperationPick';
import { useCreateRoute } from '../../routes/queries';
import { useCreateTarget } from '../../targets/queries';
import { TargetForm } from '../../targets/TargetForm';
import { Act, Fault, Press } from '../../ui';

/** Where the submissions go: an operation of a target that is there, of a new one, or of one to practise with. */
export function ChooseTarget({ form, onRoute }: { form: FormListed; onRoute: (id: string) => void }) {
  const offered = useOffered();
  const createRoute = useCreateRoute();
  const [adds, setAdds] = useState(false);
  const targets = offered.data ?? [];
  const isEmpty = targets.every(each => each.operations.length === 0);
  const begin = (where: string) => {
    // Chosen twice, it is one route.
    if (createRoute.isPending) return;
    const [targetId = '', operationId = ''] = where.split('\n');
    const name = `${form.name} to ${targets.find(each => each.id === targetId)?.name ?? 'target'}`.slice(0, 120);
    createRoute.mutate({ name, formId: form.id, targetId, operationId }, { onSuccess: made => onRoute(made.id) });
  };
  return (
    <div className="px-6 pb-4 max-sm:px-4 md:pl-[180px]">
      {offered.error && <Fault again={() => void offered.refetch()}>{wordsFor(offered.error)}</Fault>}
      {createRoute.error && <Fault>{wordsFor(createRoute.error)}</Fault>}
      {!isEmpty && (
        <div className="max-w-xl py-1">
          <OperationPick label="Target and operation" targets={targets} value="" onPick={begin} />
        </div>
      )}
      {offered.data && (
        <p className="mt-3 flex flex-wrap items-baseline gap-x-5 gap-y-2">
          {isEmpty ? (
            <Press onClick={() => setAdds(true)}>Add target</Press>
          ) : (
            <Act onClick={() => setAdds(true)}>Add another target</Act>
          )}
          <PracticeTargets taken={targets.map(each => each.name)} />
        </p>
      )}
      {adds && <NewTarget onDone={() => setAdds(false)} />}
    </div>
  );
}

function NewTarget({ onDone }: { onDone: () => void }) {
  const create = useCreateTarget();
  return (
    <TargetForm
      initial={{}}
      hasToken={false}
      keptAs="guide.target"
      deed="Add target"
      save={async input => {
        await create.mutateAsync(input);
        onDone();
      }}
      onCancel={onDone}
    />
  );
}

/** Those of the practice yard, for who has no target at hand. */
function PracticeTargets({ taken }: { taken: readonly string[] }) {
  const { data } = usePractice();
  const create = useCreateTarget();
  return (
    <>
      {(data?.yard?.targets ?? []).map(
        ({ id, name, connect }) =>
          connect &&
          !taken.includes(name) && (
            <Act
              key={id}
              className="quiet"
              onClick={() => create.mutate({ ...new TargetInput(), name, ...connect, auth: { kind: 'bearer' } })}
              disabled={create.isPending}
            >
              Use the practice target {name}
            </Act>
          ),
      )}
      {create.error && <Fault>{wordsFor(create.error)}</Fault>}
    </>
  );
}
