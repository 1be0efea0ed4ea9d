import { LearnInput, PinsInput, type LearnedView } from '@grammata/contract';
import { learnLandmarks, type Pins } from '@grammata/core/decode';
import { Router } from 'express';
import { actorOf, keepPins, readFeed, settingsMustBeAsShown } from '../acts';
import { iso } from '../clock';
import { previewPins } from '../intake';
import { notFound } from '../problems';
import type { Services } from '../services';
import { checked, textFrom } from './validate';
import { intakeViews } from './views';

/** How an intake's messages are read: overruled by pointing, learned from corrected mails; and reading a feed at once. */
export function readingApi(services: Services): Router {
  const { store } = services;
  const router = Router();
  const intakeOr404 = (id: string) => store.intakes.byId(id) ?? raise();

  router.post('/intakes/:id/pins/preview', async (request, response) => {
    response.json(
      await previewPins(
        services,
        intakeOr404(request.params.id),
        pinsFrom(request.body),
        textFrom(request.query.arrival) ?? null,
      ),
    );
  });

  /** Keeps the pins and reads everything recorded anew. */
  router.put('/intakes/:id/pins', (request, response) => {
    const intake = intakeOr404(request.params.id);
    const { shown, ...pins } = (request.body ?? {}) as { shown?: unknown };
    if (shown !== undefined) settingsMustBeAsShown({ pins: store.intakes.pinsOf(intake.id) }, { pins: shown });
    const row = keepPins(services, actorOf(response), intake, pinsFrom(pins));
    response.json(intakeViews(services, [row])[0]);
  });

  router.post('/learn/landmarks', (request, response) => {
    const view: LearnedView = learnLandmarks(checked(LearnInput, request.body).examples);
    response.json(view);
  });

  router.post('/intakes/:id/feed/read', async (request, response) => {
    const reading = await readFeed(services, actorOf(response), intakeOr404(request.params.id));
    response.json({ ...reading, at: iso(reading.at) });
  });
  return router;
}

/** Pins without what was left out. */
function pinsFrom(body: unknown): Pins {
  const pins = checked(PinsInput, body);
  return Object.fromEntries(Object.entries(pins).filter(([, value]) => value !== undefined && value !== null));
}

function raise(): never {
  throw notFound('intake');
}
