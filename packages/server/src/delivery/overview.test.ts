import type { RunView } from '@grammata/contract';
import { summed } from './overview';

const change = (lineId: string, before: unknown, after: string) => ({
  lineId,
  field: lineId,
  before: before as never,
  after,
});
const run = (
  what: 'created' | 'updated' | 'unchanged' | 'left',
  changes: ReturnType<typeof change>[] = [],
  problem?: string,
): RunView => ({
  asks: [{ callId: 'a', item: '0', purpose: 'update', request: '', changes, found: null }],
  done: problem ? [] : [{ callId: 'a', item: '0', what, answer: null, note: null }],
  problems: problem ? [{ code: 'x', message: problem }] : [],
});

test('dry runs are summed: what is made, changed and left, and which lines write over something', () => {
  const overview = summed([
    { id: 's1', run: run('updated', [change('phone', '+44 1', '+44 2'), change('note', '', 'new')]) },
    { id: 's2', run: run('updated', [change('phone', undefined, '+44 3')]) },
    { id: 's3', run: run('created') },
    { id: 's4', run: run('unchanged') },
    { id: 's5', run: run('left') },
    { id: 's6', run: run('left', [], 'It says no.') },
    { id: 's7', run: run('left', [], 'It says no.') },
  ]);
  expect(overview).toMatchObject({ looked: 7, made: 1, changed: 2, unchanged: 1, left: 1 });
  expect(overview.problems).toEqual([{ message: 'It says no.', samples: 2 }]);
  expect(overview.lines).toEqual([
    {
      callId: 'a',
      lineId: 'phone',
      field: 'phone',
      overwrites: 1,
      fills: 1,
      examples: [{ sampleId: 's1', before: '+44 1', after: '+44 2' }],
    },
    { callId: 'a', lineId: 'note', field: 'note', overwrites: 0, fills: 1, examples: [] },
  ]);
});

test('examples are a few, whatever is changed', () => {
  const many = Array.from({ length: 9 }, (_, n) => ({
    id: `s${n}`,
    run: run('updated', [change('phone', `+44 ${n}`, '+44 9')]),
  }));
  expect(summed(many).lines[0]).toMatchObject({ overwrites: 9, examples: [{}, {}, {}] });
});
