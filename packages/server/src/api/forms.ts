import { FormInput, type FormView } from '@grammata/contract';
import { weeklyFill } from '@grammata/core/schema';
import { Router } from 'express';
import { HttpProblem, notFound } from '../problems';
import type { Services } from '../services';
import type { FormWithCounts } from '../store';
import { exporters } from './exports';
import { formSummary } from './views';
import { checked } from './validate';

/** Most samples that the weeks are counted over. */
const MOST_SAMPLES = 10_000;
/** Most submissions in one exported file. */
const MOST_EXPORTED = 100_000;

export const formView = (row: FormWithCounts): FormView => ({
  ...formSummary(row),
  intakeName: row.intakeName,
  schema: row.form.schema,
});

/** Forms and their samples. */
export function formsApi({ store, live }: Services): Router {
  const router = Router();

  router.get('/forms', (_request, response) => void response.json(store.forms.all().map(formView)));

  router.get('/forms/:id', (request, response) => {
    const row = store.forms.byId(request.params.id);
    if (!row) throw notFound('form');
    response.json(formView(row));
  });

  /** Adopts a form that was seen, or has it ignored; gives it another name. */
  router.patch('/forms/:id', (request, response) => {
    const { form } = store.forms.byId(request.params.id) ?? raise();
    const input = checked(FormInput, request.body);
    const route = input.state === 'ignored' ? store.routes.ofForm(form.id)[0] : undefined;
    if (route)
      throw new HttpProblem(409, `The route “${route.draft.name}” takes this form on.`, 'Remove the route first.');
    store.forms.update(form.id, input);
    live.publish({ type: 'form', formId: form.id });
    response.json(formView(store.forms.byId(form.id)!));
  });

  router.get('/forms/:id/weeks', (request, response) => {
    const rows = store.forms.samples(request.params.id, MOST_SAMPLES);
    response.json(weeklyFill(rows.map(row => ({ receivedAt: row.receivedAt, submission: row.data }))));
  });

  router.get('/forms/:id/export/:as', (request, response) => {
    const form = store.forms.byId(request.params.id);
    const exporter = Object.hasOwn(exporters, request.params.as) ? exporters[request.params.as] : undefined;
    if (!form || !exporter) throw notFound('form or kind of export');
    const { type, ending, text } = exporter(form, store.forms.samples(form.form.id, MOST_EXPORTED).reverse());
    response.attachment(`${form.form.name.replace(/[^\p{L}\p{N} _-]/gu, '') || 'form'}.${ending}`);
    response.type(type).send(text);
  });
  return router;
}

function raise(): never {
  throw notFound('form');
}
