import type { FormView, SamplesView } from '@grammata/contract';
import { weeklyFill } from '@grammata/core/schema';
import { Router } from 'express';
import { iso } from '../clock';
import { notFound } from '../problems';
import type { Services } from '../services';
import type { FormWithCounts } from '../store';
import { exporters } from './exports';
import { formSummary } from './views';
import { numberFrom } from './validate';

/** Most samples the interface rehearses over at once. */
const MOST_SAMPLES = 10_000;
/** Most submissions in one exported file. */
const MOST_EXPORTED = 100_000;

export const formView = (row: FormWithCounts): FormView => ({
  ...formSummary(row),
  intakeName: row.intakeName,
  schema: row.form.schema,
});

/** Forms and their samples. */
export function formsApi({ store }: Services): Router {
  const router = Router();

  router.get('/forms', (_request, response) => void response.json(store.forms.all().map(formView)));

  router.get('/forms/:id', (request, response) => {
    const row = store.forms.byId(request.params.id);
    if (!row) throw notFound('form');
    response.json(formView(row));
  });

  router.get('/forms/:id/samples', (request, response) => {
    const rows = store.forms.samples(request.params.id, numberFrom(request.query.limit, MOST_SAMPLES, MOST_SAMPLES));
    const view: SamplesView = {
      samples: rows.map(row => ({ id: row.id, receivedAt: iso(row.receivedAt), submission: row.data })),
    };
    response.json(view);
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
