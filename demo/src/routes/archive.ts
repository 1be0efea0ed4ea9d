import type { RouteDefinition } from '@grammata/core/route';
import { draft, field, line } from './shared';

/** A notice holds a specimen's number alone: the archive is asked for it, and each of its tags becomes a note on its shelf. */
export const toArchive = (archiveId: string): RouteDefinition =>
  draft('New specimens to Specimen archive', [
    {
      id: 'details',
      targetId: archiveId,
      operationId: 'readSpecimen',
      lines: [line('id', field('@id'))],
    },
    {
      id: 'notes',
      targetId: archiveId,
      operationId: 'addNote',
      repeat: '@answer/details/tags',
      lines: [
        line('specimen_id', field('@answer/details/id')),
        line('text', field('@item/name')),
        line('shelf', field('@answer/details/shelf')),
        line('kind', { from: 'constant', value: 2 }),
      ],
    },
  ]);
