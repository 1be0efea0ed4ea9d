import type { RouteDefinition } from '@grammata/core/route';
import { draft, field, line, tidy } from './shared';

/** Rows of the access log, as they are read from the feed, to the register. */
export const toAccessLog = (registerId: string): RouteDefinition =>
  draft('Site access log to Register', [
    {
      id: 'access',
      targetId: registerId,
      operationId: 'create:access_log',
      lines: [
        line('site', field('site')),
        line('who', field('who'), [tidy]),
        line('went_in', field('went_in'), [tidy]),
        line('came_out', field('came_out'), [tidy]),
        line('locked', field('gate_locked_again'), [{ id: 'yesno.read', params: { yes: '', no: '' } }]),
        line('remarks', field('remarks')),
      ],
    },
  ]);
