import type { Services } from '@grammata/server';
import { pastAccessRows } from './past';

/** How long the past is waited for, in ms: after that the demo begins with what there is. */
const PATIENCE = 30_000;

/**
 * Waits until all that the demo began with is delivered, and puts it on the days on which it would have been: a feed is read, and
 * the past delivered, in the first seconds of the demo.
 */
export async function putOnTheirDays({ store, ledger, timers, live }: Services, until: number): Promise<void> {
  const isBusy = () => {
    const { waiting, sending } = store.deliveries.counts();
    return waiting + sending > 0;
  };
  const end = Date.now() + PATIENCE;
  while (isBusy() && Date.now() < end) await timers.pause(100);
  const rows = new Map(pastAccessRows(until).map(({ filled, receivedAt }) => [filled.entry, receivedAt]));
  for (const { form } of store.forms.heads()) {
    const samples = store.forms.samples(form.id, 10_000);
    await ledger.putBack(
      samples.map(({ id, data, receivedAt }) => ({
        id,
        receivedAt: (data.id !== null ? rows.get(data.id) : undefined) ?? receivedAt,
      })),
    );
    await ledger.rebuild(form.id);
    live.publish({ type: 'form', formId: form.id });
  }
}
