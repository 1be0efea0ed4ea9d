import { Worker } from 'node:worker_threads';
import type { Logger } from 'pino';
import type { ReceivedArrival } from '../store';
import type { Timers } from '../timing';
import type { Command, Ledger } from './commands';
import { LedgerFault } from './fault';
import type { Gate } from './gate';
import type { Answer, Order } from './turn';
import { serveLedger, type LedgerStart, type ToLedger } from './serve';

export interface LedgerThreadParts {
  /** The database, which has to be up to date. */
  file: string;
  /** The program of the thread; null for a ledger in this one. */
  program: string | null;
  gate: Gate;
  timers: Timers;
  log: Logger;
}

/** Where orders are sent. */
interface Port {
  postMessage(message: ToLedger, transfer: ArrayBuffer[]): void;
}

interface Waiting {
  done(result: unknown): void;
  failed(error: unknown): void;
}

/** ms before a thread that ended is started again. */
const PAUSE = 1000;

/** ms after which a reading is stored though others wait. */
const READING = 40;
/** Senders that wait at once from which on there are many, and ms for which that holds. */
const MANY = 12;
const PRESSED = 200;

/** Commands that take a list and answer with one of the same length: those of one turn go as one. */
const together: ReadonlySet<Command> = new Set(['takeIn', 'settle']);

interface Asked extends Waiting {
  name: Command;
  input: unknown[];
}

/**
 * The ledger in a thread of its own, with a connection of its own: a flush to disk holds up nobody else. What is asked while it is at work
 * is gathered, and goes as one turn with one flush.
 */
export class LedgerThread {
  readonly #waiting = new Map<number, Waiting>();
  #port: Port;
  #asked: Asked[] = [];
  #count = 0;
  #lastRead = 0;
  /** How many senders waited at once of late, and when the last did. */
  #senders = 0;
  #lastSenders = 0;
  #underWay = 0;
  #isSet = false;
  #ended: Promise<void> | null = null;
  #hasEnded: () => void = () => undefined;

  constructor(private readonly parts: LedgerThreadParts) {
    this.#port = this.#start();
  }

  /** True while so many senders wait at once that reading takes a back seat. */
  get isPressed(): boolean {
    return this.#senders > MANY && performance.now() - this.#lastSenders < PRESSED;
  }

  /** The ledger that others use. */
  get ledger(): Ledger {
    const own = { rebuild: (formId: string) => this.#rebuild(formId), close: () => this.close() };
    return new Proxy(own, {
      get: (target, name: string) =>
        name in target
          ? target[name as keyof typeof target]
          : (...input: unknown[]) => this.#ask(name as Command, input),
    }) as unknown as Ledger;
  }

  #start(): Port {
    const { file, program, gate, log } = this.parts;
    const start: LedgerStart = { file, gate: gate.memory };
    if (program === null) return this.#here(start);
    const worker = new Worker(program, { workerData: start });
    worker.on('message', (answers: Answer[]) => this.#answered(answers));
    worker.on('error', error => {
      log.error({ err: error }, 'the ledger’s thread ended; another one is started in a moment');
      this.#fail(error);
      this.#restart();
    });
    worker.on('exit', () => {
      if (this.#ended) this.#hasEnded();
    });
    return worker;
  }

  /** A ledger that takes turns with everything else in this thread. */
  #here(start: LedgerStart): Port {
    const served = serveLedger(start, answers => this.#answered(answers));
    return {
      postMessage: (message: ToLedger) =>
        void this.parts.timers.soon('the ledger’s turn', () => {
          served.take([message]);
          if (!('close' in message)) return;
          served.close();
          this.#hasEnded();
        }),
    };
  }

  /** What is asked meanwhile waits. */
  #restart(): void {
    this.#underWay = 1;
    this.parts.timers.later('starting the ledger’s thread', PAUSE, () => {
      if (this.#ended) return;
      this.#port = this.#start();
      this.#underWay = 0;
      this.#send();
    });
  }

  #ask(name: Command, input: unknown[]): Promise<unknown> {
    if (this.#ended) return Promise.reject(new Error('The ledger is closed.'));
    return new Promise((done, failed) => {
      this.#asked.push({ name, input, done, failed });
      this.#send();
    });
  }

  #rebuild(formId: string): Promise<void> {
    return new Promise<void>((done, failed) => {
      const id = this.#expect({ done: () => done(), failed });
      this.#post({ id, rebuild: formId });
    });
  }

  #expect(waiting: Waiting): number {
    this.#count += 1;
    this.#waiting.set(this.#count, waiting);
    return this.#count;
  }

