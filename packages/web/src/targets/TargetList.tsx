import { useTargets } from '../lists';
import type { TargetSummary } from '@grammata/contract';
import { Link, useNavigate } from 'react-router';
import { useParam } from '../address';
import { wordsFor } from '../api';
import { useKeys } from '../app/keys';
import { counted, Empty, Fault, Moment, Note, Press, Sheet } from '../ui';
import { useCreateTarget } from './queries';
import { TargetForm } from './TargetForm';

export function TargetList() {
  const { data: targets, error, refetch } = useTargets();
  const [asked, ask] = useParam('new');
  const navigate = useNavigate();
  const create = useCreateTarget();
  const making = asked !== null;
  const make = (is: boolean) => ask(is ? '' : null);
  useKeys([{ key: 'n', does: 'new target', run: () => make(true) }]);
  const margin = (
    <Note tone="goes">
      Grammata reads a target’s operations from its API description, or learns them from examples. Addresses and secrets
      of the practice targets are under{' '}
      <Link className="act" to="/practice">
        Practice
      </Link>
      .
    </Note>
  );
  return (
    <Sheet title="Targets" aside={margin} actions={!making && <Press onClick={() => make(true)}>New target</Press>}>
      {making && (
        <TargetForm
          initial={{}}
          hasToken={false}
          keptAs="target.new"
          deed="Add target"
          save={async input => navigate(`/targets/${(await create.mutateAsync(input)).id}`)}
          onCancel={() => make(false)}
        />
      )}
      {error && <Fault again={() => void refetch()}>{wordsFor(error)}</Fault>}
      {targets?.length === 0 && !making && (
        <Empty title="No targets yet">Add the system that receives the data: its address and credentials.</Empty>
      )}
      {targets && targets.length > 0 && (
        <ul className="ledger mt-5 border-t border-ink">
          {targets.map(target => (
            <Row key={target.id} target={target} />
          ))}
        </ul>
      )}
    </Sheet>
  );
}

const Row = ({ target }: { target: TargetSummary }) => (
  <li>
    <Link to={`/targets/${target.id}`} className="grid grid-cols-[minmax(0,1fr)_12rem] gap-x-6 py-3 hover:bg-raised">
      <span className="min-w-0">
        <span className="block font-serif text-lead font-semibold">{target.name}</span>
        <span className="block truncate font-mono text-small text-ink-2">{target.baseUrl}</span>
      </span>
      <span className="text-right">
        {target.fault ? (
          <span className="text-crimson">! can’t be read</span>
        ) : (
          <span>{counted(target.operations, target.reads === 'tables' ? 'table' : 'operation')}</span>
        )}
        <span className="block text-small text-ink-2">
          {target.readAt ? (
            <>
              read <Moment at={target.readAt} />
            </>
          ) : (
            'never read'
          )}
        </span>
      </span>
    </Link>
  </li>
);
