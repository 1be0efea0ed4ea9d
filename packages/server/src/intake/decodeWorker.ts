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

/** Submissions handed over at once. */
const PORTION = 200;

/** Decodes one large message off the main thread. */
function run({ body, file, contentType, url, pins }: DecodeTask): void {
  const say = (message: DecodeMessage) => parentPort?.postMessage(message);
  const bytes = file === null ? Buffer.from(body.buffer, body.byteOffset, body.length) : readFileSync(file);
  const decoded = decodeArrival({ body: bytes, contentType, url }, pins);
  const { submissions, state, trouble } = readingOf(decoded);
  say({ type: 'found', total: submissions.length });
  for (let from = 0; from < submissions.length; from += PORTION)
    say({ type: 'portion', from, submissions: submissions.slice(from, from + PORTION) });
  say({ type: 'end', state, trouble, notes: decoded.notes.map(each => each.message) });
}

if (parentPort) run(workerData as DecodeTask);
