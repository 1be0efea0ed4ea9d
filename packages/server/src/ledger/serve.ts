import { setImmediate } from 'node:timers/promises';
import { openDatabase } from '../store/database';
import { Gate } from './gate';
import { faultOf, Turns, type Answer, type Order } from './turn';

/** What a ledger is started with. */
export interface LedgerStart {
  /** The database, which has to be up to date. */
  file: string;
  gate: SharedArrayBuffer;
}

/** What it is sent: commands, what is to be made anew, or that it is over. */
export type ToLedger = { orders: Order[] } | { id: number; rebuild: string } | { close: true };

/** Bodies are handed over, not copied. */
const bodiesIn = (answers: readonly Answer[]): ArrayBuffer[] =>
  answers.flatMap(each =>
    'result' in each && Array.isArray(each.result)
      ? each.result.flatMap((item: { body?: unknown } | null) =>
          item?.body instanceof Uint8Array ? [item.body.buffer as ArrayBuffer] : [],
        )
      : [],
  );

/** The ledger's side: takes what is sent in turns, on a connection of its own. `answer` is told what came of it. */
export function serveLedger(
  { file, gate: memory }: LedgerStart,
  answer: (answers: Answer[], transfer: ArrayBuffer[]) => void,
): { take(messages: readonly ToLedger[]): void; close(): void } {
  const gate = new Gate(memory);
  const database = openDatabase(file, null);
  const turns = new Turns(database);
  let isOpen = true;

  async function rebuild(id: number, formId: string): Promise<void> {
    try {
      // Others have their turn between two portions.
      for (const _ of turns.rebuild(formId)) {
        await setImmediate();
        if (!isOpen) return;
      }
      answer([{ id, result: null }], []);
    } catch (error) {
      answer([{ id, fault: faultOf(error) }], []);
    }
  }

  return {
    take(messages) {
      const orders = messages.flatMap(each => ('orders' in each ? each.orders : []));
      if (orders.length > 0) {
        gate.pass();
        const answers = turns.do(orders);
        answer(answers, bodiesIn(answers));
      }
      for (const each of messages) if ('rebuild' in each) void rebuild(each.id, each.rebuild);
    },
    close() {
      isOpen = false;
      database.close();
    },
  };
}
