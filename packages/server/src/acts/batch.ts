import {
  MOST_TRIED,
  type BatchInput,
  type BatchItem,
  type BatchView,
  type RunView,
  type WorkView,
  type TakeAnswersInput,
} from '@grammata/contract';
import { compileCondition } from '@grammata/core/condition';
import {
  differences,
  enact,
  patternOf,
  type Difference,
  type Pattern,
  type RecordedAnswers,
} from '@grammata/core/proof';
import { keysOf } from '@grammata/core/route';
import { isOfDelivery, referenceOf, scopeOf } from '@grammata/core/scope';
import type { Submission } from '@grammata/core/submission';
import { Problem } from '@grammata/core/transform';
import { variantIdeas } from '@grammata/core/variant';
import { iso, now } from '../clock';
import { Trying } from '../delivery';
import { randomPart } from '../ids';
import { fieldFault, notFound } from '../problems';
import type { ProofRow, RouteRow } from '../store';
import { inBackground } from '../work';
import type { Actor } from './actor';
import { mustBeAsShown } from './asShown';
import { playOf } from './proofs';
import { sampleOf } from './sampleOf';
import { trialParts, type TryingParts as Parts } from './trying';

/** Characters of a request and an answer that a report keeps. */
const KEPT = 4000;

interface Wanted {
  name: string;
  why: string;
  data: Submission;
  proof?: ProofRow;
}

/**
 * Tries variants of a sample, and the samples of the route's proofs, with the draft: on the side to try things on, one after the other, in
 * the background. One report tells how all of them fared. Throws HttpProblem where there is nothing to try.
 */
export function tryBatch(parts: Parts, actor: Actor, route: RouteRow, input: BatchInput): Pick<WorkView, 'id'> {
  const { store, workshop, timers, live, log } = parts;
  const all = wantedOf(parts, route, input);
  if (all.length === 0) throw fieldFault('ideas', 'Choose something to test.');
  const wanted = all.slice(0, MOST_TRIED);
  const work = workshop.start(
    { kind: 'batch', title: `Testing ${wanted.length} samples with “${route.draft.name}”`, routeId: route.id },
    wanted.length,
  );
  log.info({ actor: actor.id, route: route.id, samples: wanted.length }, 'a batch is tried');
  const report: BatchView = {
    at: iso(now()),
    by: actor.name,
    revision: route.revision,
    wanted: all.length,
    items: [],
  };
  const run = async () => {
    for (const each of wanted) {
      if (work.isStopped) break;
      report.items.push(await tried(parts, route, each));
      work.at(report.items.length);
    }
    store.proofs.keepBatch(route.id, report);
    const fine = report.items.filter(each => each.fate === 'fine' || each.fate === 'leftOut').length;
    work.finish(`${fine} of ${report.items.length} passed.`);
    live.publish({ type: 'changed', what: 'route', id: route.id });
  };
  void inBackground(timers, work, run, () => `after ${report.items.length} of ${wanted.length}`);
  return { id: work.id };
}

function wantedOf(parts: Parts, route: RouteRow, { sampleId, ideas, proofs }: BatchInput): Wanted[] {
  const { store } = parts;
  const variants = (): Wanted[] => {
    const base = sampleOf(parts, sampleId);
    const { schema } = store.forms.byId(route.formId)!;
    // Whoever is called so is known to no target.
    const made = variantIdeas(base, schema, `somebody-${randomPart(6).toLowerCase()}`);
    const asked = new Set(ideas);
    return [
      ...(asked.has('recorded') ? [{ name: 'Unchanged', why: 'Typical values must be accepted.', data: base }] : []),
      ...made.filter(each => asked.has(each.id)).map(({ name, why, submission }) => ({ name, why, data: submission })),
    ];
  };
  const proved = (): Wanted[] =>
    store.proofs.of(route.id).map(proof => ({
      name: proof.name,
      why: 'It has a proof.',
      data: proof.submission,
      proof,
    }));
  return [...(ideas.length > 0 ? variants() : []), ...(proofs ? proved() : [])];
}

