import type { IntakeView } from '@grammata/contract';
import { useState, type FormEvent } from 'react';
import { useNavigate } from 'react-router';
import { ApiFault, wordsFor } from '../app/api';
import { Act, counted, Fault, Labelled, Press } from '../ui';
import { useChangeIntake, useRemoveIntake } from './queries';

const replies: Record<IntakeView['reply'], string> = {
  accepted: 'JSON with the arrival’s id, 202',
  ok: 'JSON with the arrival’s id, 200',
  page: 'a thank-you page',
  redirect: 'a redirect (303)',
};

/** The intake's name, limit and reply; and its removal. */
export function Settings({ intake, onDone }: { intake: IntakeView; onDone: () => void }) {
  const [name, setName] = useState(intake.name);
  const [megabytes, setMegabytes] = useState(String(intake.sizeLimit / 1e6));
  const [reply, setReply] = useState(intake.reply);
  const [replyText, setReplyText] = useState(intake.replyText);
  const change = useChangeIntake(intake.id);
  const errors = change.error instanceof ApiFault ? (change.error.problem.errors ?? []) : [];
  const errorOf = (field: string) => errors.find(each => each.field === field)?.message ?? null;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    change.mutate({ name, sizeLimit: Math.round(Number(megabytes) * 1e6), reply, replyText }, { onSuccess: onDone });
  };
  return (
    <form onSubmit={submit} aria-label="Settings" className="mb-4 space-y-4 border-y border-ink bg-raised px-4 py-4">
      <div className="grid gap-x-6 gap-y-4 sm:grid-cols-[1fr_9rem_16rem]">
        <Labelled label="Name" error={errorOf('name')}>
          {ids => <input {...ids} className="write" value={name} onChange={event => setName(event.target.value)} />}
        </Labelled>
        <Labelled label="Largest body, MB" error={errorOf('sizeLimit') && 'Between 0.002 and 104.'}>
          {ids => (
            <input
              {...ids}
              className="write"
              inputMode="decimal"
              value={megabytes}
              onChange={event => setMegabytes(event.target.value)}
            />
          )}
        </Labelled>
        <Labelled label="Senders get" error={errorOf('reply')}>
          {ids => (
            <select
              {...ids}
              className="write"
              value={reply}
              onChange={event => setReply(event.target.value as IntakeView['reply'])}
            >
              {Object.entries(replies).map(([key, words]) => (
                <option key={key} value={key}>
                  {words}
                </option>
              ))}
            </select>
          )}
        </Labelled>
      </div>
      {(reply === 'page' || reply === 'redirect') && (
        <Labelled label={reply === 'page' ? 'What the page says' : 'Where to'} error={errorOf('replyText')}>
          {ids => (
            <input
              {...ids}
              className="write"
              value={replyText}
              onChange={event => setReplyText(event.target.value)}
              placeholder={reply === 'page' ? 'Your answers have been received.' : 'https://…'}
            />
          )}
        </Labelled>
      )}
      {change.error && errors.length === 0 && <Fault>{wordsFor(change.error)}</Fault>}
      <div className="flex items-baseline gap-4">
        <button className="press" disabled={change.isPending}>
          Save
        </button>
        <Press quiet onClick={onDone}>
          Cancel
        </Press>
        <span className="flex-1" />
        <Removal intake={intake} />
      </div>
    </form>
  );
}

/** Removing can't be undone: it asks first, and says what goes with it. */
function Removal({ intake }: { intake: IntakeView }) {
  const [asking, setAsking] = useState(false);
  const remove = useRemoveIntake(intake.id);
  const navigate = useNavigate();
  if (!asking) return <Act onClick={() => setAsking(true)}>Remove this intake…</Act>;
  return (
    <span className="text-right">
      {remove.error && (
        <span role="alert" className="mr-3 text-crimson">
          ! {wordsFor(remove.error)}
        </span>
      )}
      This removes {counted(intake.arrivals, 'arrival')} for good.{' '}
      <Act onClick={() => remove.mutate(undefined, { onSuccess: () => void navigate('/intakes') })}>Remove</Act>{' '}
      <Act onClick={() => setAsking(false)}>Keep it</Act>
    </span>
  );
}
