import { parentPort, receiveMessageOnPort, workerData } from 'node:worker_threads';
import { setImmediate } from 'node:timers/promises';
import { openDatabase } from '../store/database';
import { Gate } from './gate';
import { faultOf, Turns, type Answer, type Order } from './turn';

/** What a ledger's thread is started with. */
export interface LedgerStart {
  file: string;
  gate: SharedArrayBuffer;
}

/** What the thread is sent: commands, what is to be made anew, or that it is over. */
export type ToLedger = { orders: Order[] } | { id: number; rebuild: string } | { close: true };

const { file, gate: memory } = workerData as LedgerStart;
const port = parentPort!;
const gate = new Gate(memory);
const database = openDatabase(file, null);
const turns = new Turns(database);

/** Bodies are handed over, not copied. */
const bodiesIn = (answers: Answer[]): ArrayBuffer[] =>
  answers.flatMap(each =>
    'result' in each && Array.isArray(each.result)
      ? each.result.flatMap(({ body }: { body?: Uint8Array }) => (body instanceof Uint8Array ? [body.buffer as ArrayBuffer] : []))
      : [],
  );

const answer = (answers: Answer[]) => port.postMessage(answers, bodiesIn(answers));

async function rebuild(id: number, formId: string): Promise<void> {
  try {
    // Others have their turn between two portions.
    for (const _ of turns.rebuild(formId)) await setImmediate();
    answer([{ id, result: null }]);
  } catch (error) {
    answer([{ id, fault: faultOf(error) }]);
  }
}

port.on('message', (first: ToLedger) => {
  const orders: Order[] = [];
  let isOver = false;
  const take = (message: ToLedger) => {
    if ('orders' in message) orders.push(...message.orders);
    else if ('close' in message) isOver = true;
    else void rebuild(message.id, message.rebuild);
  };
  take(first);
  for (let next = receiveMessageOnPort(port); next; next = receiveMessageOnPort(port)) take(next.message as ToLedger);
  if (orders.length > 0) {
    gate.pass();
    answer(turns.do(orders));
  }
  if (isOver) {
    database.close();
    port.close();
  }
});
