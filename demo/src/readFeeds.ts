import type { Services } from '@grammata/server';
import { toAccessLog } from './routes';

/** How often a feed is tried before the demo begins without it, and ms between. */
const TRIES = 10;
const PAUSE = 500;

/** Reads feeds that were never read, so that the demo does not wait for its timers, and has what they held delivered. */
export async function readFeeds(services: Services): Promise<void> {
  const { store, ledger, deliveries } = services;
  for (const { id, feed, feedReading } of store.intakes.all()) {
    if (!feed || feedReading) continue;
    const formId = await formOf(services, id);
    // Its timer reads it later, whatever keeps it now.
    if (formId === null) continue;
    const register = store.targets.all().find(each => each.name === 'Register')!;
    const route = store.routes.create(formId, toAccessLog(register.id));
    store.routes.goLive(route.id);
    await ledger.sendRecorded({ routeId: route.id, selection: {}, after: null, most: 10_000, again: false });
    deliveries.wake();
  }
}

/** The form that a feed holds; null where it can't be read. */
async function formOf({ store, feeds, timers }: Services, intakeId: string): Promise<string | null> {
  for (let tries = 0; tries < TRIES; tries++) {
    await feeds.read(intakeId);
    const form = store.forms.heads(intakeId)[0]?.form;
    if (form) return form.id;
    await timers.pause(PAUSE);
  }
  return null;
}
