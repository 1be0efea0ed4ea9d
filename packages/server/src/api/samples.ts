import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { SampleInput, VariantInput, type NamedSample } from '@grammata/contract';
import { Router } from 'express';
import { actorOf, addVariant, changeVariant, describeSample, removeVariant } from '../acts';
import { iso } from '../clock';
import type { Services } from '../services';
import type { SubmissionRow, VariantRow } from '../store';
import { checked, numberFrom } from './validate';

/** Most samples the interface rehearses over at once. */
const MOST_SAMPLES = 10_000;

/** Samples that are handed on at once. */
const PORTION = 200;

/** Stands for a submission until its text is put in. */
const PLACE = '\u0000submission';

const sampleView = ({ id, arrivalId, receivedAt, data, name, kept }: SubmissionRow): NamedSample => ({
  id,
  receivedAt: iso(receivedAt),
  submission: data,
  name,
  kept,
  arrivalId,
  isVariant: false,
});

const variantView = ({ id, createdAt, data, name }: VariantRow): NamedSample => ({
  id,
  receivedAt: iso(createdAt),
  submission: data,
  name,
  kept: true,
  arrivalId: null,
  isVariant: true,
});

/** Samples of a form: recorded ones, which can be named and kept, and variants made of them. */
export function samplesApi(services: Services): Router {
  const { store, timers } = services;
  const router = Router();

  router.get('/forms/:id/samples', async (request, response) => {
    const { id } = request.params;
    const limit = numberFrom(request.query.limit, MOST_SAMPLES, MOST_SAMPLES);
    response.type('json');
    await pipeline(Readable.from(samplesOf(id, limit)), response);
  });

  /**
   * Thousands of samples are handed on as they are stored, portion by portion: reading and writing them anew, or all at
   * once, would hold everyone up.
   */
  async function* samplesOf(formId: string, limit: number): AsyncGenerator<string> {
    yield `{"samples":[`;
    let between = '';
    for (const row of store.forms.variants(formId)) {
      yield between + JSON.stringify(variantView(row));
      between = ',';
    }
    let last: Pick<SubmissionRow, 'id' | 'receivedAt'> | undefined;
    for (let given = 0; given < limit;) {
      const rows = store.forms.sampleTexts(formId, Math.min(PORTION, limit - given), last);
      if (rows.length === 0) break;
      const texts = rows.map(({ data, ...row }) => {
        const view = JSON.stringify(sampleView({ ...row, data: PLACE as unknown as SubmissionRow['data'] }));
        return view.replace(JSON.stringify(PLACE), () => data);
      });
      yield between + texts.join(',');
      between = ',';
      given += rows.length;
      last = rows.at(-1);
      await timers.turn();
    }
    yield ']}';
  }

  router.patch('/samples/:id', (request, response) => {
    const input = checked(SampleInput, request.body);
    response.json(sampleView(describeSample(services, actorOf(response), request.params.id, input)));
  });

  router.post('/forms/:id/variants', (request, response) => {
    const input = checked(VariantInput, request.body);
    response.status(201).json(variantView(addVariant(services, actorOf(response), request.params.id, input)));
  });

  router.put('/variants/:id', (request, response) => {
    const input = checked(VariantInput, request.body);
    response.json(variantView(changeVariant(services, actorOf(response), request.params.id, input)));
  });

  router.delete('/variants/:id', (request, response) => {
    removeVariant(services, actorOf(response), request.params.id);
    response.status(204).end();
  });
  return router;
}
