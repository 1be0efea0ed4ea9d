import { classValidatorResolver } from '@hookform/resolvers/class-validator';
import { useEffect, useRef, useState } from 'react';
import { useForm, type DefaultValues, type FieldPath, type FieldValues, type UseFormReturn } from 'react-hook-form';
import { drawerFor, takenUp } from './kept';
import { problemsOf, unseen } from './problems';

/** A form under the hands: validated by the contract's class, as the server does it. */
export interface Input<T extends FieldValues> {
  form: UseFormReturn<T>;
  /** Names of the fields that are shown: what is refused is said beside them. */
  shown: Set<string>;
  submit: () => void;
  isBusy: boolean;
  /** What the server has against it as a whole. */
  fault: string | null;
  /** True while it holds what was typed before and never stored. */
  isTakenUp: boolean;
  /** Goes back to what is stored. */
  startAnew: () => void;
  /** What was typed is not wanted any more. */
  discard: () => void;
}

/** How long after the last letter what is typed is put away, in ms. */
const PAUSE = 300;

/** The parts of an input that differ: what somebody else changed meanwhile in the others stays. */
export const changedIn = <T extends FieldValues>(before: T, after: T): Partial<T> =>
  Object.fromEntries(
    Object.entries(after).filter(([name, value]) => JSON.stringify(value) !== JSON.stringify(before[name])),
  ) as Partial<T>;

/** The form of a class of the contract. */
export function useInput<T extends FieldValues>({
  input,
  values,
  save,
  keptAs,
  under,
}: {
  input: new () => T;
  /** What the fields hold at first. */
  values: T;
  /** Stores it, or only what differs from what it held at first; rejects with what the server has against it. */
  save: (input: T, changed: Partial<T>) => Promise<unknown>;
  /** By which name what is typed outlives the page, until it is stored; left out, it does not. */
  keptAs?: string;
  /** The part of what is sent that the form is. */
  under?: string;
}): Input<T> {
  const [drawer] = useState(() => (keptAs === undefined ? null : drawerFor(keptAs, localStorage)));
  const [taken, setTaken] = useState(() => drawer && takenUp(values, drawer));
  const [fault, setFault] = useState<string | null>(null);
  const [shown] = useState(() => new Set<string>());
  const form = useForm<T>({
    resolver: classValidatorResolver(input, {}, { mode: 'sync', raw: true }) as never,
    defaultValues: (taken ?? values) as DefaultValues<T>,
  });
  const { subscribe, getValues, reset, handleSubmit, setError, formState } = form;
  /** What is stored, as the form began with it. */
  const stored = useRef(values);
  const isOver = useRef(false);
  useEffect(() => {
    if (!drawer) return;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const put = () => {
      clearTimeout(timer);
      timer = undefined;
      if (isOver.current) return;
      const now = getValues();
      drawer.write(now);
      if (takenUp(stored.current, drawer) === null) drawer.write(null);
    };
    const flush = () => timer !== undefined && put();
    const stop = subscribe({
      formState: { values: true },
      callback: () => {
        clearTimeout(timer);
        timer = setTimeout(put, PAUSE);
      },
    });
    window.addEventListener('pagehide', flush);
    return () => {
      window.removeEventListener('pagehide', flush);
      stop();
      flush();
    };
  }, [drawer, subscribe, getValues]);
  const submit = () =>
    handleSubmit(
      async typed => {
        setFault(null);
        // What is taken by the server is nothing to keep, even where the page goes away at once.
        isOver.current = true;
        try {
          await save(typed, changedIn(stored.current, typed));
          drawer?.write(null);
          setTaken(null);
          // A form that stays open is kept again from what is stored now.
          stored.current = typed;
          isOver.current = false;
        } catch (error) {
          isOver.current = false;
          drawer?.write(getValues());
          const { fields, whole } = problemsOf(error, [...shown], under);
          fields.forEach(({ field, message }, index) =>
            setError(field as FieldPath<T>, { type: 'server', message }, { shouldFocus: index === 0 }),
          );
          setFault(whole);
        }
      },
      errors => setFault(unseen(errors, [...shown])),
    )();
  return {
    form,
    shown,
    submit: () => void submit(),
    isBusy: formState.isSubmitting,
    fault,
    isTakenUp: taken !== null,
    startAnew: () => {
      reset(values);
      setTaken(null);
      drawer?.write(null);
    },
    discard: () => {
      isOver.current = true;
      drawer?.write(null);
    },
  };
}
