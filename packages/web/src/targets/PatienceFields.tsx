import type { TargetInput } from '@grammata/contract';
import { Act } from '../ui';
import { NumberField } from '../ui/form';

/** How long a target's answers are waited for before a try counts as failed. */
export const PatienceFields = ({ onUsual }: { onUsual: () => void }) => (
  <fieldset className="grid gap-x-6 gap-y-4 sm:col-span-2 sm:grid-cols-3">
    <legend className="sr-only">How long its answers are waited for</legend>
    <NumberField<TargetInput> name="patience.connect" label="Seconds until it connects" hint="1 to 120." />
    <NumberField<TargetInput> name="patience.firstByte" label="Seconds until it begins to answer" hint="1 to 900." />
    <NumberField<TargetInput> name="patience.whole" label="Seconds until the answer is whole" hint="1 to 3,600." />
    <p className="text-small text-ink-3 sm:col-span-3">
      A try that takes longer counts as failed, and is made again. <Act onClick={onUsual}>As long as is usual</Act>
    </p>
  </fieldset>
);
