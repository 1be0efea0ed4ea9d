import type { DeskView } from '@grammata/contract';

/** The steps from an empty installation to the first delivered record, in their order. */
export const steps = ['receive', 'read', 'map', 'check', 'live'] as const;
export type Step = (typeof steps)[number];

/** What there is of the form that is being connected. */
export interface Progress {
  /** Messages at its intake. */
  messages: number;
  hasForm: boolean;
  hasRoute: boolean;
  isLive: boolean;
}

/** How far one can go: the first step whose work is not done. */
export function reachOf({ messages, hasForm, hasRoute, isLive }: Progress): Step {
  if (messages === 0) return 'receive';
  if (!hasForm) return 'read';
  if (!hasRoute) return 'map';
  return isLive ? 'live' : 'check';
}

/**
 * The step that is open: the one asked for, if it can be reached; else where work is to be done. What was read, and a mapping, are never passed
 * by without somebody saying so.
 */
export function stepAt(asked: string | null, progress: Progress): Step {
  const reach = reachOf(progress);
  const furthest = progress.hasRoute ? 'live' : reach;
  if (asked !== null && steps.includes(asked as Step) && steps.indexOf(asked as Step) <= steps.indexOf(furthest))
    return asked as Step;
  if (reach === 'map') return 'read';
  return reach === 'check' ? 'map' : reach;
}

/** Whether a step is ticked: it lies before the open one, or it is done whichever is open. A mapping is done only when somebody went on from it. */
export function isPassed(step: Step, open: Step, { messages, hasForm, isLive }: Progress): boolean {
  if (step === open) return false;
  if (isLive || steps.indexOf(step) < steps.indexOf(open)) return true;
  return step === 'receive' ? messages > 0 : step === 'read' && hasForm;
}

/** Whether the Desk of an installation opens with the guide by itself: nothing was ever live, and at most one route is begun. */
export const isNew = ({ routes }: Pick<DeskView, 'routes'>): boolean =>
  routes.length <= 1 && routes.every(each => each.state === 'draft');
