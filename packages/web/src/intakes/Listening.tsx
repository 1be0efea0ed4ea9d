import type { IntakeView } from '@grammata/contract';
import { useState } from 'react';
import { wordsFor } from '../api';
import { useConnection } from '../app/live';
import { Act, ago, clock, Fault, lasting, useNow } from '../ui';
import { useChangeIntake } from './queries';

/** Sooner than that nobody counts seconds, in ms. */
const SOON = 10_000;

/** Whether the intake hears: open, and this page connected to what it hears. A person can trust it. */
export function Listening({
  intake,
  senderOpen,
  onSender,
}: {
  intake: IntakeView;
  senderOpen: boolean;
  onSender: () => void;
}) {
  const connection = useConnection();
  const now = useNow(1000);
  const [openedAt] = useState(() => Date.now());
  const change = useChangeIntake(intake.id);
  const isOpen = intake.state === 'open';
  const since = Math.max(openedAt, connection.since ?? openedAt);
  const last = intake.lastArrivalAt;
  const isNew = last !== null && Date.parse(last) > openedAt;
  return (
    <section aria-label="Listening" className="border-t border-b border-t-ink border-b-rule">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1 py-2.5">
        <State isOpen={isOpen} connection={connection.state} />
        <b className="font-serif text-lead font-semibold" data-testid="listening">
          {!isOpen
            ? 'Stopped'
            : connection.state === 'open'
              ? now - since < SOON
                ? 'Listening'
                : `Listening for ${lasting(now - since)}`
              : connection.state === 'lost'
                ? 'Connection lost'
                : 'Connecting…'}
        </b>
        <span className="text-ink-2">{sentence(intake, isOpen, connection.state, now)}</span>
        <span className="flex-1" />
        <Act onClick={onSender} aria-expanded={senderOpen}>
          Send a test
        </Act>
        <Act onClick={() => change.mutate({ state: isOpen ? 'stopped' : 'open' })} disabled={change.isPending}>
          {isOpen ? 'Stop' : 'Resume'}
        </Act>
      </div>
      {/* What arrives while somebody waits for it is said aloud. */}
      <p role="status" className="sr-only">
        {isNew && `A submission arrived at ${clock(last)}.`}
      </p>
      {change.error && <Fault>{wordsFor(change.error)}</Fault>}
    </section>
  );
}

function State({ isOpen, connection }: { isOpen: boolean; connection: 'connecting' | 'open' | 'lost' }) {
  if (!isOpen) return <span aria-hidden className="size-[7px] self-center bg-ochre" />;
  if (connection === 'lost')
    return (
      <span aria-hidden className="self-center font-mono font-bold text-crimson">
        !
      </span>
    );
  return (
    <span
      aria-hidden
      className={`size-[7px] self-center rounded-full bg-verdigris ${connection === 'open' ? 'pulse' : 'opacity-40'}`}
    />
  );
}

function sentence(intake: IntakeView, isOpen: boolean, connection: string, now: number): string {
  if (!isOpen) return 'Response 503 and are asked to retry. No message is accepted until you resume.';
  if (connection === 'lost')
    return 'This page lost its connection to the server. Messages are still accepted and will show when it reconnects.';
  if (!intake.lastArrivalAt) return 'No message yet. Paste the address into the form builder, or send a test.';
  return `Last message ${ago(intake.lastArrivalAt, now)}. New messages show here at once.`;
}
