import { decode } from '@grammata/core/decode';
import { hostile, mutated } from '@grammata/core/testing';

export interface MessageFigures {
  tried: number;
  seconds: number;
  thrown: string[];
  /** Milliseconds per megabyte of the slowest crafted message of more than 50 kB, and which it was. */
  slowest: { name: string; perMegabyte: number };
  /** The crafted ones that take more than a second for a megabyte. */
  over: string[];
  /** The largest growth of memory over one message, in megabytes. */
  memory: number;
}

const heap = () => process.memoryUsage().heapUsed / 1e6;

/** Bytes that count for a message’s size: those of an archive unpacked. */
const sizeOf = (body: Uint8Array, query: string) => body.length + query.length;

/** Mutated messages over all media until so many were tried or the time is over, and each crafted one at a size that shows. */
export function attackMessages(times: number, most: { seconds: number }, seed: number): MessageFigures {
  const started = performance.now();
  const thrown: string[] = [];
  let tried = 0;
  for (let at = seed; tried < times && performance.now() - started < most.seconds * 1000; at++)
    for (const each of hostile) {
      const body = mutated(each.body(8 + (at % 9)), at);
      try {
        decode(body, each.contentType, each.query?.(8) ?? '');
      } catch (error) {
        thrown.push(`${each.name}, seed ${at}: ${(error as Error).message}`);
      }
      tried += 1;
    }
  let slowest = { name: '', perMegabyte: 0 };
  let memory = 0;
  const over: string[] = [];
  for (const each of hostile) {
    let n = 500;
    while (each.body(n).length < 50_000 && n < 2_000_000 && !each.name.startsWith('spreadsheet')) n *= 2;
    const [body, query] = [each.body(n), each.query?.(n) ?? ''];
    const before = heap();
    const begun = performance.now();
    decode(body, each.contentType, query);
    const took = performance.now() - begun;
    memory = Math.max(memory, heap() - before);
    const perMegabyte = took / (sizeOf(body, query) / 1e6);
    if (each.name.startsWith('spreadsheet') || sizeOf(body, query) < 50_000) continue;
    if (perMegabyte > 1000) over.push(`${each.name} (${Math.round(perMegabyte)} ms)`);
    if (perMegabyte > slowest.perMegabyte) slowest = { name: each.name, perMegabyte };
  }
  return { tried, seconds: (performance.now() - started) / 1000, thrown, slowest, over, memory };
}
