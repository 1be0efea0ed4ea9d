import type { ArrivalView, IntakeView } from '@grammata/contract';
import {
  contentTypeParts,
  generationsOf,
  pinAt,
  pinsFor,
  withGeneration,
  type FoundEnvelope,
  type PinRole,
  type PinSet,
} from '@grammata/core/decode';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { api, isConflict } from '../../api';
import { askPins, useKeepPins, usePinsPreview } from '../queries';

/** What a person has pointed at so far in messages built like the one shown, and what it would make of all that are recorded. */
export function usePinning(intake: IntakeView, arrival: ArrivalView | null) {
  const [pins, setPins] = useState<PinSet | null>(null);
  const [role, setRole] = useState<PinRole>('answers');
  const [refusal, setRefusal] = useState<string | null>(null);
  const [isAlone, setAlone] = useState(false);
  const [mode, setMode] = useState<'places' | 'text'>('places');
  const keep = useKeepPins(intake.id);
  const isOpen = pins !== null;
  const here = standing(intake, arrival);
  /** The pins as they stood when this began: what somebody else pins meanwhile is not overwritten unseen. */
  const [began, setBegan] = useState(here);
  const { pins: base, generation } = isOpen ? began : here;
  const all = generationsOf(base);
  const own = all[generation] ?? {};
  const isChanged = isOpen && (isAlone || JSON.stringify(pins) !== JSON.stringify(own));
  const whole = withGeneration(isAlone ? {} : base, generation, pins ?? own);
  const preview = usePinsPreview(intake.id, arrival?.id ?? null, isChanged ? whole : null);

  const take = (next: PinSet) => {
    setRefusal(null);
    setPins(next);
  };
  const close = () => {
    setPins(null);
    setAlone(false);
    setRefusal(null);
    keep.reset();
  };
  /** Keeps the reading as it is. Where that reads other messages otherwise, it is shown first. */
  const confirm = useMutation({
    mutationFn: async (found: FoundEnvelope) => {
      const set = { ...(generationsOf(here.pins)[here.generation] ?? {}), ...pinsFor(found) };
      const pins = withGeneration(here.pins, here.generation, set);
      const { changed, missing } = await askPins(intake.id, arrival?.id ?? null, pins);
      if (changed + missing === 0) return keep.mutateAsync({ pins, shown: here.pins });
      setBegan(here);
      take(set);
      return null;
    },
  });
  return {
    isOpen,
    confirm,
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
    open: () => {
      setBegan(here);
      take(own);
    },
    close,
    store: () =>
      keep.mutate(
        { pins: whole, shown: base },
        {
          onSuccess: close,
          // Pressed again, it is put in the place of what is pinned now.
          onError: async error => {
            if (!isConflict(error) || !arrival) return;
            const [now, read] = await Promise.all([
              api<IntakeView>(`/intakes/${intake.id}`),
              api<ArrivalView>(`/arrivals/${arrival.id}`),
            ]);
            setBegan(standing(now, read));
          },
        },
      ),
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

/**
 * The pins of an intake, and which generation of them is the message's. One that none of them fits is of another: what is pointed at in it
 * leaves the others as they are.
 */
const standing = ({ pins }: IntakeView, arrival: ArrivalView | null) => ({
  pins,
  generation: arrival?.envelope?.generation ?? (arrival ? generationsOf(pins).length : 0),
});

const statedIn = ({ contentType }: ArrivalView): string | null => contentTypeParts(contentType).type;

export type Pinning = ReturnType<typeof usePinning>;
