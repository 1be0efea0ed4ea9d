import type { PatienceInput, TargetInput } from '@grammata/contract';
import type { FieldErrors, UseFormRegister } from 'react-hook-form';
import { Act, Labelled } from '../ui';

const spans: { name: keyof PatienceInput; label: string; most: number }[] = [
  { name: 'connect', label: 'Seconds until it connects', most: 120 },
  { name: 'firstByte', label: 'Seconds until it begins to answer', most: 900 },
  { name: 'whole', label: 'Seconds until the answer is whole', most: 3600 },
];

/** How long a target's answers are waited for before a try counts as failed. */
export function PatienceFields({
  register,
  errors,
  onUsual,
}: {
  register: UseFormRegister<TargetInput>;
  errors: FieldErrors<PatienceInput> | undefined;
  onUsual: () => void;
}) {
  return (
    <fieldset className="grid gap-x-6 gap-y-4 sm:col-span-2 sm:grid-cols-3">
      {spans.map(({ name, label, most }) => (
        <Labelled key={name} label={label} hint={`1 to ${most}.`} error={errors?.[name]?.message ?? null}>
          {ids => (
            <input
              {...ids}
              {...register(`patience.${name}`, { valueAsNumber: true })}
              className="write"
              type="number"
              min={1}
              max={most}
            />
          )}
        </Labelled>
      ))}
      <p className="text-small text-ink-3 sm:col-span-3">
        A try that takes longer counts as failed, and is made again. <Act onClick={onUsual}>As long as is usual</Act>
      </p>
    </fieldset>
  );
}
