import { useState } from 'react';
import { useNavigate } from 'react-router';
import { wordsFor } from '../../app/api';
import { Act, counted, Labelled, Note } from '../../ui';
import { useRemoveRoute } from '../queries';
import type { Workbench } from '../workbench';

const zones = Intl.supportedValuesOf('timeZone');

/** The longest the tries can take in all, in words. Each pause is drawn between nothing and its ceiling. */
function longestSpan(tries: number): string {
  const seconds = Array.from({ length: tries - 1 }, (_, index) => Math.min(1800, 2 ** index)).reduce(
    (sum, each) => sum + each,
    0,
  );
  if (seconds < 120) return counted(seconds, 'second');
  if (seconds < 7200) return counted(Math.round(seconds / 60), 'minute');
  return counted(Math.round(seconds / 3600), 'hour');
}

/** The terms of delivery. */
export function How({ workbench: { editing, route } }: { workbench: Workbench }) {
  const { terms, name } = editing.draft;
  return (
    <div className="grid flex-1 grid-cols-1 lg:grid-cols-[minmax(0,1fr)_268px]">
      <div className="max-w-2xl space-y-5 px-6 pt-5 pb-12">
        <Labelled label="Name of the route">
          {ids => (
            <input
              {...ids}
              className="write font-serif text-lead"
              value={name}
              maxLength={120}
              onChange={event => editing.edit(draft => ({ ...draft, name: event.target.value }))}
            />
          )}
        </Labelled>
        <div className="grid gap-x-6 gap-y-5 sm:grid-cols-2">
          <Labelled label="Tries in all" hint="1 to 20, the first included.">
            {ids => (
              <input
                {...ids}
                className="write"
                type="number"
                min={1}
                max={20}
                value={terms.tries}
                onChange={event => {
                  const tries = Number(event.target.value);
                  if (Number.isInteger(tries) && tries >= 1 && tries <= 20)
                    editing.edit(draft => ({ ...draft, terms: { ...draft.terms, tries } }));
                }}
              />
            )}
          </Labelled>
          <label className="flex items-baseline gap-2 sm:col-span-2">
            <input
              type="checkbox"
              className="accent-oxide"
              checked={terms.needsTrial ?? false}
              onChange={event => {
                const needsTrial = event.target.checked;
                editing.edit(draft => ({ ...draft, terms: { ...draft.terms, needsTrial } }));
              }}
            />
            <span>
              Goes live only after a real try that was read back without loss
              <span className="block text-small text-ink-3">Each edit has to be tried anew.</span>
            </span>
          </label>
          <Labelled label="Time zone of the form’s people" hint="Times without a zone are read in it.">
            {ids => (
              <select
                {...ids}
                className="write"
                value={terms.timeZone}
                onChange={event =>
                  editing.edit(draft => ({ ...draft, terms: { ...draft.terms, timeZone: event.target.value } }))
                }
              >
                {zones.map(zone => (
                  <option key={zone}>{zone}</option>
                ))}
              </select>
            )}
          </Labelled>
        </div>
        <Removal routeId={route.id} isLive={route.state === 'live'} />
      </div>
      <aside aria-label="Margin" className="space-y-4 border-rule bg-sunk px-4 pt-5 pb-12 lg:border-l">
        <Note tone="goes">
          {terms.tries === 1
            ? 'It is tried once.'
            : `It is tried again up to ${counted(terms.tries - 1, 'time')}, with longer and longer pauses: ${longestSpan(terms.tries)} in all at the most, longer if the target asks for it.`}
        </Note>
        <Note tone="fine">
          Tried again after: no answer, 408, 425, 429, 500, 502, 503, 504. Any other refusal is final and becomes a dead
          letter.
        </Note>
        <Note tone="fine">Every try carries the same idempotency key.</Note>
      </aside>
    </div>
  );
}

function Removal({ routeId, isLive }: { routeId: string; isLive: boolean }) {
  const [asking, setAsking] = useState(false);
  const remove = useRemoveRoute(routeId);
  const navigate = useNavigate();
  if (isLive)
    return <p className="border-t border-rule pt-4 text-ink-3">A live route can’t be removed. Pause it first.</p>;
  return (
    <p className="border-t border-rule pt-4">
      {asking ? (
        <>
          {remove.error ? (
            <span role="alert" className="text-crimson">
              ! {wordsFor(remove.error)}{' '}
            </span>
          ) : (
            'Its mapping and the record of its deliveries are removed for good. '
          )}
          <Act onClick={() => remove.mutate(undefined, { onSuccess: () => void navigate('/routes') })}>Remove</Act>{' '}
          <Act onClick={() => setAsking(false)}>Keep it</Act>
        </>
      ) : (
        <Act onClick={() => setAsking(true)}>Remove this route…</Act>
      )}
    </p>
  );
}
