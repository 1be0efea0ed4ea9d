import type { TargetInput } from '@grammata/contract';
import { Act } from '../ui';
import { NumberField } from '../ui/form';

/** How long a target's answers are waited for before a try counts as failed. */
export const PatienceFields = ({ onUsual }: { onUsual: () => void }) => (
  <fieldset className="grid gap-x-6 gap-y-4 sm:col-span-2 sm:grid-cols-3">
    <legend className="sr-only">Timeouts</legend>
    <NumberField<TargetInput> name="patience.connect" label="Connect, seconds" hint="1 to 120." />
    <NumberField<TargetInput> name="patience.firstByte" label="First byte, seconds" hint="1 to 900." />
    <NumberField<TargetInput> name="patience.whole" label="Whole response, seconds" hint="1 to 3,600." />
    <p className="text-small text-ink-3 sm:col-span-3">
      An attempt that takes longer fails and is retried. <Act onClick={onUsual}>Use defaults</Act>
    </p>
  </fieldset>
);