async function tried(parts: Parts, route: RouteRow, { name, why, data, proof }: Wanted): Promise<BatchItem> {
  const about = { name, why };
  if (!compileCondition(route.draft.condition)(scopeOf(data)))
    return { ...about, fate: 'leftOut', words: 'Left out by the filter.', asks: [], done: [] };
  const trying = Trying.of(trialParts(parts), route.draft, { submissionId: '', data }, true);
  if (trying instanceof Problem) return { ...about, fate: 'held', words: trying.message, asks: [], done: [] };
  while (trying.next) await trying.step();
  const run = trying.view();
  const asks = run.asks.map(each => ({
    ...each,
    request: each.request.slice(0, KEPT),
    ...(each.response && { response: each.response.slice(0, KEPT) }),
  }));
  const fate = fateOf(run);
  if (!proof) return { ...about, ...fate, asks, done: run.done };
  const differences = fate.fate === 'refused' ? [] : answeredOtherwise(parts, route, proof, trying.answers);
  const told =
    fate.fate === 'fine' && differences.length > 0
      ? {
          fate: 'otherwise' as const,
          words: `With the new responses, ${differences.length === 1 ? 'one thing differs' : `${differences.length} things differ`} from what was approved.`,
        }
      : fate;
  return { ...about, ...told, asks, done: run.done, proof: { id: proof.id, answers: trying.answers, differences } };
}

/** Patterns whose values are others each time a record is made. */
const volatile = new Set<Pattern | null>(['number', 'uuid', 'time', 'date']);

/** What a route gives otherwise than was approved where targets answer like this; identifiers and times of answers are others each time. */
function answeredOtherwise(parts: Parts, route: RouteRow, proof: ProofRow, answers: RecordedAnswers): Difference[] {
  const now = enact(playOf(parts, route.draft), proof.submission, answers);
  const lines = new Map(route.draft.calls.flatMap(call => call.lines.map(line => [line.id, line] as const)));
  const isVolatile = ({ kind, lineId, was, now: is }: Difference) => {
    const line = lineId === null ? undefined : lines.get(lineId);
    return (
      kind === 'value' &&
      line !== undefined &&
      keysOf(line).some(key => isOfDelivery(referenceOf(key))) &&
      volatile.has(patternOf(was)) &&
      patternOf(was) === patternOf(is)
    );
  };
  // An address that holds an identifier of an answer is another one each time.
  return differences(proof.approved, now, proof.loose).filter(each => !isVolatile(each) && each.kind !== 'address');
}

/**
 * Has a proof hold what the targets answered in the last batch: what differs from then on is shown like any other difference. Throws
 * HttpProblem where it was not tried.
 */
export function takeAnswers(
  parts: Parts,
  actor: Actor,
  route: RouteRow,
  proofId: string,
  { at }: TakeAnswersInput,
): void {
  const { store, live, log } = parts;
  const batch = store.proofs.batch(route.id);
  const tried = batch?.items.find(each => each.proof?.id === proofId)?.proof;
  if (!tried || !store.proofs.of(route.id).some(each => each.id === proofId)) throw notFound('proof that was tried');
  mustBeAsShown(batch!.at, at, 'Another test was started.');
  store.proofs.update([{ id: proofId, answers: tried.answers }]);
  live.publish({ type: 'changed', what: 'route', id: route.id });
  log.info({ actor: actor.id, route: route.id, proof: proofId }, 'a proof holds what is answered now');
}

/** How a run went, in a word and a sentence. */
function fateOf({ problems, done }: RunView): Pick<BatchItem, 'fate' | 'words'> {
  const [problem] = problems;
  if (problem) return { fate: problem.code === 'target.refused' ? 'refused' : 'held', words: problem.message };
  const failed = done.find(each => each.what === 'failed');
  if (failed) return { fate: 'refused', words: failed.note ?? 'A call failed and was skipped.' };
  const compared = done.flatMap(each => each.compared ?? []);
  const amiss = compared.filter(each => !['same', 'reformatted'].includes(each.verdict));
  if (amiss.length > 0)
    return { fate: 'otherwise', words: `Not stored as sent: ${amiss.map(each => each.field).join(', ')}.` };
  const parts = [
    counted(done, 'created', 'created'),
    counted(done, 'updated', 'changed'),
    counted(done, 'unchanged', 'left unchanged'),
    counted(done, 'left', 'skipped'),
    compared.length > 0 && `${compared.length} values stored as sent`,
  ].filter(Boolean);
  return { fate: 'fine', words: parts.length === 0 ? 'Nothing to send.' : `${parts.join(', ')}.` };
}

const counted = (done: RunView['done'], what: RunView['done'][number]['what'], words: string): string | false => {
  const count = done.filter(each => each.what === what).length;
  return count > 0 && `${count} ${words}`;
};
