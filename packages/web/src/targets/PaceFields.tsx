import type { PaceInput, TargetInput } from '@grammata/contract';
import type { FieldErrors, UseFormRegister } from 'react-hook-form';
import { Act, Labelled } from '../ui';

const fields: {
  name: keyof PaceInput;
  label: string;
  hint: string;
  least: number;
  most: number;
  step: number | 'any';
}[] = [
  { name: 'concurrency', label: 'Requests at once', hint: '1 to 64.', least: 1, most: 64, step: 1 },
  {
    name: 'perSecond',
    label: 'Requests a second',
    hint: 'Empty for as many as go.',
    least: 0.01,
    most: 1000,
    step: 'any',
  },
  { name: 'parkAfter', label: 'Park it after failures in a row', hint: '0 for never.', least: 0, most: 1000, step: 1 },
];

/** How much is asked of a target at once, and when it is left alone. */
export function PaceFields({
  register,
  errors,
  onUsual,
}: {
  register: UseFormRegister<TargetInput>;
  errors: FieldErrors<PaceInput> | undefined;
  onUsual: () => void;
}) {
  return (
    <fieldset className="grid gap-x-6 gap-y-4 sm:col-span-2 sm:grid-cols-3">
      {fields.map(({ name, label, hint, least, most, step }) => (
        <Labelled key={name} label={label} hint={hint} error={errors?.[name]?.message ?? null}>
          {ids => (
            <input
              {...ids}
              {...register(`pace.${name}`, {
                setValueAs: (value: unknown) =>
                  value === '' || value === null ? (name === 'perSecond' ? null : Number.NaN) : Number(value),
              })}
              className="write"
              type="number"
              min={least}
              max={most}
              step={step}
            />
          )}
        </Labelled>
      ))}
      <p className="text-small text-ink-3 sm:col-span-3">
        A target that is parked is left alone for a quarter of a minute, then asked with one request; each time that
        fails, for twice as long, up to five minutes. What waits loses no try by that.{' '}
        <Act onClick={onUsual}>As much as is usual</Act>
      </p>
    </fieldset>
  );
}
