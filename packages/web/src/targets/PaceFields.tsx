import type { TargetInput } from '@grammata/contract';
import { Act } from '../ui';
import { NumberField } from '../ui/form';

/** How much is asked of a target at once, and when it is left alone. */
export const PaceFields = ({ onUsual }: { onUsual: () => void }) => (
  <fieldset className="grid gap-x-6 gap-y-4 sm:col-span-2 sm:grid-cols-3">
    <legend className="sr-only">How much is asked of it at once</legend>
    <NumberField<TargetInput> name="pace.concurrency" label="Requests at once" hint="1 to 64." />
    <NumberField<TargetInput>
      name="pace.perSecond"
      label="Requests a second"
      hint="Empty for as many as go."
      whenEmpty="null"
    />
    <NumberField<TargetInput> name="pace.parkAfter" label="Park it after failures in a row" hint="0 for never." />
    <p className="text-small text-ink-3 sm:col-span-3">
      A target that is parked is left alone for a quarter of a minute, then asked with one request; each time that
      fails, for twice as long, up to five minutes. What waits loses no try by that.{' '}
      <Act onClick={onUsual}>As much as is usual</Act>
    </p>
  </fieldset>
);
