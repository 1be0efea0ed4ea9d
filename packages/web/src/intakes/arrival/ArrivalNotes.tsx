import type { ArrivalView, IntakeView } from '@grammata/contract';
import { pinsFor, type FoundEnvelope } from '@grammata/core/decode';
import { useState } from 'react';
import { Link } from 'react-router';
import { wordsFor } from '../../api';
import { SendThrough } from '../../recorded';
import { Act, alike, count, counted, deliveryWords, Note } from '../../ui';
import { useReadAgain } from '../queries';
import type { Pinning } from '../pinning';
import { useChangeForm } from '../../forms/queries';

/** What the margin says about an arrival: how it was read, what was not, and where it goes. */
export function ArrivalNotes({
  intake,
  arrival,
  pinning,
}: {
  intake: IntakeView;
  arrival: ArrivalView | null;
  pinning: Pinning;
}) {
  // None is shown while the newest is loading, too.
  if (!arrival)
    return intake.lastArrivalAt ? null : (
      <Note tone="look">Send a test submission to start. It shows here as soon as it arrives.</Note>
    );
  return (
    <>
      {arrival.state === 'refused' && (
        <Note tone="trouble">
          {arrival.trouble}{' '}
          {arrival.cut
            ? 'Raise the limit under Change, then have it sent again.'
            : 'It was stored but not read. Correct the settings on one side, then have it sent again.'}
        </Note>
      )}
      {arrival.state !== 'refused' && arrival.checked && <Note tone="fine">{arrival.checked}</Note>}
      {arrival.submissions > arrival.decoded.length && (
        <Note tone="goes">
          {counted(arrival.submissions, 'submission')} were read; the first {arrival.decoded.length} are shown.
        </Note>
      )}
      {arrival.state !== 'refused' && <HowItWasRead arrival={arrival} pinning={pinning} />}
      {arrival.before && arrival.envelope && <BuiltOtherwise before={arrival.before} now={arrival.envelope} />}
      {alike(arrival.notes, note => note.message).map(([note, times]) => (
        <Note key={note.code + note.message} tone={arrival.state === 'unread' ? 'trouble' : 'look'}>
          {note.message}
          {times > 1 && ` (${count(times)} times)`}
        </Note>
      ))}
      {arrival.state === 'unread' && <SetAside arrival={arrival} />}
      {arrival.repeats && (
        <Note tone="look">Duplicate: same submission ID and answers as before. It is not delivered again.</Note>
      )}
      {arrival.shared && (
        <Note tone="trouble">
          <b>{arrival.shared.id}</b> should be a unique submission ID, but{' '}
          {arrival.shared.submissions === 1
            ? 'another submission with different answers has the same one. Both are delivered.'
            : `${count(arrival.shared.submissions)} others with different answers have the same one. All are delivered.`}{' '}
          <Act
            onClick={() => {
              pinning.open();
              pinning.choose('id');
            }}
          >
            Choose the submission ID
          </Act>
        </Note>
      )}
      <NewForms intake={intake} />
      <Forms forms={intake.forms.filter(form => form.state === 'adopted')} of={arrival.formId} />
      {alike(arrival.deliveries, each => `${each.routeName}\n${each.state}`).map(([delivery, times]) => (
        <Note key={delivery.id} tone={delivery.state === 'dead' || delivery.state === 'held' ? 'trouble' : 'goes'}>
          {times === 1 ? 'Sent to' : `${count(times)} sent to`} <b>{delivery.routeName}</b>,{' '}
          {deliveryWords[delivery.state]}.{' '}
          <Link
            className="act"
            to={
              times === 1
                ? `/deliveries/${delivery.id}`
                : `/deliveries?${new URLSearchParams({ arrival: arrival.id, route: delivery.routeId, state: delivery.state })}`
            }
          >
            {times === 1 ? 'Open delivery' : 'Open deliveries'}
          </Link>
        </Note>
      ))}
      {arrival.formId && arrival.deliveries.length === 0 && (
        <SendThrough
          formId={arrival.formId}
          what={arrival.submissions === 1 ? 'it' : `these ${count(arrival.submissions)}`}
          arrivalId={arrival.id}
          lead="Nothing was delivered."
          otherwise={
            <Note tone="goes">
              No live route uses this form.{' '}
              <Link className="act" to={`/routes?new&form=${arrival.formId}`}>
                Create a route
              </Link>
            </Note>
          }
        />
      )}
    </>
  );
}

/** The first message that is built otherwise than those before it. */
function BuiltOtherwise({ before, now }: { before: NonNullable<ArrivalView['before']>; now: FoundEnvelope }) {
  const place = ({ answersAt, splitAt }: typeof before) =>
    splitAt === null ? `at ${answersAt || 'the top'}` : `in each item of ${splitAt || 'the list'}`;
  const isMoved = place(before) !== place(now);
  return (
    <Note tone="look">
      The structure changed:{' '}
      {isMoved
        ? `answers are now ${place(now)}, before ${place(before)}.`
        : 'answers are now written in another way in the same place.'}{' '}
      Check that they were read correctly.
    </Note>
  );
}

