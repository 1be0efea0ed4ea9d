import type { Call } from '../route';
import { identityName, scopeOf, type Scope } from '../scope';
import { setOwn, type Submission } from '../submission';
import { stoppers, type Planned } from '../request';
import { Problem, type TransformContext } from '../transform';
import type { Done } from './done';
import { likelyAnswers, scopesOf, type Stage } from './compile';
import { isSameItem, itemNames } from './item';

/** A request as far as it is known before anything is looked up or answered. */
export interface ForeseenRequest {
  callId: string;
  item: string;
  purpose: 'find' | 'create';
  planned: Planned;
}

export interface Foreseen {
  requests: ForeseenRequest[];
  /** What would hold the delivery, whatever is answered: half a delivery is worse than none. */
  problems: Problem[];
  /** What would hold it besides where a look-up finds nothing, so that a record is made. */
  ifNew: Problem[];
}

/**
 * What a delivery would ask for and what would hold it, before the first request is made. **This is the one place that says
 * whether a submission can be sent**: delivery holds by it, previews and the rehearsal show it.
 */
export function foresee(
  stages: readonly Stage[],
  submission: Submission,
  context: TransformContext,
  earlier: readonly Done[] = [],
): Foreseen {
  const answers = likelyAnswers(stages.map(({ call, main }) => ({ call, operation: main.operation })));
  for (const { call } of stages) {
    const known = earlier.find(each => isDoneFor(call, each));
    if (!known) continue;
    setOwn(answers, call.id, known.answer);
    if (known.identity !== undefined) setOwn(answers, identityName(call.id), known.identity);
  }
  const foreseen: Foreseen = { requests: [], problems: [], ifNew: [] };
  for (const stage of stages)
    for (const { scope, item, known } of itemsOf(stage, scopeOf(submission, answers), earlier)) {
      if (known) continue;
      const found = stage.find?.call.plan(scope, context);
      const planned = stage.main.plan(scope, context);
      const request = { callId: stage.call.id, item };
      if (found) foreseen.requests.push({ ...request, purpose: 'find', planned: found });
      foreseen.requests.push({ ...request, purpose: 'create', planned });
      if (stage.call.whenFailed === 'passOver' || stage.waits) continue;
      const stops = stoppersBefore(stage, planned);
      foreseen.problems.push(...(found ? findProblemsBefore(stage, found) : stops));
      if (stage.find?.settings.whenNone === 'create') foreseen.ifNew.push(...stops);
    }
  return foreseen;
}

/** What a call is made for, each with its name, and with what was done for it in a try before. */
export function itemsOf({ call, goes }: Stage, around: Scope, earlier: readonly Done[]) {
  const scopes = scopesOf(call, goes, around);
  const names = itemNames(scopes);
  const before = earlier.filter(each => isDoneFor(call, each));
  return scopes.map((scope, at) => {
    const item = names[at]!;
    return { scope, item, known: before.find(each => isSameItem(each.item, item)) };
  });
}

/** Target and operation that a call is made with: one that was changed to another is not done. */
export const madeWith = ({ targetId, operationId }: Call): string => `${targetId} ${operationId}`;

const isDoneFor = (call: Call, done: Done): boolean =>
  done.callId === call.id && (done.with === undefined || done.with === madeWith(call));

/** What stops a request whatever is answered: what its lines draw from answers is not known before. */
function stoppersBefore({ main }: Pick<Stage, 'main'>, planned: Planned): Problem[] {
  const outcomes = planned.outcomes.filter((_, at) => !main.lines[at]!.waits);
  const address = main.lines.some(each => each.waits && each.field?.in === 'path') ? null : planned.address;
  return stoppers({ ...planned, address, outcomes });
}

/** What stops a lookup whatever is answered. Which lines the record that is found needs is not known before. */
const findProblemsBefore = (stage: Stage, planned: Planned): Problem[] =>
  stage.find!.call.lines[0]!.waits
    ? []
    : findProblems(stage, {
        ...planned,
        outcomes: planned.outcomes.filter((_, at) => !stage.find!.call.lines[at]!.waits),
      });

/** What stops a lookup. Nobody is looked up by nothing: that would find anyone. */
export const findProblems = ({ find }: Pick<Stage, 'find'>, planned: Planned): Problem[] => [
  ...(find!.settings.equals === '' && !find!.settings.takesAny
    ? [new Problem('find.open', 'The value to compare with a record is not set.', null)]
    : []),
  ...stoppers(planned).map(problem =>
    problem.code === 'line.blank'
      ? new Problem('find.blank', `Nothing to look up: ${find!.settings.line.to} is blank in this submission.`, null)
      : problem,
  ),
];
