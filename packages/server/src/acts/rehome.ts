import type { RehomeInput, RehomeView } from '@grammata/contract';
import { fareOf } from '@grammata/core/drift';
import { ontoForm, ontoTarget, type Rehomed } from '@grammata/core/rehome';
import { targetsOf } from '@grammata/core/route';
import { questionKey } from '@grammata/core/scope';
import { isWriting } from '@grammata/core/target';
import { settleKnownForm } from '../drift';
import { fieldFault } from '../problems';
import type { Services } from '../services';
import type { RouteRow } from '../store';
import type { Actor } from './actor';
import { saveDraft } from './routes';

type Parts = Pick<Services, 'store' | 'live' | 'deliveries' | 'courier' | 'log'>;

/** Newest submissions that it is tried on. */
const LOOKED = 60;

interface Proposed extends Rehomed {
  formId: string;
  offered: RehomeView['offered'];
}

/** A route's draft as it would hang on another form or target. Throws HttpProblem where that is not there. */
export function proposeRehome({ store }: Pick<Parts, 'store'>, route: RouteRow, input: RehomeInput): RehomeView {
  const { definition, moves, formId, offered } = rehomed({ store }, route, input);
  const samples = store.forms.samples(formId, LOOKED).map(each => each.data);
  return {
    moves,
    revision: route.revision,
    offered,
    samples: fareOf(
      definition,
      targetsOf(definition).flatMap(id => store.targets.byId(id) ?? []),
      samples,
    ),
    proofs: store.proofs.of(route.id).length,
  };
}

function rehomed({ store }: Pick<Parts, 'store'>, route: RouteRow, { what, was, now, chosen }: RehomeInput): Proposed {
  const choices = new Map(Object.entries(chosen).map(([key, choice]) => [key, choice === '' ? null : choice]));
  if (what === 'form') {
    const [before, after] = [store.forms.byId(route.formId), store.forms.byId(now)];
    if (!before || !after || after.form.id === route.formId) throw fieldFault('now', 'Choose another form.');
    const offered = after.schema.fields.map(({ key, label }) => ({ key: questionKey(key), label }));
    return { ...ontoForm(route.draft, before.schema, after.schema, choices), formId: after.form.id, offered };
  }
  const [from, to] = [store.targets.byId(was), store.targets.byId(now)];
  if (!to || to.id === was) throw fieldFault('now', 'Choose another target.');
  if (!targetsOf(route.draft).includes(was)) throw fieldFault('was', 'This route does not use it.');
  const exchange = { from: from ?? { id: was, operations: [] }, to };
  const offered = to.operations.filter(isWriting).map(({ id, label }) => ({ key: id, label }));
  return { ...ontoTarget(route.draft, exchange, choices), formId: route.formId, offered };
}

/** Hangs a route's draft on another form or target. Throws HttpProblem where the draft was edited since that was shown. */
export function rehome(parts: Parts, actor: Actor, route: RouteRow, input: RehomeInput): RouteRow {
  const { definition, formId } = rehomed(parts, route, input);
  const saved = saveDraft(parts, actor, route, { definition: definition as never, revision: input.revision }, formId);
  if (input.what === 'form') {
    parts.store.forms.update(formId, { state: 'adopted' });
    settleKnownForm(parts.store, formId, actor.name);
  }
  parts.log.info({ actor: actor.id, route: route.id, what: input.what, now: input.now }, 'a route was re-homed');
  return saved;
}
