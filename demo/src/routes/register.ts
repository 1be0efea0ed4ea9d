import type { RouteDefinition } from '@grammata/core/route';
import { dateTime, field, line, number, tidy } from './shared';

/** The route that is live: every report becomes a record in the register. */
export const toRegister = (targetId: string): RouteDefinition => ({
  format: 1,
  name: 'Sampling report to Register',
  condition: { all: [] },
  calls: [
    {
      id: 'call-samples',
      targetId,
      operationId: 'create:samples',
      lines: [
        line('site', field('s1')),
        line('sampled_at', field('s2'), [dateTime]),
        line('temp_c', field('s3'), [number]),
        line('ph', field('s4'), [number], { whenProblem: 'leaveOut' }),
        line('nitrate_mg_l', field('s5'), [number]),
        line('signs', field('s6'), [
          { id: 'list.read', params: { separator: '' } },
          { id: 'list.join', params: { separator: '; ' } },
        ]),
        line('note', { from: 'text', segments: [{ field: 's7' }] }, [tidy]),
        line('observer', field('s8'), [tidy, { id: 'text.case', params: { to: 'title' } }]),
        line('observer_email', field('s9'), [tidy, { id: 'text.case', params: { to: 'lower' } }]),
        line('party_size', field('s11')),
        line('photos', field('s12')),
        line('source', { from: 'constant', value: 'Sampling report form' }),
      ],
    },
  ],
  terms: { hours: 24, timeZone: 'Europe/London' },
});

/** The route that is still a draft, with two problems left to find. */
export const toFollowUps = (targetId: string): RouteDefinition => ({
  format: 1,
  name: 'Worrying signs to Follow-ups',
  condition: { all: [{ field: 's6', is: 'oneOf', values: ['Dead fish', 'Oil sheen'], not: false }] },
  calls: [
    {
      id: 'call-followups',
      targetId,
      operationId: 'create:followups',
      lines: [
        line('site', field('s1')),
        line('reported_on', field('s2'), [
          { id: 'date.format', params: { order: 'monthFirst', to: 'date', zone: 'Europe/London' } },
        ]),
        line('what', field('s6'), [{ id: 'list.join', params: { separator: ', ', lastSeparator: ' and ' } }]),
        line('urgency', null),
        line('call_back', { from: 'text', segments: [{ field: 's8' }, { text: ', ' }, { field: 's10' }] }, [tidy]),
        line('details', field('s7')),
      ],
    },
  ],
  terms: { hours: 24, timeZone: 'Europe/London' },
});
