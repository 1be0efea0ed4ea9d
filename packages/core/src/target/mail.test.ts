import { bodyText, compileCall, stoppers } from '../request';
import { newLine, type Line } from '../route';
import { scopeOf } from '../scope';
import type { Json, Submission } from '../submission';
import { sendMail } from '.';

const line = (to: string, more: Partial<Line>): Line => ({ ...newLine(to, to), ...more });
const always = (value: Json): Partial<Line> => ({ source: { from: 'constant', value } });
const of = (answers: Record<string, Json>): Submission => ({
  form: null,
  id: null,
  submittedAt: null,
  meta: {},
  questions: [],
  files: [],
  fields: Object.entries(answers).map(([key, value]) => ({ key, label: key, kind: 'text', value, pointer: `/${key}` })),
});
const mailOf = (answers: Record<string, Json>) =>
  compileCall(
    {
      id: 'c',
      targetId: 't',
      operationId: 'sendMail',
      lines: [
        line('from', always('alerts@example.org')),
        line('to', {
          source: { from: 'field', field: 'whom' },
          cleaning: [{ id: 'list.join', params: { separator: ', ' } }],
        }),
        line('subject', { source: { from: 'field', field: 'what' } }),
        line('text', { source: { from: 'text', segments: [{ text: 'Seen: ' }, { field: 'what' }] } }),
      ],
    },
    sendMail,
    'smtp://mail.example.org',
  ).plan(scopeOf(of(answers)));

test('several recipients come from a choose-many answer', () => {
  const { request, sendable } = mailOf({ whom: ['a@example.org', 'Bö <b@example.org>'], what: 'Foam' });
  expect(sendable).toBe(true);
  expect(bodyText(request)).toBe(
    'from: alerts@example.org\nto: a@example.org, Bö <b@example.org>\nsubject: Foam\n\nSeen: Foam',
  );
});

test.each<[Record<string, Json>, RegExp]>([
  [{ whom: ['a@example.org', 'not an address'], what: 'Foam' }, /^to takes e-mail addresses/],
  [{ whom: 'a@example.org\r\nBcc: eve@example.org', what: 'Foam' }, /^to takes e-mail addresses/],
  [{ whom: 'a@example.org', what: 'Foam\r\nBcc: eve@example.org' }, /^subject takes one line/],
  [{ what: 'Foam' }, /^to is required/],
])('%j is held', (answers, says) => {
  const planned = mailOf(answers);
  expect(planned.sendable).toBe(false);
  expect(stoppers(planned)[0]!.message).toMatch(says);
});
