import type { RouteDefinition } from '@grammata/core/route';
import type { Step } from '@grammata/core/transform';
import { always, dayFirst, draft, field, line, lowered, number, text, tidy } from './shared';

const part = (name: string): Step => ({ id: 'json.pick', params: { pointer: `/${name}` } });

/** A kit request: a record for the request, one for each kit, and a ticket for those who pack them. */
export const toKits = (registerId: string, labDeskId: string): RouteDefinition =>
  draft('Kit request to Register and Lab desk', [
    {
      id: 'request',
      targetId: registerId,
      operationId: 'create:kit_requests',
      lines: [
        line('asked_by', field('name'), [tidy, { id: 'name.case', params: {} }]),
        line('email', field('email'), lowered),
        line('street', field('delivery'), [part('street')]),
        line('town', field('delivery'), [part('town')]),
        line('postcode', field('delivery'), [part('postcode')]),
        line('needed_by', field('needed_by'), [dayFirst], { whenProblem: 'leaveOut' }),
        line('remarks', field('remarks')),
      ],
    },
    {
      id: 'items',
      targetId: registerId,
      operationId: 'create:kit_items',
      repeat: 'kits',
      condition: {
        all: [
          { field: '@item/kit', is: 'blank', values: [], not: true },
          { field: '@item/quantity', is: 'above', values: ['0'], not: false },
        ],
      },
      lines: [
        line('request_no', field('@answer/request/record_no')),
        line('kit', field('@item/kit')),
        line('quantity', field('@item/quantity'), [number]),
      ],
    },
    {
      id: 'ticket',
      targetId: labDeskId,
      operationId: 'openTicket',
      whenFailed: 'passOver',
      lines: [
        line('subject', text('Kit request ', ['@answer/request/record_no'], ' of ', ['name'])),
        line('body', text('To be packed:\n', ['kits'], '\n\n', ['remarks'])),
        line('severity', always('low')),
        line('place', field('delivery'), [part('town')]),
        line('reporter', field('name'), [tidy]),
        line('wanted_by', field('needed_by'), [dayFirst], { whenProblem: 'leaveOut' }),
        line('labels', always(['kits'])),
      ],
    },
  ]);
