import type { OpenDatabase } from '../store';
import type { Command, Commands, Ledger } from './commands';
import { LedgerFault } from './fault';
import { Turns } from './turn';

/** The ledger's commands in this thread, each a turn of its own, on the connection of everything else. */
export function directCommands(database: Pick<OpenDatabase, 'client' | 'db'>): Commands & { turns: Turns } {
  const turns = new Turns(database, true);
  const command =
    (name: Command) =>
    (...input: unknown[]) => {
      const [answer] = turns.do([{ id: 0, name, input }]);
      if ('fault' in answer!) throw new LedgerFault(answer.fault);
      return answer!.result;
    };
  return new Proxy({ turns } as Commands & { turns: Turns }, {
    get: (target, name: string) => (name === 'turns' ? target.turns : command(name as Command)),
  });
}

/** The same as others use it, for tests. */
export function directLedger(commands: Commands & { turns: Turns }): Ledger {
  const own = {
    async rebuild(formId: string) {
      for (const _ of commands.turns.rebuild(formId));
    },
    close: async () => undefined,
  };
  return new Proxy(own, {
    get: (target, name: string) =>
      name in target
        ? target[name as keyof typeof target]
        : async (...input: never[]) => (commands[name as Command] as (...input: never[]) => unknown)(...input),
  }) as unknown as Ledger;
}
