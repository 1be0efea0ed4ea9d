import type { IntakeView } from '@grammata/contract';
import { useState } from 'react';
import { NewIntake } from '../../intakes/NewIntake';
import { Sender } from '../../intakes/Sender';
import { usePractice } from '../../lists';
import { Act, Combobox, CopyAct, Press } from '../../ui';

/** Creates an intake, or takes one that is there, and waits for its first message. */
export function Receive({
  intake,
  intakes,
  onIntake,
  onNext,
}: {
  intake: IntakeView | null;
  intakes: IntakeView[];
  onIntake: (id: string) => void;
  onNext: () => void;
}) {
  return (
    <div className="px-6 pb-4 max-sm:px-4 md:pl-[180px]">
      {intake ? (
        <Waiting intake={intake} onNext={onNext} />
      ) : (
        <>
          <NewIntake onMade={onIntake} className="max-w-xl space-y-3 py-1" />
          {intakes.length > 0 && (
            <Combobox
              label="Or use an existing intake"
              className="mt-4 sm:w-1/2"
              placeholder="choose an intake…"
              options={intakes.map(({ id, name }) => ({ value: id, label: name }))}
              value=""
              onPick={onIntake}
            />
          )}
        </>
      )}
    </div>
  );
}

function Waiting({ intake, onNext }: { intake: IntakeView; onNext: () => void }) {
  const [sends, setSends] = useState(false);
  const { data: practice } = usePractice();
  const [builder] = practice?.yard?.builders ?? [];
  return (
    <>
      <p className="flex flex-wrap items-baseline gap-x-3 py-1">
        <code className="border-b border-rule-strong py-0.5 font-mono break-all">{intake.address}</code>
        <CopyAct text={intake.address} label="Copy the address" />
      </p>
      <p className="mt-2 max-w-prose font-serif">
        Paste this address into your form builder as the webhook URL, then send a submission.
      </p>
      <p className="mt-3 flex flex-wrap items-baseline gap-x-5">
        {intake.arrivals > 0 ? (
          <Press onClick={onNext}>Continue to Read</Press>
        ) : (
          <span role="status" className="text-ochre">
            Waiting for the first message…
          </span>
        )}
        <Act onClick={() => setSends(!sends)} aria-expanded={sends}>
          Send a test
        </Act>
        {builder && (
          <a className="act quiet" href={builder.page} target="_blank" rel="noreferrer">
            Use a practice form: {builder.name} ↗
          </a>
        )}
      </p>
      {sends && (
        <div className="mt-3 border-t border-rule">
          <Sender intake={intake} arrival={null} onSent={() => setSends(false)} />
        </div>
      )}
    </>
  );
}
