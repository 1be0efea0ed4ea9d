import { Agent, request } from 'undici';
import { Attacked, until } from './server';

export interface LoadFigures {
  /** Megabytes that memory grew by until forms with a file of 50 MB were read, and until texts of 50 MB were. */
  grown: { files: number; texts: number };
  /** Small submissions of a known shape a second that were taken in, and the share of them that was read when the last one was. */
  reading: { rate: number; share: number };
}

const UPLOADS = 40;
const UPLOAD = 50_000_000;
/** Seconds, and submissions a second. */
const LONG = 20;
const RATE = 1000;

/** A thousand small submissions a second; then forty forms with a large file, and forty large texts, eight at a time. */
export async function attackLoads(): Promise<LoadFigures> {
  const server = await Attacked.fresh();
  const intake = await server.call<{ id: string; address: string }>('POST', '/intakes', {
    name: 'Loads',
    sizeLimit: 60_000_000,
  });
  const dispatcher = new Agent({ connections: 64 });
  const url = `${server.url}${new URL(intake.address).pathname}`;
  const post = async (body: string | Buffer, type = 'application/json') => {
    const headers = { 'content-type': type };
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
  const isRead = async () =>
    (await server.call<{ state: string }[]>('GET', `/intakes/${intake.id}/arrivals?limit=100`)).every(each =>
      ['read', 'unread'].includes(each.state),
    );
  /** Sends one body so often, and says by how many megabytes memory has grown at most since the beginning. */
  const grownBy = async (body: Buffer, type: string): Promise<number> => {
    let left = UPLOADS;
    await Promise.all(
      Array.from({ length: 8 }, async () => {
        while (left-- > 0) await post(body, type);
      }),
    );
    await until(isRead, 300_000, 'the large ones are read');
    return (server.memory('VmHWM') - memory) / 1000;
  };
  const part = (head: string, content: string) =>
    `--part\r\ncontent-disposition: form-data; ${head}\r\n\r\n${content}\r\n`;
  const form = `${part('name="site"', 'AB-07')}${part('name="photo"; filename="weir.jpg"', 'x'.repeat(UPLOAD - 500))}--part--\r\n`;
  const files = await grownBy(Buffer.from(form), 'multipart/form-data; boundary=part');
  const text = JSON.stringify({ submission_id: 'large', note: 'x'.repeat(UPLOAD - 100) });
  const texts = await grownBy(Buffer.from(text), 'application/json');
  await server.kill();
  await dispatcher.close();
  return { grown: { files, texts }, reading: { rate, share } };
}
