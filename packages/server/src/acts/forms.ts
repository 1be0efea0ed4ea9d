import type { FormInput, QuestionInput, SampleInput, VariantInput } from '@grammata/contract';
import { isSubmission } from '@grammata/core/submission';
import { settleKnownForm } from '../drift';
import { fieldFault, HttpProblem, notFound } from '../problems';
import type { Services } from '../services';
import type { FormRow, SubmissionRow, VariantRow } from '../store';
import { inBackground } from '../work';
import type { Actor } from './actor';

type Parts = Pick<Services, 'store' | 'ledger' | 'live' | 'log' | 'workshop' | 'timers'>;

const changed = ({ live }: Parts, formId: string) => live.publish({ type: 'form', formId });

/** Adopts a form that was seen, has it ignored, or gives it another name. Throws HttpProblem where a route takes it on. */
export async function changeForm(parts: Parts, actor: Actor, form: FormRow, input: FormInput): Promise<void> {
  const { store, log } = parts;
  const [route] = input.state === 'ignored' ? store.routes.ofForm(form.id) : [];
  if (route)
    throw new HttpProblem(
      409,
      `The route “${route.draft.name}” uses this form.`,
      'Switch its form under Delivery, or remove the route.',
    );
  const { name, sameAs, ...rest } = input;
  if (sameAs !== undefined) await tellSame(parts, form, sameAs === '' ? null : sameAs);
  const own = form.ownName ?? form.name;
  // The name that its builder gave it stays known.
  const names = name === undefined ? {} : named(name, own);
  store.forms.update(form.id, { ...rest, ...names });
  if (input.state !== undefined || sameAs !== undefined) settleKnownForm(store, form.id, actor.name);
  log.info({ actor: actor.id, form: form.id, ...input }, 'a form was changed');
  changed(parts, form.id);
}

/** Throws HttpProblem where the other is no form that it could be the same as. */
async function tellSame(parts: Parts, form: FormRow, other: string | null): Promise<void> {
  const { store, ledger, workshop, timers, live } = parts;
  if (other === form.sameAs) return;
  if (other !== null) {
    const target = store.forms.byId(other)?.form;
    if (!target || target.id === form.id || target.intakeId !== form.intakeId || target.sameAs !== null)
      throw fieldFault('sameAs', 'Choose another form of the same intake.');
    if (store.routes.ofForm(form.id).length > 0)
      throw new HttpProblem(
        409,
        `A route uses “${form.name}”.`,
        'Switch its form under Delivery, or remove the route.',
      );
    if ((store.forms.byId(form.id)?.same.length ?? 0) > 0)
      throw new HttpProblem(409, `Other forms are merged into “${form.name}”.`, 'Separate them first.');
  }
  const touched = [form.id, form.sameAs, other].filter(each => each !== null);
  await ledger.tellSame({ formId: form.id, sameAs: other });
  const title = other === null ? `Separating “${form.name}”` : `Merging “${form.name}”`;
  const work = workshop.start({ kind: 'reread', title, intakeId: form.intakeId }, null);
  const anew = async () => {
    for (const id of touched) await ledger.rebuild(id);
    work.finish('Its questions were counted again.');
    live.publish({ type: 'changed', what: 'intake', id: form.intakeId });
  };
  void inBackground(timers, work, anew, () => 'while counting the questions again');
}

const named = (wanted: string, own: string) =>
  wanted.trim() === '' || wanted.trim() === own ? { name: own, ownName: null } : { name: wanted.trim(), ownName: own };

/** Gives a question another name, or its own again. Throws HttpProblem where the form has no such question. */
export function nameQuestion(parts: Parts, actor: Actor, formId: string, { key, name }: QuestionInput): void {
  const { store, log } = parts;
  const known = store.forms.byId(formId)?.schema.fields.find(each => each.key === key);
  if (!known) throw notFound('question');
  const wanted = name.trim();
  store.forms.questions.name(formId, key, wanted === '' || wanted === (known.asked ?? known.label) ? null : wanted);
  log.info({ actor: actor.id, form: formId, question: key }, 'a question was renamed');
  changed(parts, formId);
}

/** Names a recorded sample, or says that it is kept. Throws HttpProblem where there is none. */
export async function describeSample(
  parts: Parts,
  _actor: Actor,
  id: string,
  input: SampleInput,
): Promise<SubmissionRow> {
  const row = parts.store.arrivals.submission(id);
  if (!row) throw notFound('sample');
  const { name, kept } = input;
  await parts.ledger.describeSample({
    id: row.id,
    ...(typeof name === 'string' && { name }),
    ...(typeof kept === 'boolean' && { kept }),
  });
  changed(parts, row.formId);
  return parts.store.arrivals.submission(row.id)!;
}

/** Keeps a variant of a form. Throws HttpProblem where there is no such form, and for what is no submission. */
export function addVariant(parts: Parts, _actor: Actor, formId: string, input: VariantInput): VariantRow {
  if (!parts.store.forms.named(formId)) throw notFound('form');
  const row = parts.store.forms.addVariant(formId, checkedVariant(input));
  changed(parts, formId);
  return row;
}

/** Puts a variant in the place of one that is kept; throws like {@link addVariant}. */
export function changeVariant(parts: Parts, _actor: Actor, id: string, input: VariantInput): VariantRow {
  const row = parts.store.forms.updateVariant(id, checkedVariant(input));
  if (!row) throw notFound('variant');
  changed(parts, row.formId);
  return row;
}

/** Throws HttpProblem where there is none. */
export function removeVariant(parts: Parts, _actor: Actor, id: string): void {
  const row = parts.store.forms.variant(id);
  if (!row || !parts.store.forms.removeVariant(id)) throw notFound('variant');
  changed(parts, row.formId);
}

function checkedVariant(input: VariantInput): VariantInput {
  if (isSubmission(input.submission)) return input;
  const remedy = 'A submission has form, id, submittedAt, fields, files, questions and meta.';
  throw new HttpProblem(422, 'Not a submission.', remedy);
}
