import type { RouteDefinition } from '@grammata/core/route';
import { always, dateTime, draft, field, line, lowered, tidy } from './shared';

/** Dead fish that somebody reported, as a sighting for those who count animals. */
export const toSightings = (sightingsId: string): RouteDefinition =>
  draft(
    'Dead fish to Animal sightings',
    [
      {
        id: 'sighting',
        targetId: sightingsId,
        operationId: 'mutation recordSighting',
        lines: [
          line('input.species', always('fish, dead')),
          line('input.seenAt', field('s2'), [dateTime], { whenProblem: 'leaveOut' }),
          // “Otter Weir (AB-02)”: the sightings know sites by their code.
          line('input.place.site', field('s1'), [
            { id: 'text.between', params: { after: '(', before: ')', otherwise: 'keep' } },
          ]),
          line('input.place.note', field('s7'), [tidy]),
          line('input.observer', field('s9'), lowered),
        ],
      },
    ],
    { all: [{ field: 's6', is: 'oneOf', values: ['Dead fish'], not: false }] },
  );
