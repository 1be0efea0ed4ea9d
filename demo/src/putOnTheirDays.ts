import type { Services } from '@grammata/server';
import { pastAccessRows } from './past';
import { randomFrom } from './random';

/** How long deliveries of a form take, in ms: each form at its own pace, and some take much longer than most. */
function durations(form: string): () => number {
  const random = randomFrom([...form].reduce((sum, letter) => sum * 31 + letter.charCodeAt(0), 7));
  const usual = 120 + random.below(900);
  return () => Math.round(usual * (0.7 + random.next() * 0.6) * (random.chance(0.08) ? 3 : 1));
}

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
    const took = durations(form.name);
    await ledger.putBack(
      samples.map(({ id, data, receivedAt }) => ({
        id,
        receivedAt: (data.id !== null ? rows.get(data.id) : undefined) ?? receivedAt,
        took: took(),
      })),
    );
    await ledger.rebuild(form.id);
    live.publish({ type: 'form', formId: form.id });
  }
}
