import { lineFrom, reporting } from '../testing';
import { newLine, questionsUsed, rekeyed, usesOf, type RouteDefinition } from '.';

test('a question is found and put in another’s place wherever it is used', () => {
  const wide: RouteDefinition = {
    ...reporting,
    calls: [
      {
        ...reporting.calls[0]!,
        condition: { any: [{ field: 'site', is: 'blank', values: [], not: true }] },
        repeat: 'site',
        lines: [
          lineFrom('site', 'site'),
          { ...newLine('t', 'note'), source: { from: 'text', segments: [{ text: 'At ' }, { field: 'site' }] } },
          { ...newLine('f', 'ph'), source: { from: 'first', fields: ['ph', 'site'] } },
          { ...newLine('c', 'ph'), source: { from: 'constant', value: 'site' } },
        ],
      },
    ],
  };
  expect(usesOf(wide, 'site').map(each => each.what)).toEqual(['condition', 'repeat', 'line', 'line', 'line']);
  const other = rekeyed(wide, new Map([['site', 'q_7']]));
  expect(usesOf(other, 'site')).toEqual([]);
  expect(usesOf(other, 'q_7')).toEqual(usesOf(wide, 'site'));
  // A constant is no question, whatever it says.
  expect(other.calls[0]!.lines[3]!.source).toEqual({ from: 'constant', value: 'site' });
  expect(rekeyed(other, new Map([['q_7', 'site']]))).toEqual(wide);
});

test('two questions change places', () => {
  const swapped = rekeyed(
    reporting,
    new Map([
      ['site', 'note'],
      ['note', 'site'],
    ]),
  );
  expect(swapped.calls[0]!.lines.map(each => each.source)).toEqual(
    ['note', 'ph', 'site'].map(field => ({ from: 'field', field })),
  );
});

test('the questions that are used, each once, in their order; what is no question is none', () => {
  const [call] = reporting.calls;
  const twice = [
    ...call!.lines,
    lineFrom('again', 'site'),
    lineFrom('sent', '@submittedAt'),
    lineFrom('x', '@answer/a/id'),
  ];
  expect(questionsUsed({ ...reporting, calls: [{ ...call!, lines: twice }] })).toEqual([
    'weather',
    'site',
    'ph',
    'note',
  ]);
});
