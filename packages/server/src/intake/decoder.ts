import { Worker } from 'node:worker_threads';
import type { DecodeMessage, DecodeTask } from './decodeWorker';

export interface DecodeEnd {
  state: 'read' | 'unread';
  trouble: string | null;
  notes: string[];
}

export interface DecodeListener {
  found(total: number): void;
  /** Called for each portion in turn; false stops the decoding. */
  portion(submissions: Extract<DecodeMessage, { type: 'portion' }>['submissions'], from: number): boolean;
}

/** Decodes in a thread of its own. Resolves with null when it was stopped; rejects when the thread fell over. */
export function decodeApart(file: string, task: DecodeTask, listener: DecodeListener): Promise<DecodeEnd | null> {
  const worker = new Worker(file, {
    workerData: task,
    resourceLimits: { maxOldGenerationSizeMb: 2048 },
  });
  return new Promise((resolve, reject) => {
    const end = (settle: () => void) => {
      worker.removeAllListeners('message');
      void worker.terminate();
      settle();
    };
    worker.on('message', (message: DecodeMessage) => {
      try {
        if (message.type === 'found') listener.found(message.total);
        else if (message.type === 'end') end(() => resolve(message));
        else if (!listener.portion(message.submissions, message.from)) end(() => resolve(null));
        else setImmediate(() => worker.postMessage('taken'));
      } catch (error) {
        end(() => reject(error as Error));
      }
    });
    worker.once('error', error => end(() => reject(error)));
    worker.once('exit', code => reject(new Error(`The thread that read it ended with ${code}.`)));
  });
}
