import { triesWithin } from '@grammata/core/perform';
import { usualRetries, type Terms } from '@grammata/core/route';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { afterwards, wordsFor } from '../../api';
import { Act, Choice, Confirm, Combobox, counted, Note, NumberBox, span, TextBox, Tick, Margin } from '../../ui';
import { useCopyRoute, useRemoveRoute } from '../queries';
import type { Editing } from '../draft';
import { useWorkbench } from '../workbench';
import { HangsOn } from './Rehome';

const HOUR = 3_600_000;
const zones = [...new Set(['UTC', ...Intl.supportedValuesOf('timeZone')])].map(zone => ({
  value: zone,
  label: zone.replaceAll('_', ' '),
  words: zone,
}));
const isHours = (hours: number | null): hours is number => hours !== null && hours >= 0 && hours <= 720;

/** The width of the picture of tries; strokes are drawn half of its units apart at the least. */
const WIDTH = 236;

/** The terms of delivery. */
export function How() {
  const { editing, route } = useWorkbench('route', 'editing');
  const { terms, name } = editing.draft;
  // What is written, until it can be taken.
  const [hours, setHours] = useState<number | null>(terms.hours);
  const [stored, setStored] = useState(terms.hours);
  if (stored !== terms.hours) {
    // Undone, or edited elsewhere.
    setStored(terms.hours);
    setHours(terms.hours);
  }
  const setTerms = (part: Partial<Terms>) => editing.edit(draft => ({ ...draft, terms: { ...draft.terms, ...part } }));
  return (
    <div className="grid flex-1 grid-cols-1 lg:grid-cols-[minmax(0,1fr)_268px]">
      <div className="max-w-2xl min-w-0 space-y-5 px-6 pt-5 pb-12 max-sm:px-4">
        <TextBox
          label="Name of the route"
          look="lead"
          value={name}
          maxLength={120}
          error={name.trim() === '' ? 'Give it a name, so that it can be found again.' : null}
          onChange={next => editing.edit(draft => ({ ...draft, name: next }))}
        />
        <div className="grid gap-x-6 gap-y-5 sm:grid-cols-2">
          <NumberBox
            label="Keep trying for, in hours"
            hint="0 to 720; 0 tries once. A day outlasts a night without anybody there."
            error={isHours(hours) ? null : 'Give hours from 0 to 720.'}
            value={hours}
            onChange={next => {
              setHours(next);
              if (isHours(next)) setTerms({ hours: next });
            }}
          />
          <Tick
            className="sm:col-span-2"
            label="Goes live only after a real try that was read back without loss"
            hint="Each edit has to be tried anew."
            checked={terms.needsTrial ?? false}
            onChange={needsTrial => setTerms({ needsTrial })}
          />
          <Choice<NonNullable<Terms['whenChanged']>>
            label="While a change of the form is open"
            hint="Until what is live is mended, or somebody said that there is nothing to do. What was held is then sent again under Deliveries."
            value={terms.whenChanged ?? 'deliver'}
            options={{
              deliver: 'deliver anyway',
              holdTouched: 'hold it, if the change touches what this route uses',
              holdAll: 'hold all of it',
            }}
            onChange={whenChanged => setTerms({ whenChanged })}
          />
          <Combobox
            label="Time zone of the form’s people"
            hint="Times without a zone are read in it."
            options={zones}
            value={terms.timeZone}
            onPick={timeZone => setTerms({ timeZone })}
          />
        </div>
        <HangsOn />
        <Copying editing={editing} routeId={route.id} />
        <Removal routeId={route.id} isLive={route.state === 'live'} />
      </div>
      <Margin>
        <Note tone="goes">
          {terms.hours === 0
            ? 'Each call is tried once.'
            : `A call that fails in passing is tried again for ${span(terms.hours)}: after about a second, then after twice as long each time, up to half an hour. That is about ${counted(triesWithin(terms.hours * HOUR).length, 'try', 'tries')}; fewer if the target asks for longer pauses.`}
        </Note>
        {terms.hours > 0 && <TriesInTime hours={terms.hours} />}
        <Note tone="fine">Those that failed together come back spread out, each at a moment of its own.</Note>
        <Note tone="fine">
          Tried again after no answer, and after {usualRetries.join(', ')}, unless a call says otherwise (under What,
          how the call is made). Any other refusal is final and becomes a dead letter.
        </Note>
        <Note tone="fine">Every try of the same request carries the same idempotency key.</Note>
      </Margin>
    </div>
  );
}

/** When the tries are made, as strokes along the time that they take. */
function TriesInTime({ hours }: { hours: number }) {
  const times = triesWithin(hours * HOUR);
  const strokes = [...new Set(times.map(at => Math.round((2 * (WIDTH - 1) * at) / (hours * HOUR)) / 2))];
  return (
    <figure>
      <svg
        viewBox={`0 0 ${WIDTH} 20`}
        className="w-full"
        role="img"
        aria-label={`About ${counted(times.length, 'try', 'tries')} within ${span(hours)}, close together at first`}
      >
        <line x1="0" y1="16" x2={WIDTH} y2="16" stroke="var(--rule)" />
        {strokes.map(at => (
          <line key={at} x1={0.5 + at} x2={0.5 + at} y1="5" y2="16" stroke="var(--ink-2)" strokeWidth="0.8" />
        ))}
      </svg>
      <figcaption className="flex justify-between text-small text-ink-3">
        <span>first failure</span>
        <span>given up, {span(hours)} later</span>
      </figcaption>
    </figure>
  );
}

/** A route of its own that does the same, to be changed without touching this one. */
function Copying({ editing, routeId }: { editing: Editing; routeId: string }) {
  const copy = useCopyRoute(routeId);
  const navigate = useNavigate();
  const start = () =>
    void editing
      .flush()
      .then(
        isStored => isStored && copy.mutate(undefined, { onSuccess: made => void navigate(`/routes/${made.id}/how`) }),
      );
  return (
    <p className="border-t border-rule pt-4">
      <Act onClick={start} disabled={copy.isPending}>
        Draw another route like this
      </Act>
      {copy.error && (
        <span role="alert" className="text-crimson">
          {' '}
          ! {wordsFor(copy.error)}
        </span>
      )}
    </p>
  );
}

function Removal({ routeId, isLive }: { routeId: string; isLive: boolean }) {
  const remove = useRemoveRoute(routeId);
  const navigate = useNavigate();
  if (isLive)
    return <p className="border-t border-rule pt-4 text-ink-3">A live route can’t be removed. Pause it first.</p>;
  return (
    <p className="border-t border-rule pt-4">
      <Confirm
        ask="Remove this route…"
        deed="Remove"
        onDo={() => afterwards(remove.mutateAsync(undefined), () => void navigate('/routes'))}
        isBusy={remove.isPending}
        fault={remove.error && wordsFor(remove.error)}
      >
        Its mapping and the record of its deliveries are removed for good.
      </Confirm>
    </p>
  );
}
