import type { ArrivalView, IntakeView } from '@grammata/contract';
import { pinAt, type PinRole, type Pins } from '@grammata/core/decode';
import { useState } from 'react';
import { useKeepPins, usePinsPreview } from '../queries';

/** What a person has pointed at so far, and what it would make of the recorded messages. */
export function usePinning(intake: IntakeView, arrival: ArrivalView | null) {
  const [pins, setPins] = useState<Pins | null>(null);
  const [role, setRole] = useState<PinRole>('answers');
  const [refusal, setRefusal] = useState<string | null>(null);
  const [mode, setMode] = useState<'places' | 'text'>('places');
  const keep = useKeepPins(intake.id);
  const isOpen = pins !== null;
  const isChanged = isOpen && JSON.stringify(pins) !== JSON.stringify(intake.pins);
  const preview = usePinsPreview(intake.id, arrival?.id ?? null, isChanged ? pins : null);

  const take = (next: Pins) => {
    setRefusal(null);
    setPins(next);
  };
  return {
    isOpen,
    isChanged,
    mode,
    setMode,
    pins: pins ?? intake.pins,
    role,
    refusal,
    preview,
    keep,
    open: () => take(intake.pins),
    close: () => {
      setPins(null);
      setRefusal(null);
      keep.reset();
    },
    choose: (next: PinRole) => {
      setRole(next);
      setRefusal(null);
    },
    /** Pins the chosen role to a place of the document at hand. */
    point: (pointer: string) => {
      if (!pins || !arrival) return;
      const next = pinAt(arrival.document, pins, role, pointer, arrival.envelope?.splitAt ?? null);
      if ('refusal' in next) setRefusal(next.refusal);
      else take(next);
    },
    set: take,
    unpin: (which: keyof Pins) => {
      const { [which]: _, ...rest } = pins ?? {};
      take(rest);
    },
  };
}

export type Pinning = ReturnType<typeof usePinning>;
