import type { DeskView } from '@grammata/contract';
import { count, counted } from '../ui';

/** Something on the Desk that needs a person, and the one action that leads on. */
export interface Attention {
  key: string;
  group: 'Server' | 'Deliveries' | 'Targets' | 'Changes' | 'Intakes' | 'Unfinished';
  tone: 'stopped' | 'check' | 'open';
  /** In a word or two, with a number first where there is one. */
  state: string;
  subject: string;
  reason: string;
  /** Null where nothing in Grammata mends it. */
  action: { words: string; to: string } | null;
}

const only = (is: boolean, thing: () => Attention): Attention[] => (is ? [thing()] : []);

/** All that needs a person, sorted by how much it stops. */
export function attentionOf(desk: DeskView): Attention[] {
  const { troubles, counts, parked, changes, strays, unread, lastUnread, routes, storage } = desk;
  const listed = troubles.reduce((sum, each) => sum + each.count, 0);
  const further = counts.held + counts.dead - listed;
  return [
    ...only(storage !== null, () => ({
      key: 'storage',
      group: 'Server',
      tone: 'stopped',
      state: 'stopped',
      subject: 'Storage',
      reason: storage!.message,
      action: null,
    })),
    ...troubles.map(({ routeId, routeName, state, reason, count: many, changeId }): Attention => ({
      key: `${routeId} ${state} ${reason}`,
      group: 'Deliveries',
      tone: 'stopped',
      state: `${count(many)} ${state === 'held' ? 'held' : 'failed'}`,
      subject: routeName,
      reason,
      action: changeId
        ? { words: 'Review repair', to: `/changes?change=${changeId}` }
        : state === 'held'
          ? { words: 'Fix mapping', to: `/routes/${routeId}/mapping` }
          : { words: many === 1 ? 'Open delivery' : 'Open deliveries', to: `/deliveries?state=dead&route=${routeId}` },
    })),
    ...only(further > 0, () => ({
      key: 'further',
      group: 'Deliveries',
      tone: 'stopped',
      state: `${count(further)} more`,
      subject: 'Held or failed',
      reason: 'For other reasons.',
      action: { words: 'Open deliveries', to: `/deliveries?state=${counts.held > 0 ? 'held' : 'dead'}` },
    })),
    ...parked.map(({ targetId, name, reason }): Attention => ({
      key: `target ${targetId}`,
      group: 'Targets',
      tone: 'stopped',
      state: 'paused',
      subject: name,
      reason: `${reason} Deliveries to it are waiting.`,
      action: { words: 'Open target', to: `/targets/${targetId}` },
    })),
    ...only(changes > 0, () => ({
      key: 'changes',
      group: 'Changes',
      tone: 'check',
      state: `${count(changes)} open`,
      subject: 'Forms and targets',
      reason: `${counted(changes, 'change')} may affect routes.`,
      action: { words: changes === 1 ? 'Review change' : 'Review changes', to: '/changes' },
    })),
    ...only(lastUnread !== null, () => ({
      key: 'unread',
      group: 'Intakes',
      tone: 'check',
      state: `${count(unread)} unread`,
      subject: 'Messages',
      reason: `${counted(unread, 'message')} could not be read.`,
      action: { words: 'Open newest', to: `/intakes/${lastUnread!.intakeId}?arrival=${lastUnread!.id}` },
    })),
    ...only(strays > 0, () => ({
      key: 'strays',
      group: 'Intakes',
      tone: 'check',
      state: `${count(strays)} unknown`,
      subject: 'Unknown addresses',
      reason: `${counted(strays, 'request')} to unknown intake addresses.`,
      action: { words: 'Open intakes', to: '/intakes' },
    })),
    ...routes
      .filter(each => each.state === 'draft')
      .map(({ id, name }): Attention => ({
        key: `draft ${id}`,
        group: 'Unfinished',
        tone: 'open',
        state: 'draft',
        subject: name,
        reason: 'Not published yet.',
        action: { words: 'Continue', to: `/routes/${id}` },
      })),
  ];
}

/** What the Desk is headed by. */
export const headingOf = (things: readonly Attention[]): string =>
  things.length === 0
    ? 'Nothing needs attention'
    : `${counted(things.length, 'thing')} ${things.length === 1 ? 'needs' : 'need'} attention`;
