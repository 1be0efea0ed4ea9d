import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { FormInput, QuestionInput, type FormListed, type FormView } from '@grammata/contract';
import { Router } from 'express';
import { actorOf, changeForm, nameQuestion } from '../acts';
import { notFound } from '../problems';
import type { Services } from '../services';
import type { FormHead, FormWithCounts, SubmissionRow } from '../store';
import { exporters, type Exporter } from './exports';
import { formSummary } from './views';
import { checked } from './validate';

/** Most submissions in one exported file. */
const MOST_EXPORTED = 1_000_000;
/** Submissions that are written at once. */
const PORTION = 100;

export const formView = (row: FormWithCounts): FormView => ({
  ...formSummary(row),
  intakeName: row.intakeName,
  schema: row.schema,
});

/** A form in a list: what is known of its questions is asked for when it is needed. */
const formListed = (row: FormHead): FormListed => ({ ...formSummary(row), intakeName: row.intakeName });

/** Forms and their samples. */
export function formsApi(services: Services): Router {
  const { store, timers } = services;
  const router = Router();

  router.get('/forms', (_request, response) => void response.json(store.forms.heads().map(formListed)));

  router.get('/forms/:id', (request, response) => {
    const row = store.forms.byId(request.params.id);
    if (!row) throw notFound('form');
    response.json(formView(row));
  });

  /** Adopts a form that was seen, or has it ignored; gives it another name. */
  router.patch('/forms/:id', async (request, response) => {
    const { form } = store.forms.byId(request.params.id) ?? raise();
    await changeForm(services, actorOf(response), form, checked(FormInput, request.body));
    response.json(formView(store.forms.byId(form.id)!));
  });

  /** Gives a question another name. */
  router.put('/forms/:id/questions', (request, response) => {
    const { form } = store.forms.byId(request.params.id) ?? raise();
    nameQuestion(services, actorOf(response), form.id, checked(QuestionInput, request.body));
    response.json(formView(store.forms.byId(form.id)!));
  });

  router.get('/forms/:id/weeks', (request, response) => {
    response.json(store.forms.weeks(request.params.id));
  });

  router.get('/forms/:id/export/:as', async (request, response) => {
    const form = store.forms.byId(request.params.id);
    const exporter = Object.hasOwn(exporters, request.params.as) ? exporters[request.params.as] : undefined;
    if (!form || !exporter) throw notFound('form or kind of export');
    const { type, ending, head, row } = exporter(form);
    response.attachment(`${form.form.name.replace(/[^\p{L}\p{N} _-]/gu, '') || 'form'}.${ending}`);
    response.type(type);
    await pipeline(Readable.from(rowsOf(form.form.id, head, row)), response);
  });

  /** A file portion by portion: an export of everything holds nobody up, and is never whole in memory. */
  async function* rowsOf(formId: string, head: string, row: Exporter['row']): AsyncGenerator<string> {
    yield head;
    if (row === null) return;
    let last: SubmissionRow | undefined;
    for (let given = 0; given < MOST_EXPORTED;) {
      const rows = store.forms.samplesFromOldest(formId, PORTION, last);
      if (rows.length === 0) return;
      yield rows.map(row).join('');
      given += rows.length;
      last = rows.at(-1);
      await timers.turn();
    }
  }
  return router;
}

function raise(): never {
  throw notFound('form');
}
