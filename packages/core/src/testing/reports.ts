import { newLine, ROUTE_FORMAT, usualTerms, type RouteDefinition } from '../route';
import type { Submission } from '../submission';
import type { Operation } from '../target';
import { targetField } from './targetField';

/** What a register takes of a sampling report. */
export const registering: Operation = {
  id: 'create',
  label: 'Create',
  method: 'POST',
  path: '/r',
  fields: [
    targetField('site', { required: true, options: ['AB-07', 'AB-02'] }),
    targetField('ph', { type: 'number' }),
    targetField('note', { maxLength: 40 }),
  ],
};
export const register = { id: 't', name: 'Register', baseUrl: 'https://r.example.org', operations: [registering] };
/** A line that takes a question as it is answered. */
export const lineFrom = (to: string, field: string) => ({
  ...newLine(`l-${to}`, to),
  source: { from: 'field' as const, field },
});
/** A route from the report to the register. */
export const reporting: RouteDefinition = {
  format: ROUTE_FORMAT,
  name: 'R',
  condition: { all: [{ field: 'weather', is: 'equals', values: ['Wet'], not: false }] },
  calls: [
    {
      id: 'a',
      targetId: 't',
      operationId: 'create',
      lines: [lineFrom('site', 'site'), lineFrom('ph', 'ph'), lineFrom('note', 'note')],
    },
  ],
  terms: usualTerms,
};
/** Four of its submissions. */
export const reports = Array.from({ length: 4 }, (_, at): Submission => ({
  form: null,
  id: String(at),
  submittedAt: null,
  files: [],
  questions: [],
  meta: {},
  fields: Object.entries({
    site: ['AB-07', 'AB-02'][at % 2]!,
    ph: 7.5,
    note: `seen on the way ${at}`,
    weather: 'Wet',
  }).map(([key, value]) => ({
    key,
    label: key,
    kind: typeof value === 'number' ? 'number' : 'text',
    value,
    pointer: `/${key}`,
  })),
}));
