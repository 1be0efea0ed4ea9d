import { readFileSync } from 'node:fs';
import { parentPort, workerData } from 'node:worker_threads';
import type { Pins } from '@grammata/core/decode';
import type { Submission } from '@grammata/core/submission';
import { decodeArrival, readingOf } from './reading';

/** What the thread is given. */
export interface DecodeTask {
  body: Uint8Array;
  /** The file that the body lies in; null where it is given. */
  file: string | null;
  contentType: string | null;
  url: string;
  pins: Pins;
}

/** What it gives back: submissions in portions, then how it ended. */
export type DecodeMessage =
  | { type: 'found'; total: number }
  | { type: 'portion'; from: number; submissions: Submission[] }
  | { type: 'end'; state: 'read' | 'unread'; trouble: string | null; notes: string[] };

/** Submissions handed over at once, and answers in them: wide ones go in smaller portions. */
const PORTION = 200;
const ANSWERS = 2000;

/** Decodes one large message off the main thread. A portion waits until the one before it was taken: requests get their turn. */
async function run({ body, file, contentType, url, pins }: DecodeTask): Promise<void> {
  const say = (message: DecodeMessage) => parentPort?.postMessage(message);
  const bytes = file === null ? Buffer.from(body.buffer, body.byteOffset, body.length) : readFileSync(file);
  const decoded = decodeArrival({ body: bytes, contentType, url }, pins);
  const { submissions, state, trouble } = readingOf(decoded);
  say({ type: 'found', total: submissions.length });
  const width = Math.max(1, submissions[0]?.fields.length ?? 1);
  const portion = Math.max(1, Math.min(PORTION, Math.floor(ANSWERS / width)));
  for (let from = 0; from < submissions.length; from += portion) {
    say({ type: 'portion', from, submissions: submissions.slice(from, from + portion) });
    await new Promise(resolve => parentPort?.once('message', resolve));
  }
  say({ type: 'end', state, trouble, notes: decoded.notes.map(each => each.message) });
}

if (parentPort) void run(workerData as DecodeTask);
