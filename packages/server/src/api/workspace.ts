import { filesOf } from '@grammata/core/workspace';
import { Router } from 'express';
import type { Services } from '../services';

/** The workspace as files fit for version control: targets without secrets, routes, proofs. */
export function workspaceApi({ store }: Services): Router {
  const router = Router();
  router.get('/workspace', (_request, response) => {
    const routes = store.routes.all().map(({ id, formId, draft }) => ({
      form: store.forms.named(formId)?.name ?? '',
      definition: draft,
      proofs: store.proofs.of(id),
    }));
    response.json(filesOf({ targets: store.targets.all(), routes }));
  });
  return router;
}
