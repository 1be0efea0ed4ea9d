import { Navigate, useParams } from 'react-router';
import { wordsFor } from '../../api';
import { Fault, Sheet } from '../../ui';
import { useArrival } from '../queries';

/** `/arrivals/:id`: goes to the arrival where it stands, on its intake's page. */
export function ArrivalRedirect() {
  const { id = '' } = useParams();
  const arrival = useArrival(id);
  if (arrival.error)
    return (
      <Sheet title="Arrival">
        <Fault>{wordsFor(arrival.error)}</Fault>
      </Sheet>
    );
  return arrival.data ? <Navigate replace to={`/intakes/${arrival.data.intakeId}?arrival=${id}`} /> : null;
}
