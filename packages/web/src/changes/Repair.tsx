import type { RepairView } from '@grammata/contract';
import { differencesOf } from '@grammata/core/route';
import { referenceLabel, referenceOf } from '@grammata/core/scope';
import { useEffect, useMemo } from 'react';
import { Link } from 'react-router';
import { wordsFor } from '../api';
import { differenceWords } from '../routes/differences/words';
import { count, Fault, Note, Press, Sides } from '../ui';
import { useRepair, useTakeRepair } from './queries';

/** A repair of one route: what would be otherwise in its mapping, and how it fares on what was recorded and approved. */
export function Repair({ changeId, routeId, onDone }: { changeId: string; routeId: string; onDone: () => void }) {
  const { mutate, data, error, isPending } = useRepair(changeId);
  useEffect(() => mutate(routeId), [mutate, routeId]);
  if (error) return <Fault again={() => mutate(routeId)}>{wordsFor(error)}</Fault>;
  if (data === undefined || isPending)
    return (
      <p role="status" className="mt-2 font-serif text-ink-2">
        Trying it on what is recorded…
      </p>
    );
  const { repair, isDrafted } = data;
  if (repair) return <Shown changeId={changeId} routeId={routeId} repair={repair} onDone={onDone} />;
  return (
    <p role="status" className="mt-2 border-l-2 border-ochre pl-3 font-serif text-ink-2">
      {isDrafted ? (
        <>
          It is in the draft.{' '}
          <Link className="act" to={`/routes/${routeId}/what`}>
            Look at it, and make it live
          </Link>
          : that settles the change.
        </>
      ) : (
        <>
          Nothing mends this by itself.{' '}
          <Link className="act" to={`/routes/${routeId}/what`}>
            Look at the lines
          </Link>{' '}
          and decide what is to be done.
        </>
      )}
    </p>
  );
}

function Shown({
  changeId,
  routeId,
  repair,
  onDone,
}: {
  changeId: string;
  routeId: string;
  repair: RepairView;
  onDone: () => void;
}) {
  const take = useTakeRepair(changeId);
  const { words, labels, definition, draft, mark, samples, proofs } = repair;
  const told = useMemo(() => {
    const known = new Map(Object.entries(labels));
    const labelOf = (key: string) => known.get(key) ?? referenceLabel(referenceOf(key)) ?? key;
    return differencesOf(draft, definition).map(each =>
      differenceWords(each, { labelOf, callOf: call => call.name || 'a call' }),
    );
  }, [labels, draft, definition]);
  const helps = samples.heldThen < samples.held || proofs.differingThen < proofs.differing;
  return (
    <section aria-label="A repair" className="mt-3 border-y border-ink bg-raised px-4 py-3">
      <ul className="font-serif">
        {words.map(each => (
          <li key={each}>{each}</li>
        ))}
      </ul>
      <div className="mt-2">
        <Sides heads={['Where', 'Now', 'Repaired']} rows={told} />
      </div>
      <div className="mt-2 space-y-1" role="status">
        {samples.looked === 0 ? (
          <Note tone="look">Nothing is recorded to try it on.</Note>
        ) : (
          <Note tone={samples.heldThen === 0 ? 'fine' : helps ? 'look' : 'trouble'}>
            {samples.heldThen === 0
              ? `All ${count(samples.looked)} newest submissions can be sent`
              : `${count(samples.heldThen)} of the ${count(samples.looked)} newest can’t be sent`}
            {samples.held > samples.heldThen && `; as it stands, ${count(samples.held)} can’t`}.
          </Note>
        )}
        {proofs.total > 0 && (
          <Note tone={proofs.differingThen === 0 ? 'fine' : 'look'}>
            {proofs.differingThen === 0
              ? proofs.total === 1
                ? 'The proof holds.'
                : `All ${count(proofs.total)} proofs hold.`
              : `${count(proofs.differingThen)} of ${count(proofs.total)} proofs differ${proofs.differing === proofs.differingThen ? ', as they do now' : `; as it stands, ${count(proofs.differing)} do`}.`}
          </Note>
        )}
      </div>
      {take.error && <Fault>{wordsFor(take.error)}</Fault>}
      <div className="mt-3 flex items-baseline gap-4">
        {take.isSuccess ? (
          <p role="status" className="font-serif">
            It is in the draft.{' '}
            <Link className="act" to={`/routes/${routeId}/what`}>
              Look at it, and make it live
            </Link>
            : that settles the change.
          </p>
        ) : (
          <>
            <Press onClick={() => take.mutate({ routeId, mark })} disabled={take.isPending}>
              {take.isPending ? 'Taking it…' : 'Take it into the draft'}
            </Press>
            <Press quiet onClick={onDone}>
              Not now
            </Press>
          </>
        )}
      </div>
    </section>
  );
}
