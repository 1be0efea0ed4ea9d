import { MOST_HELD, type ChangeTouch, type ChangeView } from '@grammata/contract';
import type { AnswerChange } from '@grammata/core/drift';
import { count, counted } from '../ui';

type Touch = ChangeTouch['touch'];

export const effects: Record<Touch, { mark: string; colour: string; words: string; head: string }> = {
  breaks: { mark: '!', colour: 'text-crimson', words: 'breaks', head: 'Breaks' },
  risks: { mark: '?', colour: 'text-ochre', words: 'may break', head: 'May break' },
  harmless: { mark: '·', colour: 'text-ink-3', words: 'not affected', head: 'Affects no route' },
};

/** What comes at all: no route’s business. */
export const isTraffic = ({ change }: Pick<ChangeView, 'change'>): boolean =>
  ['silent', 'flood', 'another-form'].includes(change);

const answered: Record<AnswerChange['change'], true> = {
  credentials: true,
  scheme: true,
  refused: true,
  answer: true,
  stored: true,
};

/** A change of what a target answers: people mend it, here or there. */
export const answerChangeOf = ({ change }: Pick<ChangeView, 'change'>): AnswerChange['change'] | null =>
  Object.hasOwn(answered, change) ? (change as AnswerChange['change']) : null;

/** Deliveries that are held because of a change, and those that a target rejected because of it, as they are told. */
export const stoppedOf = ({ touches }: Pick<ChangeView, 'touches'>): { id: string; state: 'held' | 'dead' }[] => {
  const listed = (state: 'held' | 'dead', ids: readonly string[]) => [...new Set(ids)].map(id => ({ id, state }));
  return [
    ...listed(
      'held',
      touches.flatMap(each => each.deliveries),
    ),
    ...listed(
      'dead',
      touches.flatMap(each => each.failed),
    ),
  ];
};

/** Deliveries that went without an answer because of a change, and can be completed by sending them again. */
const lackingOf = ({ touches }: Pick<ChangeView, 'touches'>): number =>
  touches.reduce((sum, each) => sum + (each.completes ? each.lacking.length : 0), 0);

/** A change of a form that proved wrong, or was over, without anybody. */
export const isWithdrawn = ({ state, by, subject }: Pick<ChangeView, 'state' | 'by' | 'subject'>): boolean =>
  subject === 'form' && state === 'settled' && by === 'itself';

const DAY = 86_400_000;

/** What is listed although it is not open any more: something waits for it, or it was withdrawn within a day. */
export const isStillListed = (change: ChangeView, now = Date.now()): boolean =>
  stoppedOf(change).length > 0 ||
  (isWithdrawn(change)
    ? now - Date.parse(change.settledAt ?? '') < DAY
    : change.state === 'settled' && (lackingOf(change) > 0 || isLeftOut(change)));

/** Whether something is left out that could go by now. */
const isLeftOut = ({ touches }: Pick<ChangeView, 'touches'>): boolean =>
  touches.some(each => each.leftOut.some(one => one.goes));

/** How many submissions are held and how many failed: `2 submissions held, 1 failed`; empty for none. From the most that are counted on, so many or more. */
export function stoppedWords(touches: ChangeView['touches'], noun = true): string {
  const stopped = stoppedOf({ touches });
  const words = (state: 'held' | 'dead', isFull: boolean, word: string) => {
    const many = stopped.filter(each => each.state === state).length;
    return many === 0 ? [] : [{ many: `${count(many)}${isFull ? ' or more' : ''}`, is: many, word }];
  };
  return [
    ...words(
      'held',
      touches.some(each => each.deliveries.length >= MOST_HELD),
      'held',
    ),
    ...words(
      'dead',
      touches.some(each => each.failed.length >= MOST_HELD),
      'failed',
    ),
  ]
    .map(
      ({ many, is, word }, at) =>
        `${many}${noun && at === 0 ? (is === 1 ? ' submission' : ' submissions') : ''} ${word}`,
    )
    .join(', ');
}

/** What sending them again is called. */
export function sendWords(change: Pick<ChangeView, 'touches'>): string {
  const stopped = stoppedOf(change);
  const are = (state: 'held' | 'dead') => stopped.some(each => each.state === state);
  const what = are('held') ? (are('dead') ? 'was held or failed' : 'was held') : 'failed';
  return `Send what ${what} (${count(stopped.length)})`;
}

/** What a change does to routes: the word that has a colour, and the rest of the heading. */
export function effectWords(change: Pick<ChangeView, 'state' | 'by' | 'subject' | 'touch' | 'touches'>): {
  head: string;
  rest: string;
} {
  const { state, touch, touches } = change;
  const waiting = stoppedWords(touches);
  // What proved wrong took no answer away.
  const lacking = isWithdrawn(change) ? 0 : lackingOf(change);
  const rest = waiting || (lacking > 0 ? `${counted(lacking, 'submission')} incomplete` : '');
  if (isWithdrawn(change)) return { head: 'Withdrawn', rest };
  if (state !== 'open') return { head: state === 'settled' ? 'Resolved' : 'Dismissed', rest };
  if (touch === 'harmless') return { head: effects.harmless.head, rest: '' };
  const routes = touches.filter(each => each.touch === touch);
  const [only] = routes;
  const unsendable = Math.max(0, ...routes.map(each => each.held));
  const since =
    waiting || (unsendable > 0 && touch === 'breaks' ? `${counted(unsendable, 'submission')} can’t be sent` : '');
  const which = routes.length === 1 ? only!.name : counted(routes.length, 'route');
  return { head: effects[touch].head, rest: since ? `${which}: ${since}` : which };
}

/** Where a route uses what changed. */
export function usesWords(uses: ChangeTouch['uses']): string {
  const lines = [...new Set(uses.flatMap(each => each.to ?? []))];
  const others = [
    ...new Set(uses.filter(each => each.to === null).map(each => (each.what === 'line' ? 'the call' : each.what))),
  ];
  return [...lines, ...others].join(', ');
}
