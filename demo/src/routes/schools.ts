import type { RouteDefinition } from '@grammata/core/route';
import { always, draft, field, line, lowered, text, tidy } from './shared';

/** A school's enquiry: its teacher becomes a contact, and a reply is drafted into the outbox. */
export const toSchools = (rosterId: string, outboxId: string): RouteDefinition =>
  draft('School visit enquiry to Roster and Outbox', [
    {
      id: 'teacher',
      targetId: rosterId,
      operationId: 'createContact',
      find: {
        operationId: 'findContacts',
        line: line('email', field('E-mail'), lowered),
        list: '/contacts',
        equals: '/email',
        whenNone: 'create',
        whenSeveral: 'first',
        update: { operationId: 'updateContact', to: 'id', from: '/id' },
      },
      lines: [
        line('given_name', field('Teacher'), [{ id: 'name.part', params: { part: 'given' } }], {
          whenBlank: 'fallback',
          whenProblem: 'fallback',
          fallback: 'Teacher',
          writes: 'onCreate',
        }),
        line('family_name', field('Teacher'), [{ id: 'name.part', params: { part: 'family' } }], {
          whenProblem: 'leaveOut',
          writes: 'whereBlank',
        }),
        line('email', field('E-mail'), lowered),
        line('tags', always(['school']), [], { writes: 'add' }),
        line('note', field('School'), [tidy], { writes: 'whereBlank' }),
      ],
    },
    {
      id: 'reply',
      targetId: outboxId,
      operationId: 'sendMail',
      lines: [
        line('from', always('schools@example.org')),
        line('to', field('E-mail'), lowered),
        line('reply_to', always('schools@example.org')),
        line('subject', text('Your visit to the river, ', ['School']), [tidy]),
        line(
          'text',
          text(
            'Dear ',
            ['Teacher'],
            ',\n\nThank you for asking about a visit with ',
            ['How many pupils'],
            ' pupils (',
            ['Year group'],
            '). You suggest: ',
            ['Which day would suit you'],
            '.\n\nYou also told us:\n',
            ['What should we know'],
            '\n\nWe will be in touch.\nAlder Basin River Watch\n',
          ),
        ),
      ],
    },
  ]);