  /** At the end of this turn of the event loop; while a turn is under way, after it. */
  #send(): void {
    if (this.#isSet || this.#underWay > 0) return;
    this.#isSet = true;
    this.parts.timers.soon('asking the ledger', () => {
      this.#isSet = false;
      this.#sendAll();
    });
  }

  #sendAll(): void {
    const asked = this.#next();
    if (asked.length === 0) return;
    const orders: Order[] = [];
    for (const [name, all] of gathered(asked))
      if (together.has(name)) orders.push(this.#orderFor(name, all));
      else for (const { input, ...waiting } of all) orders.push({ id: this.#expectOrder(waiting), name, input });
    this.#underWay = orders.length;
    this.#post({ orders }, bodiesOf(orders));
  }

  /** What goes next: what senders and targets wait for first, but reading has its turn at the latest after a while. */
  #next(): Asked[] {
    const urgent = this.#asked.filter(each => each.name !== 'read');
    const senders = urgent.filter(each => each.name === 'takeIn').length;
    if (senders > 0) {
      this.#senders += (senders - this.#senders) / 4;
      this.#lastSenders = performance.now();
    }
    const reading = this.#asked.find(each => each.name === 'read');
    const isDue = reading !== undefined && performance.now() - this.#lastRead > READING;
    if (!reading || (urgent.length > 0 && !isDue)) {
      this.#asked = this.#asked.filter(each => each.name === 'read');
      return urgent;
    }
    this.#lastRead = performance.now();
    this.#asked = this.#asked.filter(each => each !== reading);
    return [reading];
  }

  #expectOrder({ done, failed }: Waiting): number {
    const settled = () => {
      this.#underWay -= 1;
      if (this.#underWay === 0) this.#send();
    };
    return this.#expect({
      done: result => (settled(), done(result)),
      failed: error => (settled(), failed(error)),
    });
  }

  /** One order for several of a kind. What one of them fails for is no matter to the others: then each goes alone. */
  #orderFor(name: Command, all: readonly Asked[]): Order {
    const lists = all.map(each => each.input[0] as unknown[]);
    const id = this.#expectOrder({
      done: result => {
        let from = 0;
        all.forEach((each, at) => {
          const { length } = lists[at]!;
          each.done((result as unknown[]).slice(from, from + length));
          from += length;
        });
      },
      failed: error => {
        const isDisk = error instanceof LedgerFault && /FULL|IOERR|READONLY|CANTOPEN|BUSY/.test(error.code ?? '');
        if (all.length === 1 || isDisk || this.#ended) return all.forEach(each => each.failed(error));
        for (const each of all) {
          const order = this.#orderFor(name, [each]);
          this.#underWay += 1;
          this.#post({ orders: [order] });
        }
      },
    });
    return { id, name, input: [copied(name, lists.flat())] };
  }

  #post(message: ToLedger, transfer: ArrayBuffer[] = []): void {
    this.#port.postMessage(message, transfer);
  }

  #answered(answers: readonly Answer[]): void {
    for (const answer of answers) {
      const waiting = this.#waiting.get(answer.id);
      this.#waiting.delete(answer.id);
      if ('fault' in answer) waiting?.failed(new LedgerFault(answer.fault));
      else waiting?.done(answer.result);
    }
  }

  #fail(error: unknown): void {
    const all = [...this.#waiting.values()];
    this.#waiting.clear();
    all.forEach(each => each.failed(error));
    this.#underWay = 0;
  }

  /** Does what was asked, and ends the thread. */
  async close(): Promise<void> {
    if (this.#ended) return this.#ended;
    while (this.#asked.length > 0) this.#sendAll();
    this.#ended = new Promise<void>(done => (this.#hasEnded = done));
    this.#post({ close: true });
    return this.#ended;
  }
}

/** By kind, in the order in which each kind was asked first. */
function gathered(asked: readonly Asked[]): Map<Command, Asked[]> {
  const byName = new Map<Command, Asked[]>();
  for (const each of asked) {
    const known = byName.get(each.name);
    if (known) known.push(each);
    else byName.set(each.name, [each]);
  }
  return byName;
}

/** A body is most often a part of a larger piece of memory: only its own bytes go. They are handed over, the sender keeps its own. */
function copied(name: Command, list: readonly unknown[]): readonly unknown[] {
  if (name !== 'takeIn') return list;
  return (list as ReceivedArrival[]).map(each => ({ ...each, body: new Uint8Array(each.body) }));
}

const bodiesOf = (orders: readonly Order[]): ArrayBuffer[] =>
  orders.flatMap(({ name, input }) =>
    name === 'takeIn' ? (input[0] as ReceivedArrival[]).map(each => each.body.buffer as ArrayBuffer) : [],
  );
