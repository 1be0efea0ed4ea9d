import type { RouteDefinition } from '@grammata/core/route';
import type { Step } from '@grammata/core/transform';
import { always, field, line, lowered } from './shared';

const addressPart = (part: string): Step => ({ id: 'address.part', params: { part, doubtful: 'blank' } });

/** Volunteers to the roster, where they may be known: names and addresses come in one box each. */
export const toRoster = (targetId: string): RouteDefinition => ({
  format: 1,
  name: 'Volunteer sign-up to Roster',
  condition: { all: [{ field: 'i_agree_that_you_keep_my_details', is: 'yes', values: [], not: false }] },
  calls: [
    {
      id: 'call-roster',
      targetId,
      operationId: 'createContact',
      find: {
        operationId: 'findContacts',
        line: line('email', field('e_mail'), lowered),
        list: '/contacts',
        equals: '/email',
        whenNone: 'create',
        whenSeveral: 'hold',
        update: { operationId: 'updateContact', to: 'id', from: '/id' },
      },
      readBack: { operationId: 'readContact', to: 'id', from: '/id' },
      lines: [
        line('given_name', field('full_name'), [
          { id: 'name.part', params: { part: 'given' } },
          { id: 'name.case', params: {} },
        ]),
        line('family_name', field('full_name'), [
          { id: 'name.part', params: { part: 'family' } },
          { id: 'name.case', params: {} },
        ]),
        line('email', field('e_mail'), lowered),
        line('phone', field('phone'), [{ id: 'phone.format', params: { to: 'e164', region: 'GB', countryFrom: '' } }], {
          whenProblem: 'leaveOut',
          writes: 'whereBlank',
        }),
        line(
          'born',
          field('birthday'),
          [{ id: 'date.format', params: { order: 'dayFirst', to: 'date', zone: 'Europe/London' } }],
          { whenProblem: 'leaveOut' },
        ),
        line('postal.street', field('address'), [addressPart('street')], { writes: 'whereBlank' }),
        line('postal.town', field('address'), [addressPart('locality')], { writes: 'whereBlank' }),
        line('postal.postcode', field('address'), [addressPart('postcode')], { writes: 'whereBlank' }),
        line('postal.country', null),
        line('interests', field('what_would_you_like_to_do'), [{ id: 'list.read', params: { separator: '' } }], {
          writes: 'add',
          whenProblem: 'leaveOut',
        }),
        line('may_contact', field('i_agree_that_you_keep_my_details'), [
          { id: 'yesno.read', params: { yes: '', no: '' } },
        ]),
        line('tags', always(['volunteer']), [], { writes: 'add' }),
        line('note', { from: 'rest' }, [], { writes: 'onCreate' }),
      ],
    },
  ],
  terms: { hours: 24, timeZone: 'Europe/London' },
});
