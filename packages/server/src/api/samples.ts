import { aboutSubmission } from '@grammata/core/submission';
import {
  SampleInput,
  VariantInput,
  type FindView,
  type FoundView,
  type NamedSample,
  type SamplePage,
  type SamplesView,
} from '@grammata/contract';
import { pack } from '@grammata/core/sample';
import { Router } from 'express';
import { actorOf, addVariant, changeVariant, describeSample, removeVariant } from '../acts';
import { iso } from '../clock';
import { wordsOfSubmission } from '../decoding';
import { notFound } from '../problems';
import type { Services } from '../services';
import { wordsIn, type SubmissionRow, type VariantRow } from '../store';
import { checked, numberFrom, textFrom } from './validate';

/** Samples of one page: whole ones to look at, packed ones for the workbench. */
const MOST_WHOLE = 200;
const MOST_PACKED = 2000;
/** Letters from which on anything is looked for everywhere, and how many are told. */
const LEAST_SEARCHED = 2;
const MOST_FOUND = 8;
/** Samples that are packed at once: others have their turn in between. */
const PORTION = 250;

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

  const formOr404 = (id: string) => {
    if (!store.forms.named(id)) throw notFound('form');
    return id;
  };

  /** Questions, and the newest submissions of all forms, that hold what is looked for. */
  router.get('/find', (request, response) => {
    const search = textFrom(request.query.search)?.trim() ?? '';
    const isEnough = search.length >= LEAST_SEARCHED;
    const rows = isEnough ? store.forms.anywhere(store.newestThatSay(search).ids, MOST_FOUND) : [];
    const view: FindView = {
      questions: isEnough ? store.forms.questions.called(wordsIn(search), MOST_FOUND) : [],
      submissions: rows.map(({ id, arrivalId, formName, data, receivedAt }): FoundView => ({
        id,
        arrivalId,
        formName,
        about: aboutSubmission(data),
        receivedAt: iso(receivedAt),
      })),
    };
    response.json(view);
  });

  /** Submissions to look at, those that hold what is looked for. */
  router.get('/forms/:id/samples', (request, response) => {
    const id = formOr404(request.params.id);
    const search = textFrom(request.query.search)?.trim() ?? '';
    const limit = Math.max(1, numberFrom(request.query.limit, 50, MOST_WHOLE));
    const before = placeFrom(request.query.before);
    const found = search ? store.newestThatSay(search) : null;
    const selection = found ? { sampleIds: found.ids } : {};
    const rows = store.forms.found(id, selection, limit, before);
    const variants = before
      ? []
      : store.forms
          .variants(id)
          .map(variantView)
          .filter(each => holds(each, search));
    const view: SamplesView = {
      samples: [...variants, ...rows.map(sampleView)],
      // What is counted anyway is not counted anew.
      total: found ? store.forms.selectedCount(id, selection) : store.forms.countOf(id),
      searched: found?.searched ?? null,
      next: rows.length < limit ? null : placeOf(rows.at(-1)!),
    };
    response.json(view);
  });

  /** Samples by column: from a place back in time, or those that came since. */
  router.get('/forms/:id/columns', async (request, response) => {
    const id = formOr404(request.params.id);
    const limit = Math.max(1, numberFrom(request.query.limit, PORTION, MOST_PACKED));
    const [before, since] = [placeFrom(request.query.before), placeFrom(request.query.since)];
    const samples: NamedSample[] = before || since ? [] : store.forms.variants(id).map(variantView);
    const variants = samples.length;
    let last = since ?? before;
    let isLast = false;
    let newest: string | null = null;
    while (!isLast && samples.length - variants < limit) {
      const wanted = Math.min(PORTION, limit - samples.length + variants);
      const rows = since ? store.forms.samplesFromOldest(id, wanted, last) : store.forms.samples(id, wanted, last);
      samples.push(...rows.map(sampleView));
      newest ??= rows[0] && !before ? placeOf(rows[0]) : null;
      isLast = rows.length < wanted;
      last = rows.at(-1) ?? last;
      await timers.turn();
    }
    const page: SamplePage = {
      ...packed(samples),
      total: store.forms.countOf(id),
      next: isLast || !last ? null : placeOf(last),
      newest: since ? placeOf(last!) : newest,
    };
    response.json(page);
  });

  router.patch('/samples/:id', async (request, response) => {
    const input = checked(SampleInput, request.body);
    response.json(sampleView(await describeSample(services, actorOf(response), request.params.id, input)));
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

type Place = Pick<SubmissionRow, 'id' | 'receivedAt'>;

/** Where a submission stands among those of its form, as text. */
const placeOf = ({ id, receivedAt }: Place): string => `${receivedAt}.${id}`;

function placeFrom(value: unknown): Place | undefined {
  const [, receivedAt, id] = /^(\d{1,15})\.([\w-]{1,80})$/.exec(textFrom(value) ?? '') ?? [];
  return id === undefined ? undefined : { id, receivedAt: Number(receivedAt) };
}

/** Samples by columns; what is known of each beside its answers goes along. */
function packed(samples: readonly NamedSample[]): Pick<SamplePage, 'columns' | 'rows'> {
  const { columns, rows } = pack(samples.map(each => each.submission));
  return {
    columns,
    rows: rows.map((row, at) => {
      const { id: sampleId, submission: _, ...about } = samples[at]!;
      return { ...row, ...about, sampleId };
    }),
  };
}

/** Whether a variant holds what is looked for: there are few, and they stand apart. */
const holds = ({ submission, name }: NamedSample, search: string): boolean =>
  `${name}\n${wordsOfSubmission(submission)}`.toLowerCase().includes(search.toLowerCase());
