import type { OpenDatabase } from '../store';
import { arriving } from './arriving';
import { carryOver } from './carryOver';
import type { Commands } from './commands';
import { Desk } from './desk';
import { keeping } from './keeping';
import { reading } from './reading';
import { sending } from './sending';

/** The commands on a connection. Each has to be called within a transaction. */
export function commandsOn(database: Pick<OpenDatabase, 'client' | 'db'>): { commands: Commands; desk: Desk } {
  carryOver(database);
  const desk = new Desk(database);
  return { desk, commands: { ...arriving(desk), ...reading(desk), ...sending(desk), ...keeping(desk) } };
}
