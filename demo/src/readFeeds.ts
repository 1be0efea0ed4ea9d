import type { Services } from '@grammata/server';

/** Reads feeds that were never read, so that the demo does not wait for its timers. */
export async function readFeeds({ store, feeds }: Services): Promise<void> {
  for (const { id, feed, feedReading } of store.intakes.all()) if (feed && !feedReading) await feeds.read(id);
}
