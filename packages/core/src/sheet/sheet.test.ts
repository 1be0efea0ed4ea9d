import Papa from 'papaparse';
import { newLine, type Line } from '../route';
import { scopeOf } from '../scope';
import type { Submission } from '../submission';
import type { Operation } from '../target';
import { targetField } from '../testing';
import { sheetCsv, sheetMarkdown, sheetOf } from '.';

const operation: Operation = {
  id: 'o',
  label: 'Create a sample',
  method: 'POST',
  path: '/samples',
  fields: [
    targetField('site', { required: true }),
    targetField('signs'),
    targetField('by'),
    targetField('made', { readOnly: true }),
    targetField('urgency'),
  ],
};
const line = (to: string, more: Partial<Line>): Line => ({ ...newLine(to, to), ...more });
const example: Submission = {
  form: null,
  id: null,
  submittedAt: null,
  meta: {},
  files: [],
  questions: [],
  fields: [
    { key: 's', label: 'Which site?', kind: 'text', value: '=AB|07', pointer: '/s' },
    { key: 'g', label: 'Signs', kind: 'choices', value: ['Foam', 'Litter'], pointer: '/g' },
  ],
};
test('what an update has no field for is said beside the line', () => {
  const call = {
    id: 'c',
    targetId: 't',
    operationId: 'o',
    lines: ['site', 'signs'].map(to => line(to, { source: { from: 'field', field: 'g' } })),
    find: {
      operationId: 'f',
      line: line('q', { source: { from: 'field', field: 's' } }),
      list: '',
      equals: '/site',
      whenNone: 'create' as const,
      whenSeveral: 'hold' as const,
      update: { operationId: 'u', to: 'id', from: '/id' },
    },
  };
  const update: Operation = { ...operation, id: 'u', method: 'PATCH', fields: [targetField('signs')] };
  const parts = {
    title: '',
    form: '',
    target: '',
    condition: { all: [] },
    call,
    operation,
    update,
    baseUrl: '',
    context: { timeZone: 'UTC' },
    questions: [],
    labelOf: (key: string) => key,
    example: null,
  };
  expect(sheetOf(parts).rows.map(row => row.otherwise.split('; ').at(-1))).toEqual([
    'found: not written',
    expect.stringMatching(/^found: (?!not written)/),
  ]);
});

const labels: Record<string, string> = { s: 'Which site?', g: 'Signs', x: 'Anything else' };
const sheet = sheetOf({
  title: 'Reports to register',
  form: 'Sampling report',
  target: 'Register',
  condition: { all: [{ field: 'g', is: 'oneOf', values: ['Foam'], not: false }] },
  call: {
    id: 'c',
    targetId: 't',
    operationId: 'o',
    lines: [
      line('site', { source: { from: 'field', field: 's' }, whenBlank: 'stop' }),
      line('signs', {
        source: { from: 'field', field: 'g' },
        cleaning: [
          { id: 'list.read', params: {} },
          { id: 'list.join', params: { separator: '; ' } },
        ],
      }),
      line('by', {
        source: { from: 'text', segments: [{ text: 'By ' }, { field: 's' }] },
        whenBlank: 'fallback',
        fallback: 'us',
      }),
      line('urgency', {}),
    ],
  },
  operation,
  baseUrl: 'https://register.example.org/',
  context: { timeZone: 'UTC' },
  questions: Object.entries(labels).map(([key, label]) => ({ key, label })),
  labelOf: key => labels[key] ?? key,
  example: scopeOf(example),
});

test('says each line in words, with the example, and what is left on both sides', () => {
  expect(sheet.rows.map(row => [row.question, row.field, row.value])).toEqual([
    ['Which site?', 'site', '=AB|07'],
    ['Signs', 'signs', 'Foam; Litter'],
    ['By {Which site?}', 'by', 'By =AB|07'],
  ]);
  expect(sheet.rows[1]!.cleaning).toBe('read as list, then joined with “; ”');
  expect(sheet.rows.map(row => row.otherwise)).toEqual([
    'blank: held; unreadable: held',
    'blank: left out; unreadable: held',
    'blank: us; unreadable: held',
  ]);
  expect(sheet).toMatchObject({
    request: 'POST https://register.example.org/samples',
    condition: 'Signs is one of Foam',
    unused: ['Anything else'],
    unfilled: ['urgency'],
  });
});

test('as Markdown each line has as many cells as the head, whatever stands in them', () => {
  const rows = sheetMarkdown(sheet)
    .split('\n')
    .filter(each => each.startsWith('|'));
  expect(rows).toHaveLength(5);
  for (const row of rows) expect(row.match(/(?<!\\)\|/g)).toHaveLength(9);
  expect(sheetMarkdown(sheet)).toContain('=AB\\|07');
});

test('as CSV it is read back, and holds no formula', () => {
  const { data } = Papa.parse<string[]>(sheetCsv(sheet).trimEnd());
  expect(data.map(row => row.length)).toEqual([8, 8, 8, 8]);
  expect(data[1]![6]).toBe("'=AB|07");
  expect(data[2]![7]).toBe('Foam; Litter');
});
