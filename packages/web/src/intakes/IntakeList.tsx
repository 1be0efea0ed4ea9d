import { useIntakes } from '../lists';
import type { IntakeView } from '@grammata/contract';
import { Link, useNavigate } from 'react-router';
import { useParam } from '../address';
import { wordsFor } from '../api';
import { useKeys } from '../app/keys';
import { count, counted, Empty, Fault, Moment, Note, Press, Sheet } from '../ui';
import { NewIntake } from './NewIntake';
import { Strays } from './Strays';

export function IntakeList() {
  const { data: intakes, error, refetch } = useIntakes();
  const [asked, ask] = useParam('new');
  const navigate = useNavigate();
  const making = asked !== null;
  const make = (is: boolean) => ask(is ? '' : null);
  useKeys([{ key: 'n', does: 'new intake', run: () => make(true) }]);
  const margin = (
    <>
      <Strays />
      <Note tone="goes">
        An intake is an address that form builders send submissions to. It can receive several forms.
      </Note>
    </>
  );
  return (
    <Sheet title="Intakes" aside={margin} actions={!making && <Press onClick={() => make(true)}>New intake</Press>}>
      {making && (
        <NewIntake
          onMade={id => navigate(`/intakes/${id}`)}
          onCancel={() => make(false)}
          className="mt-5 space-y-4 border-y border-ink bg-raised px-4 py-4"
        />
      )}
      {error && <Fault again={() => void refetch()}>{wordsFor(error)}</Fault>}
      {intakes?.length === 0 && !making && (
        <Empty title="No intakes yet">
          Create an intake, paste its address into the form builder, and send a test submission.
        </Empty>
      )}
      {intakes && intakes.length > 0 && (
        <ul className="ledger mt-5 border-t border-ink">
          {intakes.map(intake => (
            <Row key={intake.id} intake={intake} />
          ))}
        </ul>
      )}
    </Sheet>
  );
}

function Row({ intake }: { intake: IntakeView }) {
  return (
    <li>
      <Link
        to={`/intakes/${intake.id}`}
        className="grid grid-cols-[minmax(0,1fr)_auto] gap-x-6 py-3 hover:bg-raised md:grid-cols-[minmax(0,1fr)_9rem_9rem]"
      >
        <span className="min-w-0">
          <span className="block font-serif text-lead font-semibold">{intake.name}</span>
          <span className="block truncate font-mono text-small text-ink-2">{intake.address}</span>
        </span>
        <span className="max-md:hidden">
          <span className="block">{counted(intake.arrivals, 'arrival')}</span>
          <span className="block text-small text-ink-2">
            {intake.lastArrivalAt ? (
              <>
                last <Moment at={intake.lastArrivalAt} />
              </>
            ) : (
              'no messages'
            )}
          </span>
        </span>
        <span className="text-right">
          <span className={intake.state === 'open' ? 'text-verdigris' : 'text-ochre'}>
            <span
              aria-hidden
              className={`mr-1.5 inline-block size-[7px] ${intake.state === 'open' ? 'rounded-full bg-verdigris' : 'bg-ochre'}`}
            />
            {intake.state === 'open' ? 'listening' : 'stopped'}
          </span>
          <span className="block text-small text-ink-2">
            {intake.forms.length === 1 ? intake.forms[0]!.name : `${count(intake.forms.length)} forms`}
          </span>
        </span>
      </Link>
    </li>
  );
}
