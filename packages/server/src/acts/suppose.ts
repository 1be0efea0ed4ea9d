import type { SupposedView, SupposeInput } from '@grammata/contract';
import {
  fareOf,
  formSuppositions,
  supposedOfForm,
  supposedOfTarget,
  targetSuppositions,
  wholeSuppositions,
  type FormSupposition,
  type TargetSupposition,
} from '@grammata/core/drift';
import { compileStages } from '@grammata/core/perform';
import { differingOf } from '@grammata/core/proof';
import { operationsUsed, questionsUsed, targetsOf, usesOf, type RouteDefinition } from '@grammata/core/route';
import { questionKey } from '@grammata/core/scope';
import type { Submission } from '@grammata/core/submission';
import { Problem } from '@grammata/core/transform';
import { fieldFault, notFound } from '../problems';
import type { Services } from '../services';
import type { ProofRow, RouteRow, TargetRow } from '../store';

/** Newest submissions that it is tried on. */
const LOOKED = 60;

type Parts = Pick<Services, 'store' | 'decoders'>;

/** What would become of the routes if a form or a target were otherwise. Throws HttpProblem where there is no such thing. */
export async function suppose(parts: Parts, input: SupposeInput): Promise<SupposedView[]> {
  const { store } = parts;
  const { subject, subjectId, operationId, what } = input;
  const known = subject === 'form' ? { ...formSuppositions, ...wholeSuppositions } : targetSuppositions;
  if (!Object.hasOwn(known, what)) throw fieldFault('what', 'This change is not possible here.');
  if (subject === 'form' && !store.forms.named(subjectId)) throw notFound('form');
  if (subject === 'target' && !store.targets.byId(subjectId)?.operations.some(each => each.id === operationId))
    throw notFound('operation');
  const supposedSubmissions = what === 'message' ? await readAs(parts, subjectId, input.message) : null;
  return store.routes.all().flatMap((route): SupposedView[] => {
    const { definition, formId } = store.routes.doing(route);
    const isTouched =
      subject === 'form' ? formId === subjectId : operationsUsed(definition, subjectId).includes(operationId);
    if (!isTouched) return [];
    const of = { routeId: route.id, name: route.draft.name, state: route.state };
    return [
      {
        ...of,
        ...(supposedSubmissions
          ? asSaid({ store }, definition, supposedSubmissions)
          : asSupposed({ store }, route, input)),
      },
    ];
  });
}

type Supposed = Omit<SupposedView, 'routeId' | 'name' | 'state'>;

/** What a form would send, read as its messages are. Throws HttpProblem where it can't be read. */
async function readAs({ store, decoders }: Parts, formId: string, text: string): Promise<Submission[]> {
  const { intakeId } = store.forms.byId(formId)!.form;
  const known = { ways: store.arrivals.waysOf(intakeId), files: store.forms.questions.filesAsked(intakeId) };
  const message = { body: Buffer.from(text), file: null, contentType: null, url: '/', known };
  const [reading] = await decoders.read([message], [store.intakes.pinsOf(intakeId)]);
  if (!reading) throw fieldFault('message', 'Use fewer submissions.');
  if (reading.submissions.length === 0) throw fieldFault('message', reading.trouble ?? 'It contains no submission.');
  return reading.submissions.map(each => JSON.parse(each.data) as Submission);
}

const targetsFor = ({ store }: Pick<Parts, 'store'>, definition: RouteDefinition) =>
  targetsOf(definition).flatMap(id => store.targets.byId(id) ?? []);

/** How a route would fare with a message that its form might send. */
function asSaid(parts: Pick<Parts, 'store'>, definition: RouteDefinition, said: readonly Submission[]): Supposed {
  const { looked, held, reasons } = fareOf(definition, targetsFor(parts, definition), said);
  const asked = new Set(said.flatMap(each => [...each.fields, ...each.questions].map(({ key }) => questionKey(key))));
  const left = said.length - looked;
  return {
    uses: questionsUsed(definition).filter(key => !asked.has(key)).length,
    looked: said.length,
    held: 0,
    heldThen: held + left,
    reasons: left > 0 ? [NOT_THROUGH, ...reasons] : reasons,
    // They are of before.
    proofs: 0,
    differing: 0,
  };
}

const NOT_THROUGH = 'They no longer pass the filter.';

/** How a route would fare with its newest submissions, and its proofs, if one thing were otherwise. */
function asSupposed(parts: Pick<Parts, 'store'>, route: RouteRow, input: SupposeInput): Supposed {
  const { store } = parts;
  const { subject, subjectId, operationId, key, what, option } = input;
  const { definition, formId } = store.routes.doing(route);
  const isForm = subject === 'form';
  const supposedTarget = (row: TargetRow): TargetRow =>
    !isForm && row.id === subjectId
      ? { ...row, operations: supposedOfTarget(row.operations, operationId, key, what as TargetSupposition, option) }
      : row;
  const supposedSamples = (all: Submission[]) =>
    isForm ? supposedOfForm(all, key, what as FormSupposition, option) : all;
  const samples = store.forms.samples(formId, LOOKED).map(each => each.data);
  const targets = targetsFor(parts, definition);
  const stands = fareOf(definition, targets, samples);
  const then = fareOf(definition, targets.map(supposedTarget), supposedSamples(samples));
  const proofs = store.proofs.of(route.id);
  return {
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
      ...(then.looked < stands.looked ? [NOT_THROUGH] : []),
      ...then.reasons.filter(each => !stands.reasons.includes(each)),
    ],
    proofs: proofs.length,
    differing: differing(definition, targets.map(supposedTarget), proofs, supposedSamples),
  };
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
