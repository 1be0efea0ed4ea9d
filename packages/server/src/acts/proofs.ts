import { MOST_PROOFS, type AcceptInput, type ProposedProofs } from '@grammata/contract';
import {
  answerKey,
  coverOf,
  enact,
  exercised,
  holdAll,
  type ProofResult,
  type Play,
  type RecordedAnswers,
} from '@grammata/core/proof';
import type { RouteDefinition } from '@grammata/core/route';
import { aboutSubmission, parseJson, type Submission } from '@grammata/core/submission';
import { Problem } from '@grammata/core/transform';
import { now } from '../clock';
import { RECORDED } from '../delivery';
import { fieldFault, HttpProblem, notFound } from '../problems';
import type { Services } from '../services';
import { type ProofRow, type RouteRow } from '../store';
import type { Actor } from './actor';
import { mustBeAsShown, markOf } from './asShown';
import { sampleOf } from './sampleOf';

type Parts = Pick<Services, 'store' | 'deliveries' | 'timers' | 'live' | 'log'>;

/** Samples that are looked at for a proposal, and how many of them in one turn. */
const LOOKED = 2000;
const AT_ONCE = 50;

/** The draft as a play. Throws HttpProblem where one of its calls can't be made. */
export function playOf({ deliveries }: Pick<Parts, 'deliveries'>, draft: RouteDefinition): Play {
  const route = deliveries.preparation.route(draft, 'live');
  if (route instanceof Problem) throw new HttpProblem(409, route.message);
  return { stages: route.stages, condition: draft.condition, context: route.context };
}

/** Proposes the samples that are worth proving, among the newest. */
export async function proposeProofs(parts: Parts, route: RouteRow): Promise<ProposedProofs> {
  const { store, timers } = parts;
  const play = playOf(parts, route.draft);
  const rows = store.forms.samples(route.formId, LOOKED);
  const sets: string[][] = [];
  for (let from = 0; from < rows.length; from += AT_ONCE) {
    for (const { data } of rows.slice(from, from + AT_ONCE)) sets.push(exercised(play, data));
    await timers.turn();
  }
  const { chosen, uncovered } = coverOf(sets);
  const proved = new Set(store.proofs.of(route.id).map(each => each.sampleId));
  return {
    looked: rows.length,
    uncovered,
    samples: chosen.map(({ place, shows }) => {
      const { id, data } = rows[place]!;
      return { sampleId: id, name: aboutSubmission(data), shows, isProved: proved.has(id) };
    }),
  };
}

/** Approves what the draft gives for samples. Throws HttpProblem where one of them is not there, or is proved already. */
export function approveSamples(parts: Parts, actor: Actor, route: RouteRow, sampleIds: readonly string[]): void {
  const { store, log } = parts;
  const before = store.proofs.of(route.id);
  const proved = new Set(before.map(each => each.sampleId));
  const fresh = [...new Set(sampleIds)].filter(each => !proved.has(each));
  if (fresh.length === 0) throw fieldFault('sampleIds', 'These samples already have proofs.');
  if (before.length + fresh.length > MOST_PROOFS)
    throw fieldFault('sampleIds', `A route has at most ${MOST_PROOFS} proofs.`);
  const play = playOf(parts, route.draft);
  const rows = fresh.map(sampleId => {
    const submission = sampleOf({ store }, sampleId);
    const answers = answersFor(parts, route.id, sampleId);
    return {
      ...madeOf(play, route.draft, submission, answers),
      loose: [],
      routeId: route.id,
      sampleId,
      name: aboutSubmission(submission),
      submission,
      at: now(),
      by: actor.name,
    };
  });
  store.proofs.add(rows);
  changed(parts, route.id);
  log.info({ actor: actor.id, route: route.id, proofs: rows.length }, 'rehearsals were approved');
}

/** Another as soon as a proof is accepted anew, loosened, or holds other answers. */
export const markOfProof = ({ approved, answers, loose, at }: ProofRow): string =>
  markOf([approved, answers, loose, at]);

/**
 * Accepts what the draft gives now for proofs that were approved otherwise. Throws HttpProblem where one is not there, or is not as it was
 * shown.
 */
