import type { DeliveryPage } from '@grammata/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, keys, wordsFor } from '../../api';
import { SendRecorded } from '../../recorded';
import { Mapping } from '../../routes/mapping/Mapping';
import { Requests } from '../../routes/mapping/views/Requests';
import { Preflight } from '../../routes/page/Preflight';
import { useWorkbench } from '../../routes/workbench';
import { count, counted, DeliveryStateWord, Fault, Press } from '../../ui';

/** The mapping itself, and what is missing in it. */
export function MapStep({ onNext }: { onNext: () => void }) {
  const { run } = useWorkbench('rehearsed');
  const calls = run?.calls.flatMap(each => each ?? []) ?? [];
  const missing = calls.flatMap(each => each.missing).length;
  return (
    <>
      <div className="max-h-[max(20rem,calc(100vh-21rem))] overflow-auto border-t border-rule">
        <Mapping />
      </div>
      <p className="flex flex-wrap items-baseline gap-x-5 border-t border-rule px-6 py-3 max-sm:px-4 md:pl-[180px]">
        <Press onClick={onNext}>Continue to Check</Press>
        <span role="status" className={missing > 0 ? 'text-crimson' : 'text-verdigris'}>
          {run === null
            ? 'Rehearsing…'
            : missing > 0
              ? `! ${counted(missing, 'required field')} missing`
              : '✓ All required fields have a source.'}
        </span>
      </p>
    </>
  );
}

/** All requests of the sample at hand, and how many can be sent. */
export function Check({ onNext }: { onNext: () => void }) {
  const { stock } = useWorkbench('rehearsed');
  const { fares } = stock;
  const can = fares?.sendable ?? 0;
  return (
    <>
      <div className="max-h-[max(20rem,calc(100vh-21rem))] overflow-auto border-t border-rule">
        <Requests />
      </div>
      <p className="flex flex-wrap items-baseline gap-x-5 border-t border-rule px-6 py-3 max-sm:px-4 md:pl-[180px]">
        <Press onClick={onNext}>Continue to Go live</Press>
        {fares && (
          <span role="status" className={can < fares.going ? 'text-crimson' : 'text-verdigris'}>
            {can < fares.going
              ? `! ${count(fares.going - can)} of ${counted(fares.going, 'submission')} can’t be sent`
              : `✓ ${can === 1 ? 'The submission' : `All ${count(can)} submissions`} can be sent.`}
          </span>
        )}
      </p>
    </>
  );
}

/** The checks before going live; then the first delivery. */
export function GoLive({ onBack, onLeave }: { onBack: () => void; onLeave: () => void }) {
  const { route } = useWorkbench('route');
  const [sends, setSends] = useState(false);
  const { data: page, error } = useQuery({
    queryKey: keys.deliveries.newestOf(route.id),
    queryFn: () => api<DeliveryPage>(`/deliveries?${new URLSearchParams({ route: route.id, limit: '1' })}`),
    enabled: route.state === 'live',
  });
  const [newest] = page?.deliveries ?? [];
  const isDelivered = (page?.counts.delivered ?? 0) > 0;
  if (route.state !== 'live')
    return (
      <div className="px-6 pb-4 max-sm:px-4 md:pl-[180px]">
        <Preflight onClose={onBack} onLive={() => undefined} />
      </div>
    );
  return (
    <div className="px-6 pb-4 max-sm:px-4 md:pl-[180px]">
      {error && <Fault>{wordsFor(error)}</Fault>}
      <p role="status" className="flex flex-wrap items-baseline gap-x-4 py-1">
        {newest ? (
          <>
            <b className="font-semibold">{newest.about}</b> <DeliveryStateWord state={newest.state} />
            <Link className="act quiet" to={`/deliveries/${newest.id}`}>
              Open delivery
            </Link>
          </>
        ) : (
          <span className="font-serif">Live. Send a new submission, or the earlier ones.</span>
        )}
      </p>
      <p className="mt-2 flex flex-wrap items-baseline gap-x-5">
        {isDelivered && <Press onClick={onLeave}>Finish</Press>}
        {!sends && (
          <Press quiet={isDelivered} onClick={() => setSends(true)}>
            Send past submissions…
          </Press>
        )}
      </p>
      {sends && <SendRecorded route={route} selection={{}} onClose={() => setSends(false)} />}
    </div>
  );
}
