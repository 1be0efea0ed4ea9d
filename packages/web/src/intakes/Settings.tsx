import type { IntakeView, VerificationInput } from '@grammata/contract';
import { useState, type FormEvent } from 'react';
import { useNavigate } from 'react-router';
import { ApiFault, wordsFor } from '../app/api';
import { Act, counted, Fault, Labelled, Press } from '../ui';
import { FileAccess, fileAccessOf } from './FileAccess';
import { useChangeIntake, useRemoveIntake } from './queries';
import { ruleOf, Verification, type Rule } from './Verification';

const replies: Record<IntakeView['reply'], string> = {
  accepted: 'JSON with the arrival’s id, 202',
  ok: 'JSON with the arrival’s id, 200',
  page: 'a thank-you page',
  redirect: 'a redirect (303)',
};

/** The rule with the secrets that were typed; without any, the stored ones stay. */
function stored({ typed, ...rule }: Rule): VerificationInput {
  const secrets = typed.filter(Boolean);
  return secrets.length > 0 ? { ...rule, secrets } : rule;
}

const listed = (text: string): string[] =>
  text
    .split(',')
    .map(each => each.trim())
    .filter(Boolean);

/** The intake's name, limit, reply and who may send to it; and its removal. */
export function Settings({ intake, onDone }: { intake: IntakeView; onDone: () => void }) {
  const [name, setName] = useState(intake.name);
  const [megabytes, setMegabytes] = useState(String(intake.sizeLimit / 1e6));
  const [reply, setReply] = useState(intake.reply);
  const [replyText, setReplyText] = useState(intake.replyText);
  const [rule, setRule] = useState(() => ruleOf(intake.verification));
  const [addresses, setAddresses] = useState(intake.allowedAddresses.join(', '));
  const [origins, setOrigins] = useState(intake.allowedOrigins.join(', '));
  const [sameWithin, setSameWithin] = useState(String(intake.sameWithin));
  const [keepDays, setKeepDays] = useState(intake.keepDays === null ? '' : String(intake.keepDays));
  const [fileAccess, setFileAccess] = useState(() => fileAccessOf(intake.fileAccess));
  const change = useChangeIntake(intake.id);
  const errors = change.error instanceof ApiFault ? (change.error.problem.errors ?? []) : [];
  const errorOf = (field: string) => errors.find(each => each.field === field)?.message ?? null;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const verification = rule && stored(rule);
    change.mutate(
      {
        name,
        sizeLimit: Math.round(Number(megabytes) * 1e6),
        reply,
        replyText,
        verification,
        fileAccess,
        allowedAddresses: listed(addresses),
        allowedOrigins: listed(origins),
        sameWithin: Number(sameWithin),
        keepDays: keepDays.trim() === '' ? null : Number(keepDays),
      },
      { onSuccess: onDone },
    );
  };
  return (
    <form onSubmit={submit} aria-label="Settings" className="mb-4 space-y-4 border-y border-ink bg-raised px-4 py-4">
      <div className="grid gap-x-6 gap-y-4 sm:grid-cols-[1fr_9rem_16rem]">
        <Labelled label="Name" error={errorOf('name')}>
          {ids => <input {...ids} className="write" value={name} onChange={event => setName(event.target.value)} />}
        </Labelled>
        <Labelled label="Largest body, MB" error={errorOf('sizeLimit') && 'Between 0.002 and 1073.'}>
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
      <Verification
        rule={rule}
        isStored={intake.verification !== null && intake.verification.kind === rule?.kind}
        errorOf={errorOf}
        onChange={setRule}
      />
      <div className="grid gap-x-6 gap-y-4 sm:grid-cols-3">
        <Labelled
          label="Only from addresses"
          hint="192.0.2.0/24, 198.51.100.7; empty for all."
          error={errorOf('allowedAddresses')}
        >
          {ids => (
            <input
              {...ids}
              className="write font-mono text-small"
              value={addresses}
              onChange={event => setAddresses(event.target.value)}
            />
          )}
        </Labelled>
        <Labelled
          label="Pages of these sites may post"
          hint="https://basin.example.org, or * for all; empty for none."
          error={errorOf('allowedOrigins')}
        >
          {ids => (
            <input
              {...ids}
              className="write font-mono text-small"
              value={origins}
              onChange={event => setOrigins(event.target.value)}
            />
          )}
        </Labelled>
        <Labelled
          label="The same bytes count once within, s"
          hint="0 for never. A builder’s own id always counts once."
          error={errorOf('sameWithin')}
        >
          {ids => (
            <input
              {...ids}
              className="write"
              type="number"
              min={0}
              max={86400}
              value={sameWithin}
              onChange={event => setSameWithin(event.target.value)}
            />
          )}
        </Labelled>
      </div>
      <FileAccess
        access={fileAccess}
        isStored={intake.fileAccess?.hasSecret === true && intake.fileAccess.host === fileAccess?.host}
        errorOf={errorOf}
        onChange={setFileAccess}
      />
      <Labelled
        label="Days that what arrived is kept"
        hint="Empty for ever. Samples marked as kept stay, and what is not delivered yet."
        error={errorOf('keepDays')}
        className="sm:w-1/3"
      >
        {ids => (
          <input
            {...ids}
            className="write"
            inputMode="numeric"
            value={keepDays}
            onChange={event => setKeepDays(event.target.value)}
          />
        )}
      </Labelled>
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