export function acceptShown(parts: Parts, actor: Actor, route: RouteRow, { ids, marks }: AcceptInput): void {
  const shown = new Map(Object.entries(marks ?? {}));
  for (const proof of picked(parts.store.proofs.of(route.id), ids))
    mustBeAsShown(markOfProof(proof), shown.get(proof.id), 'Somebody else changed a proof.');
  acceptProofs(parts, actor, route, ids);
}

/** Accepts what the draft gives now for some of a route's proofs. Throws HttpProblem where one is not there. */
export function acceptProofs(parts: Parts, actor: Actor, route: RouteRow, ids: readonly string[]): void {
  const { store, log } = parts;
  const play = playOf(parts, route.draft);
  const rows = picked(store.proofs.of(route.id), ids).map(proof => {
    const { id, submission, answers } = proof;
    // What a person said of a place stays said.
    return { ...madeOf(play, route.draft, submission, answers), id, at: now(), by: actor.name };
  });
  store.proofs.update(rows);
  changed(parts, route.id);
  log.info({ actor: actor.id, route: route.id, proofs: rows.length }, 'proofs were accepted');
}

/** Says which places of a proof are not held to the letter. Throws HttpProblem where there is no such proof. */
export function loosenProof(parts: Parts, actor: Actor, route: RouteRow, id: string, loose: ProofRow['loose']): void {
  const [proof] = picked(parts.store.proofs.of(route.id), [id]);
  parts.store.proofs.update([{ id: proof!.id, loose }]);
  changed(parts, route.id);
  parts.log.info({ actor: actor.id, route: route.id, proof: id }, 'a proof was loosened');
}

export function removeProofs(parts: Parts, actor: Actor, route: RouteRow, ids: readonly string[]): void {
  if (parts.store.proofs.remove(route.id, ids) === 0) throw notFound('proof');
  changed(parts, route.id);
  parts.log.info({ actor: actor.id, route: route.id }, 'proofs were removed');
}

/** How the draft fares against its proofs. */
export function heldAgainst(parts: Pick<Parts, 'store' | 'deliveries'>, route: RouteRow): ProofResult[] {
  const proofs = parts.store.proofs.of(route.id);
  return proofs.length === 0 ? [] : holdAll(playOf(parts, route.draft), proofs);
}

const changed = ({ live }: Parts, id: string) => live.publish({ type: 'changed', what: 'route', id });

function picked(all: readonly ProofRow[], ids: readonly string[]): ProofRow[] {
  return ids.map(id => {
    const proof = all.find(each => each.id === id);
    if (!proof) throw notFound('proof');
    return proof;
  });
}

const madeOf = (play: Play, draft: RouteDefinition, submission: Submission, answers: RecordedAnswers) => ({
  approved: enact(play, submission, answers),
  answers,
  calls: draft.calls,
});

/** What targets really answered for a sample on this route, as far as that was recorded. */
function answersFor({ store }: Parts, routeId: string, sampleId: string): RecordedAnswers {
  const delivery = store.deliveries.lastOf(routeId, [sampleId]).get(sampleId);
  if (!delivery) return {};
  const answers: RecordedAnswers = {};
  // Of what is written the whole answer is kept.
  for (const { callId, item, what, answer } of store.deliveries.doneOf(delivery.id))
    if (what === 'created' || what === 'updated')
      answers[answerKey({ callId, item, purpose: what === 'created' ? 'create' : 'update' })] = answer;
  for (const { callId, item, purpose, response, outcome } of store.deliveries.attemptsOf(delivery.id)) {
    const key = answerKey({ callId, item, purpose });
    if (outcome !== 'delivered' || response === null || key in answers) continue;
    const answer = parseJson(response);
    if (answer !== undefined) answers[key] = answer;
    else if (response.length >= RECORDED)
      throw new HttpProblem(
        409,
        'A response for one of these samples is longer than what is stored of it.',
        'Proofs need complete responses. Choose samples with shorter responses, or test them again at the test address.',
      );
  }
  return answers;
}
