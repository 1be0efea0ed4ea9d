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
const isHours = (hours: number | null): boolean => hours !== null && hours >= 0 && hours <= 720;
const isHoldHours = (hours: number | null): boolean => hours === null || (hours >= 1 && hours <= 2160);

interface HoursBoxProps {
  label: string;
  hint: string;
  /** What is said where hours can’t be taken. */
  wrong: string;
  isTaken: (hours: number | null) => boolean;
  value: number | null;
  onChange: (hours: number | null) => void;
}

/** Hours: what is written stays until it can be taken. */
function HoursBox({ label, hint, wrong, isTaken, value, onChange }: HoursBoxProps) {
  const [hours, setHours] = useState(value);
  const [stored, setStored] = useState(value);
  if (stored !== value) {
    // Undone, or edited elsewhere.
    setStored(value);
    setHours(value);
  }
  return (
    <NumberBox
      label={label}
      hint={hint}
      whenEmpty="null"
      error={isTaken(hours) ? null : wrong}
      value={hours}
      onChange={next => {
        setHours(next);
        if (!isTaken(next)) return;
        setStored(next);
        onChange(next);
      }}
    />
  );
}

/** The width of the picture of tries; strokes are drawn half of its units apart at the least. */
const WIDTH = 236;

/** The terms of delivery. */
export function Delivery() {
  const { editing, route } = useWorkbench('route', 'editing');
  const { terms, name } = editing.draft;
  const setTerms = (part: Partial<Terms>) => editing.edit(draft => ({ ...draft, terms: { ...draft.terms, ...part } }));
  return (
    <div className="grid flex-1 grid-cols-1 lg:grid-cols-[minmax(0,1fr)_268px]">
      <div className="max-w-2xl min-w-0 space-y-5 px-6 pt-5 pb-12 max-sm:px-4">
        <TextBox
          label="Route name"
          look="lead"
          value={name}
          maxLength={120}
          error={name.trim() === '' ? 'Enter a name.' : null}
          onChange={next => editing.edit(draft => ({ ...draft, name: next }))}
        />
        <div className="grid gap-x-6 gap-y-5 sm:grid-cols-2">
          <HoursBox
            label="Retry for, hours"
            hint="0 to 720; 0 for no retries."
            wrong="Enter hours from 0 to 720."
            isTaken={isHours}
            value={terms.hours}
            onChange={hours => setTerms({ hours: hours! })}
          />
          <Tick
            className="sm:col-span-2"
            label="Require a successful test"
            hint="Publishing needs a real test of the draft whose values were read back unchanged."
            checked={terms.needsTrial ?? false}
            onChange={needsTrial => setTerms({ needsTrial })}
          />
          <Choice<NonNullable<Terms['whenChanged']>>
            label="While a form change is open"
            hint="Until the change is resolved or dismissed. Each change also lets you decide."
            value={terms.whenChanged ?? 'holdLost'}
            options={{
              holdLost: 'hold, if a used answer is missing',
              holdTouched: 'hold, if this route uses what changed',
              holdAll: 'hold all',
              deliver: 'deliver',
            }}
            onChange={whenChanged => setTerms({ whenChanged })}
          />
          <HoursBox
            label="Hold for at most, hours"
            hint="1 to 2160. After that they are delivered as they are. Blank for no limit."
            wrong="Enter hours from 1 to 2160, or leave it blank."
            isTaken={isHoldHours}
            value={terms.holdHours ?? null}
            onChange={holdHours => setTerms({ holdHours: holdHours ?? undefined })}
          />
          <Combobox
            label="Time zone of the form"
            hint="For times without a zone."
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
            ? 'Each request is sent once.'
            : `A request that fails for a temporary reason is retried for ${span(terms.hours)}: after about a second, then after twice as long each time, up to half an hour. That is about ${counted(triesWithin(terms.hours * HOUR).length, 'attempt')}, fewer if the target asks for longer pauses.`}
        </Note>
        {terms.hours > 0 && <TriesInTime hours={terms.hours} />}
        <Note tone="fine">Retries of deliveries that failed together are spread out.</Note>
        <Note tone="fine">
          Retried after no response, and after {usualRetries.join(', ')} unless the call settings say otherwise. Any
          other error is final: the delivery fails.
        </Note>
        <Note tone="fine">All attempts of a request carry the same idempotency key.</Note>
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
        aria-label={`About ${counted(times.length, 'attempt')} within ${span(hours)}, close together at first`}
      >
        <line x1="0" y1="16" x2={WIDTH} y2="16" stroke="var(--rule)" />
        {strokes.map(at => (
          <line key={at} x1={0.5 + at} x2={0.5 + at} y1="5" y2="16" stroke="var(--ink-2)" strokeWidth="0.8" />
        ))}
      </svg>
      <figcaption className="flex justify-between text-small text-ink-3">
        <span>first failure</span>
        <span>failed, {span(hours)} later</span>
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
        isStored =>
          isStored && copy.mutate(undefined, { onSuccess: made => void navigate(`/routes/${made.id}/delivery`) }),
      );
  return (
    <p className="border-t border-rule pt-4">
      <Act onClick={start} disabled={copy.isPending}>
        Duplicate route
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
  if (isLive) return <p className="border-t border-rule pt-4 text-ink-3">Pause the route before removing it.</p>;
  return (
    <p className="border-t border-rule pt-4">
      <Confirm
        ask="Remove route…"
        deed="Remove"
        onDo={() => afterwards(remove.mutateAsync(undefined), () => void navigate('/routes'))}
        isBusy={remove.isPending}
        fault={remove.error && wordsFor(remove.error)}
      >
        Its mapping and its list of deliveries are removed permanently.
      </Confirm>
    </p>
  );
}
