import type { ArrivalView, IntakeView } from '@grammata/contract';
import {
  contentTypeParts,
  generationsOf,
  pinAt,
  withGeneration,
  type PinRole,
  type PinSet,
} from '@grammata/core/decode';
import { useState } from 'react';
import { useKeepPins, usePinsPreview } from '../queries';

/** What a person has pointed at so far in messages built like the one shown, and what it would make of all that are recorded. */
export function usePinning(intake: IntakeView, arrival: ArrivalView | null) {
  const [pins, setPins] = useState<PinSet | null>(null);
  const [role, setRole] = useState<PinRole>('answers');
  const [refusal, setRefusal] = useState<string | null>(null);
  const [isAlone, setAlone] = useState(false);
  const [mode, setMode] = useState<'places' | 'text'>('places');
  const keep = useKeepPins(intake.id);
  const isOpen = pins !== null;
  const all = generationsOf(intake.pins);
  // A message that none of the pins fits is of another generation: what is pointed at in it leaves the others as they are.
  const generation = arrival?.envelope?.generation ?? (arrival ? all.length : 0);
  const own = all[generation] ?? {};
  const isChanged = isOpen && (isAlone || JSON.stringify(pins) !== JSON.stringify(own));
  const whole = withGeneration(isAlone ? {} : intake.pins, generation, pins ?? own);
  const preview = usePinsPreview(intake.id, arrival?.id ?? null, isChanged ? whole : null);

  const take = (next: PinSet) => {
    setRefusal(null);
    setPins(next);
  };
  return {
    isOpen,
    isChanged,
    mode,
    setMode,
    pins: pins ?? own,
    /** The pins of all generations, as they would be kept. */
    whole,
    /** Generations that have pins of their own beside this one. */
    others: isAlone ? 0 : all.length - (generation < all.length ? 1 : 0),
    letOthersGo: () => setAlone(true),
    role,
    refusal,
    preview,
    keep,
    open: () => take(own),
    close: () => {
      setPins(null);
      setAlone(false);
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
      const asked = arrival.decoded.flatMap(each => each.questions);
      const next = pinAt(arrival.document, pins, role, pointer, arrival.envelope?.splitAt ?? null, asked);
      if ('refusal' in next) setRefusal(next.refusal);
      else take(next);
    },
    /** How bodies that are sent as this one are read; null as they look. */
    readAs: (as: string | null) => {
      const { media: _, ...rest } = pins ?? own;
      take(as === null || !arrival ? rest : { ...rest, media: { stated: statedIn(arrival), as } });
    },
    set: take,
    unpin: (which: keyof PinSet) => {
      const { [which]: _, ...rest } = pins ?? {};
      take(rest);
    },
  };
}

const statedIn = ({ contentType }: ArrivalView): string | null => contentTypeParts(contentType).type;

export type Pinning = ReturnType<typeof usePinning>;