/** How it was read, and how else it could be: a reading that is not sure asks to be looked at. */
function HowItWasRead({ arrival: { envelope, runnersUp }, pinning }: { arrival: ArrivalView; pinning: Pinning }) {
  const [why, setWhy] = useState(false);
  if (!envelope) return null;
  const [next] = runnersUp;
  const reason = why ? envelope.why : <Act onClick={() => setWhy(true)}>Why?</Act>;
  if (envelope.isSure)
    return (
      <Note tone="fine">
        Read as: <b>{envelope.label}</b>. {reason}
      </Note>
    );
  return (
    <Note tone="look">
      Check this: it was read as <b>{envelope.label}</b>, which may be wrong. {reason}{' '}
      {next && (
        <>
          Alternative: {next.label}. <Act onClick={() => pinning.set(pinsFor(next))}>Try it</Act> or{' '}
        </>
      )}
      <Act onClick={pinning.open}>{next ? 'point' : 'Point'} at the answers</Act>. If it is right,{' '}
      <Act onClick={() => pinning.confirm.mutate(envelope)} disabled={pinning.confirm.isPending}>
        keep this reading
      </Act>
      .{pinning.confirm.error && <span role="alert"> {wordsFor(pinning.confirm.error)}</span>}
    </Note>
  );
}

/** Forms that a new one is offered to be the same as; any is on its page. */
const MOST_OFFERED = 2;

/** Forms that nobody has said what to do with, and those that are ignored. */
function NewForms({ intake: { forms } }: { intake: IntakeView }) {
  const change = useChangeForm();
  const ignored = forms.filter(form => form.state === 'ignored');
  return (
    <>
      {forms
        .filter(form => form.state === 'new')
        .map(form => (
          <Note key={form.id} tone="look">
            New form:{' '}
            <Link className="act" to={`/forms/${form.id}`}>
              {form.name}
            </Link>
            , {counted(form.submissions, 'submission')}.{' '}
            <Act onClick={() => change.mutate({ id: form.id, state: 'adopted' })}>Use form</Act> or{' '}
            <Act onClick={() => change.mutate({ id: form.id, state: 'ignored' })}>ignore it</Act>
            {forms
              .filter(other => other.state === 'adopted')
              .slice(0, MOST_OFFERED)
              .map(other => (
                <span key={other.id}>
                  , or{' '}
                  <Act onClick={() => change.mutate({ id: form.id, sameAs: other.id })}>merge with {other.name}</Act>
                </span>
              ))}
          </Note>
        ))}
      {ignored.length > 0 && (
        <Note tone="goes">
          Ignored here:{' '}
          {ignored.map((form, index) => (
            <span key={form.id}>
              {index > 0 && ', '}
              {form.name} <Act onClick={() => change.mutate({ id: form.id, state: 'adopted' })}>use form</Act>
            </span>
          ))}
          .
        </Note>
      )}
      {change.error && <Note tone="trouble">{wordsFor(change.error)}</Note>}
    </>
  );
}

/** @param of the form of the message that is shown: one that is new is told of elsewhere */
function Forms({ forms, of }: { forms: IntakeView['forms']; of: string | null }) {
  if (forms.length === 0) return null;
  if (forms.length === 1)
    return of !== null && of !== forms[0]!.id ? null : (
      <Note tone="fine">
        Form:{' '}
        <Link className="act" to={`/forms/${forms[0]!.id}`}>
          {forms[0]!.name}
        </Link>
        , {counted(forms[0]!.submissions, 'submission')} so far.
      </Note>
    );
  return (
    <Note tone="fine">
      {forms.length} forms use this address:{' '}
      {forms.map((form, index) => (
        <span key={form.id}>
          {index > 0 && ', '}
          <Link className="act" to={`/forms/${form.id}`}>
            {form.name}
          </Link>{' '}
          ({count(form.submissions)})
        </span>
      ))}
      .
    </Note>
  );
}

/** Why nothing was read from a message, and reading it once more: it is not done by itself. */
function SetAside({ arrival }: { arrival: ArrivalView }) {
  const again = useReadAgain(arrival);
  return (
    <Note tone="trouble">
      {arrival.notes.length === 0 && arrival.trouble} It is stored unread.{' '}
      <Act onClick={() => again.mutate()}>{again.isPending ? 'Reading…' : 'Read again'}</Act>
      {again.error && <span role="alert"> {wordsFor(again.error)}</span>}
    </Note>
  );
}
