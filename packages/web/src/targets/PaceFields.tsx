import type { TargetInput } from '@grammata/contract';
import { Act } from '../ui';
import { NumberField } from '../ui/form';

/** How much is asked of a target at once, and when it is left alone. */
export const PaceFields = ({ onUsual }: { onUsual: () => void }) => (
  <fieldset className="grid gap-x-6 gap-y-4 sm:col-span-2 sm:grid-cols-3">
    <legend className="sr-only">Rate limits</legend>
    <NumberField<TargetInput> name="pace.concurrency" label="Concurrent requests" hint="1 to 64." />
    <NumberField<TargetInput>
      name="pace.perSecond"
      label="Requests per second"
      hint="Leave empty for no limit."
      whenEmpty="null"
    />
    <NumberField<TargetInput> name="pace.parkAfter" label="Pause after consecutive failures" hint="0 for never." />
    <p className="text-small text-ink-3 sm:col-span-3">
      A paused target gets one test request after 15 seconds, then after twice as long each time, up to five minutes.
      Waiting deliveries lose no attempt. <Act onClick={onUsual}>Use defaults</Act>
    </p>
  </fieldset>
);
