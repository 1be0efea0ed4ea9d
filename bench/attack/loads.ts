import { Agent, request } from 'undici';
import { Attacked, until } from './server';

export interface LoadFigures {
  /** Megabytes that memory grew by while uploads came in, and until all were read. */
  uploads: { coming: number; read: number };
  /** Small submissions of a known shape a second that were taken in, and the share of them that was read when the last one was. */
  reading: { rate: number; share: number };
}

const UPLOADS = 40;
const UPLOAD = 50_000_000;
/** Seconds, and submissions a second. */
const LONG = 20;
const RATE = 1000;

/** Forty large bodies, eight at a time; then a thousand small submissions a second. */
export async function attackLoads(): Promise<LoadFigures> {
  const server = await Attacked.fresh();
  const intake = await server.call<{ id: string; address: string }>('POST', '/intakes', {
    name: 'Loads',
    sizeLimit: 60_000_000,
  });
  const dispatcher = new Agent({ connections: 64 });
  const url = `${server.url}${new URL(intake.address).pathname}`;
  const post = async (body: string | Buffer) => {
    const headers = { 'content-type': 'application/json' };
    const answer = await request(url, { method: 'POST', headers, body, dispatcher });
    await answer.body.dump();
    if (answer.statusCode !== 202) throw new Error(`It answered ${answer.statusCode}.`);
  };
  const read = async () =>
    (await server.call<{ submissions: number }[]>('GET', '/forms')).reduce((sum, each) => sum + each.submissions, 0);
  const plain = (n: number) => JSON.stringify({ submission_id: `s${n}`, site: 'AB-07', ph: 7 + (n % 3), note: 'Foam' });
  for (let n = 0; n < 200; n++) await post(plain(n));
  await until(async () => (await read()) >= 200, 60_000, 'the first are read');

  let [sent, taken] = [0, 0];
  const began = performance.now();
  const before = await read();
  while (performance.now() - began < LONG * 1000) {
    const due = Math.floor(((performance.now() - began) / 1000) * RATE);
    while (sent < due && sent - taken < 200) {
      sent += 1;
      void post(plain(1000 + sent)).then(() => (taken += 1));
    }
    await new Promise(resolve => setTimeout(resolve, 2));
  }
  await until(() => taken === sent, 60_000, 'all are taken in');
  const rate = (1000 * sent) / (performance.now() - began);
  const share = ((await read()) - before) / sent;
  await until(async () => (await read()) - before >= sent, 120_000, 'all are read');

  const memory = server.memory('VmRSS');
  const large = Buffer.from(JSON.stringify({ submission_id: 'large', note: 'x'.repeat(UPLOAD - 100) }));
  let left = UPLOADS;
  await Promise.all(
    Array.from({ length: 8 }, async () => {
      while (left-- > 0) await post(large);
    }),
  );
  const coming = (server.memory('VmHWM') - memory) / 1000;
  const isRead = async () =>
    (await server.call<{ state: string }[]>('GET', `/intakes/${intake.id}/arrivals?limit=100`)).every(each =>
      ['read', 'unread'].includes(each.state),
    );
  await until(isRead, 300_000, 'the large ones are read');
  const grown = (server.memory('VmHWM') - memory) / 1000;
  await server.kill();
  await dispatcher.close();
  return { uploads: { coming, read: grown }, reading: { rate, share } };
}
