import type { ArrivalSummary, IntakeView } from '@grammata/contract';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { useParam } from '../address';
import { wordsFor } from '../api';
import { pinsFor } from '@grammata/core/decode';
import { useKeys } from '../app/keys';
import { Fault, Sheet } from '../ui';
import { AddressRow } from './AddressRow';
import { ArrivalColumns } from './arrival/ArrivalColumns';
import { ArrivalNotes } from './arrival/ArrivalNotes';
import { ArrivalStrip } from './arrival/ArrivalStrip';
import { FeedLine } from './FeedLine';
import { FeedSettings } from './settings/FeedSettings';
import { Listening } from './Listening';
import { PinPanel, usePinning } from './pinning';
import { useArrival, useArrivals, useIntake } from './queries';
import { Read } from '../app/Read';
import { Sender } from './Sender';
import { Settings } from './settings/Settings';
import { WorkStrip } from '../work';

export function IntakePage() {
  const { id = '' } = useParams();
  const intake = useIntake(id);
  const arrivals = useArrivals(id);
  return (
    <Read title="Intake" query={intake}>
      {data => (
        <Read title={data.name} query={arrivals}>
          {list => (
            <Loaded key={id} intake={data} arrivals={list} older={arrivals.older} isBringing={arrivals.isBringing} />
          )}
        </Read>
      )}
    </Read>
  );
}

/** The arrival that is shown: the one in the address, else the one that is held, else the newest, following what comes in. */
function useShownArrival(arrivals: ArrivalSummary[], older: (() => void) | null, heldId: string | null) {
  const [chosen, choose] = useParam('arrival');
  const shownId = chosen ?? heldId ?? arrivals[0]?.id ?? null;
  const index = arrivals.findIndex(each => each.id === shownId);
  const show = (id: string | null) => choose(id && (heldId !== null || id !== arrivals[0]?.id) ? id : null);
  const step = (by: number) => {
    const next = arrivals[Math.min(arrivals.length - 1, Math.max(0, index + by))];
    if (next) show(next.id);
    // At the end of what is here older ones are brought: the next step finds them.
    if (by > 0 && index + by >= arrivals.length - 1) older?.();
  };
  useKeys([
    { key: 'l', does: 'older message', run: () => step(1) },
    { key: 'h', does: 'newer message', run: () => step(-1) },
  ]);
  return { shownId, show };
}

function Loaded({
  intake,
  arrivals,
  older,
  isBringing,
}: {
  intake: IntakeView;
  arrivals: ArrivalSummary[];
  older: (() => void) | null;
  isBringing: boolean;
}) {
  /** The message that somebody points at: what arrives meanwhile does not take its place. */
  const [heldId, setHeldId] = useState<string | null>(null);
  const { shownId, show } = useShownArrival(arrivals, older, heldId);
  const shown = useArrival(shownId);
  const [open, setOpen] = useState<'sender' | 'settings' | 'feed' | null>(null);
  const toggle = (part: 'sender' | 'settings' | 'feed') => setOpen(open === part ? null : part);
  const pinning = usePinning(intake, shown.data ?? null);
  if (pinning.isOpen && heldId === null && shownId !== null) setHeldId(shownId);
  if (!pinning.isOpen && heldId !== null) setHeldId(null);
  useKeys([
    { key: 's', does: 'send a test', run: () => toggle('sender') },
    {
      key: 'e',
      does: 'use the other reading',
      run: () => {
        const next = shown.data?.runnersUp[0];
        if (next) pinning.set(pinsFor(next));
      },
    },
    { key: 'o', does: 'correct the reading', run: () => (pinning.isOpen ? pinning.close() : pinning.open()) },
  ]);
  // While pins are tried, the message shows what they would make of it.
  const tried = pinning.isChanged ? pinning.preview.data?.shown : undefined;
  const arrival =
    shown.data && tried
      ? { ...shown.data, decoded: tried.map((each, index) => ({ ...each, sampleId: `tried-${index}` })) }
      : shown.data;
  return (
    <Sheet
      crumb={
        <Link to="/intakes" className="hover:underline">
          Intakes
        </Link>
      }
      title={intake.name}
      aside={<ArrivalNotes intake={intake} arrival={shown.data ?? null} pinning={pinning} />}
    >
      <AddressRow
        intake={intake}
        onSettings={() => toggle('settings')}
        settingsOpen={open === 'settings'}
        onFeed={() => toggle('feed')}
      />
      {open === 'settings' && <Settings intake={intake} onDone={() => setOpen(null)} />}
      <FeedLine intake={intake} onSet={() => toggle('feed')} isOpen={open === 'feed'} />
      {open === 'feed' && <FeedSettings intake={intake} onDone={() => setOpen(null)} />}
      <Listening intake={intake} senderOpen={open === 'sender'} onSender={() => toggle('sender')} />
      {open === 'sender' && <Sender intake={intake} arrival={shown.data ?? null} onSent={() => show(null)} />}
      <WorkStrip about={{ intake: intake.id }} />
      <ArrivalStrip arrivals={arrivals} shownId={shownId} onShow={show} older={older} isBringing={isBringing} />
      {pinning.isOpen && pinning.mode === 'text' && shown.data && <PinPanel pinning={pinning} arrival={shown.data} />}
      {arrivals.length > 0 && arrival && <ArrivalColumns arrival={arrival} pinning={pinning} />}
      {shown.error && <Fault again={() => void shown.refetch()}>{wordsFor(shown.error)}</Fault>}
    </Sheet>
  );
}
