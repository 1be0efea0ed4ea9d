import type { RouteDefinition } from '@grammata/core/route';
import { always, draft, field, line, text, tidy } from './shared';

/** An incident: a ticket, each file attached to it and kept on the shelf, and a mail when it is severe. */
export const toIncidents = ({
  labDesk,
  outbox,
  shelf,
}: Record<'labDesk' | 'outbox' | 'shelf', string>): RouteDefinition =>
  draft('Incident alert to Lab desk', [
    {
      id: 'ticket',
      targetId: labDesk,
      operationId: 'openTicket',
      readBack: { operationId: 'readTicket', to: 'id', from: '/id' },
      lines: [
        line('subject', text(['severity'], ' at ', ['where'], ': ', ['what']), [tidy]),
        line('body', field('what')),
        line('severity', field('severity'), [
          { id: 'lookup.table', params: { table: 'Low,low\nWorrying,normal\nSevere,urgent', otherwise: 'problem' } },
        ]),
        line('place', field('where')),
        line('reporter', field('reporter'), [tidy]),
        line(
          'call_back',
          field('callback'),
          [{ id: 'phone.format', params: { to: 'e164', region: 'GB', countryFrom: '' } }],
          {
            whenProblem: 'leaveOut',
          },
        ),
      ],
    },
    {
      id: 'attach',
      targetId: labDesk,
      operationId: 'attachFile',
      repeat: 'evidence',
      lines: [
        line('id', field('@answer/ticket/id')),
        line('file', field('@item')),
        line('caption', text('Photo ', ['@itemNumber'], ', sent by ', ['reporter'])),
      ],
    },
    {
      id: 'keep',
      targetId: shelf,
      operationId: 'putFile',
      repeat: 'evidence',
      whenFailed: 'passOver',
      lines: [
        line('name', text('alert-', ['@id'], '-', ['@itemNumber'], '-', ['@item/name'])),
        line('body', field('@item')),
      ],
    },
    {
      id: 'mail',
      targetId: outbox,
      operationId: 'sendMail',
      condition: { all: [{ field: 'severity', is: 'equals', values: ['Severe'], not: false }] },
      lines: [
        line('from', always('alerts@example.org')),
        line('to', always('coordinator@example.org')),
        line('subject', text('Severe: ', ['where']), [tidy]),
        line(
          'text',
          text(
            ['what'],
            '\n\nReported by ',
            ['reporter'],
            ', ',
            ['callback'],
            '.\nTicket ',
            ['@answer/ticket/number'],
            '.\n',
          ),
        ),
        line('attachments', field('evidence')),
      ],
    },
  ]);
