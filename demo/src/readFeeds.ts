import { dispatcher, type Services } from '@grammata/server';
import { toAccessLog } from './routes';

/** Reads feeds that were never read, so that the demo does not wait for its timers, and has what they held delivered. */
export async function readFeeds(services: Services): Promise<void> {
  const { store, feeds, due, deliveries, live } = services;
  for (const { id, feed, feedReading } of store.intakes.all()) {
    if (!feed || feedReading) continue;
    const seen = formSeen(services, id);
    await feeds.read(id);
    const formId = await seen;
    const register = store.targets.all().find(each => each.name === 'Register')!;
    const route = store.routes.create(formId, toAccessLog(register.id));
    store.routes.goLive(route.id);
    const dispatch = dispatcher(store, due, live, () => deliveries.wake());
    dispatch.announce(dispatch.queue(store.forms.samples(formId, 10_000).reverse()));
  }
}

/** Waits until a form was seen at an intake; gives back its identifier. */
const formSeen = ({ store, live }: Services, intakeId: string): Promise<string> =>
  new Promise(resolve => {
    const stop = live.subscribe(() => {
      const form = store.forms.heads(intakeId)[0]?.form;
      if (!form) return;
      stop();
      resolve(form.id);
    });
  });
