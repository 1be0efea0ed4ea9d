import { connect } from 'node:net';
import { Attacked, until } from './server';

export interface ConnectionFigures {
  /** Bodies that waited half sent, and how much memory grew by them, in megabytes. */
  waiting: number;
  growth: number;
  /** Milliseconds that a whole submission took meanwhile. */
  meanwhile: number;
  descriptorsAfter: number;
}

/** Four hundred senders that stop in the middle of 0.9 MB, some that send nothing, and some that break off. */
export async function attackConnections(): Promise<ConnectionFigures> {
  const { readdirSync } = await import('node:fs');
  const attacked = await Attacked.fresh();
  try {
    const intake = await attacked.call<{ address: string }>('POST', '/intakes', { name: 'Slow' });
    const place = new URL(intake.address).pathname;
    const descriptors = () => readdirSync(`/proc/${attacked.process!.pid}/fd`).length;
    const [open, before] = [descriptors(), attacked.memory('VmRSS')];
    const sockets = Array.from({ length: 400 }, () => {
      const socket = connect(attacked.port, '127.0.0.1');
      socket.on('error', () => undefined);
      socket.write(
        `POST ${place} HTTP/1.1\r\nhost: x\r\ncontent-type: application/json\r\ncontent-length: 990000\r\n\r\n`,
      );
      socket.write(Buffer.alloc(900_000, 32));
      return socket;
    });
    const silent = Array.from({ length: 100 }, () => connect(attacked.port, '127.0.0.1').on('error', () => undefined));
    await until(() => sockets.every(each => each.writableLength === 0), 60_000, 'all bodies were sent half');
    const growth = (attacked.memory('VmRSS') - before) / 1000;
    const started = performance.now();
    await fetch(intake.address, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: '{"site":"AB-07","ph":7}',
    });
    const meanwhile = performance.now() - started;
    for (const each of [...sockets, ...silent]) each.destroy();
    await until(() => descriptors() <= open + 8, 20_000, 'what was open is closed');
    return { waiting: sockets.length, growth, meanwhile, descriptorsAfter: descriptors() - open };
  } finally {
    await attacked.kill();
  }
}
