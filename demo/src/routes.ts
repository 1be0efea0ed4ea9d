import type { DraftInput } from '@grammata/contract';
import { newLine, type Line, type Source } from '@grammata/core/request';
import type { Step } from '@grammata/core/transform';

const field = (key: string): Source => ({ from: 'field', field: key });
const line = (to: string, source: Source | null, cleaning: Step[] = [], more: Partial<Line> = {}): Line => ({
  ...newLine(`line-${to}`, to),
  source,
  cleaning,
  ...more,
});
const number: Step = { id: 'number.read', params: { decimal: 'either' } };
const tidy: Step = { id: 'text.trim', params: { collapse: true } };
const terms = { tries: 6, timeZone: 'Europe/London' };

/** The route that is live: every report becomes a record in the register. */
export const toRegister = (targetId: string): DraftInput => ({
  name: 'Sampling report to Register',
  condition: { all: [] },
  call: {
    id: 'call-samples',
    targetId,
    operationId: 'create:samples',
    lines: [
      line('site', field('s1')),
      line('sampled_at', field('s2'), [
        { id: 'date.format', params: { order: 'dayFirst', to: 'iso', zone: 'Europe/London' } },
      ]),
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
  terms,
  revision: 0,
});

/** The route that is still a draft, with two problems left to find. */
export const toFollowUps = (targetId: string): DraftInput => ({
  name: 'Worrying signs to Follow-ups',
  condition: { all: [{ field: 's6', is: 'oneOf', values: ['Dead fish', 'Oil sheen'], not: false }] },
  call: {
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
  terms,
  revision: 0,
});

const addressPart = (part: string): Step => ({ id: 'address.part', params: { part, doubtful: 'blank' } });

/** New volunteers to the roster: names and addresses come in one box each. Still a draft. */
export const toRoster = (targetId: string): DraftInput => ({
  name: 'Volunteer sign-up to Roster',
  condition: { all: [{ field: 'i_agree_that_you_keep_my_details', is: 'yes', values: [], not: false }] },
  call: {
    id: 'call-roster',
    targetId,
    operationId: 'createContact',
    lines: [
      line('given_name', field('full_name'), [
        { id: 'name.part', params: { part: 'given' } },
        { id: 'name.case', params: {} },
      ]),
      line('family_name', field('full_name'), [
        { id: 'name.part', params: { part: 'family' } },
        { id: 'name.case', params: {} },
      ]),
      line('email', field('e_mail'), [tidy, { id: 'text.case', params: { to: 'lower' } }]),
      line('phone', field('phone'), [{ id: 'phone.format', params: { to: 'e164', region: 'GB', countryFrom: '' } }], {
        whenProblem: 'leaveOut',
      }),
      line(
        'born',
        field('birthday'),
        [{ id: 'date.format', params: { order: 'dayFirst', to: 'date', zone: 'Europe/London' } }],
        { whenProblem: 'leaveOut' },
      ),
      line('postal.street', field('address'), [addressPart('street')]),
      line('postal.town', field('address'), [addressPart('locality')]),
      line('postal.postcode', field('address'), [addressPart('postcode')]),
      line('postal.country', null),
      line('interests', null),
      line('may_contact', field('i_agree_that_you_keep_my_details'), [
        { id: 'yesno.read', params: { yes: '', no: '' } },
      ]),
      line('tags', null),
      line('note', { from: 'rest' }),
    ],
  },
  terms,
  revision: 0,
});
