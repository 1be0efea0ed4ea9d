import type { OpenDatabase } from '../store';
import { durable, type Command, type Commands } from './commands';
import { commandsOn } from './ledger';
import { rebuildPortions } from './rebuild';

/** A command on its way to the ledger. */
export interface Order {
  id: number;
  name: Command;
  input: unknown[];
}

/** What came of it; a fault with what tells its kind. */
export type Answer = { id: number; result: unknown } | { id: number; fault: Fault };

export interface Fault {
  message: string;
  code: string | null;
}

/** What an error says, and the code of what it comes of: whoever runs statements wraps what the database says. */
export function faultOf(error: unknown): Fault {
  let code: string | null = null;
  let message = '';
  for (let at = error as (Error & { code?: unknown }) | undefined; at; at = at.cause as typeof at) {
    if (message === '') message = at.message;
    if (typeof at.code === 'string') [code, message] = [at.code, at.message];
  }
  return { message: message || String(error), code };
}

/**
 * Does commands in turns: those of one turn share a transaction, and so one flush to disk; each fails on its own. Where none of them
 * has to be durable the flush is left out: what they store can be made again from what is, and any later durable turn makes it last.
 */
export class Turns {
  readonly #commands: Commands;
  readonly #desk: ReturnType<typeof commandsOn>['desk'];
  #isFlushed = true;

  constructor(
    private readonly database: Pick<OpenDatabase, 'client' | 'db'>,
    /** True where others write through the same connection. */
    private readonly isShared = false,
  ) {
    const { commands, desk } = commandsOn(database);
    [this.#commands, this.#desk] = [commands, desk];
  }

  do(orders: readonly Order[]): Answer[] {
    const { client } = this.database;
    this.#flush(orders.some(each => durable.has(each.name)));
    try {
      client.exec('BEGIN IMMEDIATE');
      if (this.isShared) this.#desk.forget();
      else this.#desk.refresh();
      const answers = orders.map(order => this.#one(order, orders.length > 1));
      client.exec('COMMIT');
      return answers;
    } catch (error) {
      if (client.inTransaction) client.exec('ROLLBACK');
      this.#desk.forget();
      const fault = faultOf(error);
      return orders.map(({ id }) => ({ id, fault }));
    }
  }

  #one({ id, name, input }: Order, isOneOfMany: boolean): Answer {
    const { client } = this.database;
    if (!isOneOfMany) return { id, result: this.#run(name, input) };
    client.exec('SAVEPOINT command');
    try {
      const result = this.#run(name, input);
      client.exec('RELEASE command');
      return { id, result };
    } catch (error) {
      // SQLite takes all of it back where the disk is full: then nothing of this turn is stored.
      if (!client.inTransaction) throw error;
      client.exec('ROLLBACK TO command; RELEASE command');
      this.#desk.forget();
      return { id, fault: faultOf(error) };
    }
  }

  #run(name: Command, input: unknown[]): unknown {
    return (this.#commands[name] as (...input: unknown[]) => unknown)(...input);
  }

  /** Whether the next transaction is on disk when it is committed (PRAGMA synchronous). */
  #flush(isFlushed: boolean): void {
    if (this.isShared || isFlushed === this.#isFlushed) return;
    this.database.client.pragma(`synchronous = ${isFlushed ? 'FULL' : 'NORMAL'}`);
    this.#isFlushed = isFlushed;
  }

  /** See {@link rebuildPortions}. */
  rebuild(formId: string): Generator<void, void> {
    return rebuildPortions(this.database.client, this.#desk, formId);
  }
}
