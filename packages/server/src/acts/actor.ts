import type { Response } from 'express';
import type { Account } from '../store';

/** Who acts: every use-case is told, whatever it was called over. */
export interface Actor {
  id: string;
  name: string;
  role: Account['role'];
}

/** The one who is signed in. To be called behind what lets only signed-in people through. */
export function actorOf({ locals }: Pick<Response, 'locals'>): Actor {
  const { account } = locals as { account?: Account };
  if (!account) throw new Error('Nobody is signed in here.');
  return { id: account.id, name: account.name, role: account.role };
}
