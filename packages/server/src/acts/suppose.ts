import type { SupposedView, SupposeInput } from '@grammata/contract';
import {
  fareOf,
  formSuppositions,
  supposedOfForm,
  supposedOfTarget,
  targetSuppositions,
  type FormSupposition,
  type TargetSupposition,
} from '@grammata/core/drift';
import { compileStages } from '@grammata/core/perform';
import { differingOf } from '@grammata/core/proof';
import { operationsUsed, targetsOf, usesOf, type RouteDefinition } from '@grammata/core/route';
import type { Submission } from '@grammata/core/submission';
import { Problem } from '@grammata/core/transform';
import { fieldFault, notFound } from '../problems';
import type { Services } from '../services';
import type { ProofRow, TargetRow } from '../store';

/** Newest submissions that it is tried on. */
const LOOKED = 60;

/** What would become of the routes if a form or a target were otherwise. Throws HttpProblem where there is no such thing. */
export function suppose({ store }: Pick<Services, 'store'>, input: SupposeInput): SupposedView[] {
  const { subject, subjectId, operationId, key, what, option } = input;
  const isForm = subject === 'form';
  if (!Object.hasOwn(isForm ? formSuppositions : targetSuppositions, what))
    throw fieldFault('what', 'That can’t be supposed of it.');
  if (isForm && !store.forms.named(subjectId)) throw notFound('form');
  if (!isForm && !store.targets.byId(subjectId)?.operations.some(each => each.id === operationId))
    throw notFound('operation');
  const supposedTarget = (row: TargetRow): TargetRow =>
    !isForm && row.id === subjectId
      ? { ...row, operations: supposedOfTarget(row.operations, operationId, key, what as TargetSupposition, option) }
      : row;
  const supposedSamples = (all: Submission[]) =>
    isForm ? supposedOfForm(all, key, what as FormSupposition, option) : all;
  return store.routes.all().flatMap((route): SupposedView[] => {
    const { definition, formId } = store.routes.doing(route);
    const isTouched = isForm ? formId === subjectId : operationsUsed(definition, subjectId).includes(operationId);
    if (!isTouched) return [];
    const samples = store.forms.samples(formId, LOOKED).map(each => each.data);
    const targets = targetsOf(definition).flatMap(id => store.targets.byId(id) ?? []);
    const stands = fareOf(definition, targets, samples);
    const then = fareOf(definition, targets.map(supposedTarget), supposedSamples(samples));
    const proofs = store.proofs.of(route.id);
    return [
      {
        routeId: route.id,
        name: route.draft.name,
        state: route.state,
        uses: isForm
          ? usesOf(definition, key).length
          : definition.calls
              .filter(each => each.targetId === subjectId && each.operationId === operationId)
              .flatMap(each => each.lines)
              .filter(line => line.to === key && line.source !== null).length,
        looked: stands.looked,
        held: stands.held,
        heldThen: then.held + Math.max(0, stands.looked - then.looked),
        reasons: [
          ...(then.looked < stands.looked ? ['The condition does not let them through any more.'] : []),
          ...then.reasons.filter(each => !stands.reasons.includes(each)),
        ],
        proofs: proofs.length,
        differing: differing(definition, targets.map(supposedTarget), proofs, supposedSamples),
      },
    ];
  });
}

/** Proofs that would differ, of the samples as they would come. */
function differing(
  definition: RouteDefinition,
  targets: TargetRow[],
  proofs: readonly ProofRow[],
  supposed: (all: Submission[]) => Submission[],
): number {
  const stages = compileStages(definition.calls, targets);
  if (stages instanceof Problem) return proofs.length;
  const play = { stages, condition: definition.condition, context: { timeZone: definition.terms.timeZone } };
  return differingOf(
    play,
    proofs.map(proof => ({ ...proof, submission: supposed([proof.submission])[0]! })),
  );
}
