import type { FormView, SamplesView } from '@grammata/contract';
import { Router } from 'express';
import { iso } from '../clock';
import { notFound } from '../problems';
import type { Services } from '../services';
import type { FormWithCounts } from '../store';
import { formSummary } from './views';
import { numberFrom } from './validate';

/** Most samples the interface rehearses over at once. */
const MOST_SAMPLES = 10_000;

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
  return router;
}
