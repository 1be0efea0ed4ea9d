import { lineFrom, reporting } from '../testing';
import { answersUsed } from '.';

test('what a route counts on in the answers of a target', () => {
  const [call] = reporting.calls;
  const calls = [
    {
      ...call!,
      identity: { found: '/no', made: '/record/no' },
      readBack: { operationId: 'read', to: 'no', from: '/record/no' },
      find: {
        operationId: 'search',
        line: lineFrom('site', 'site'),
        list: '/items',
        equals: '/site',
        whenNone: 'create' as const,
        whenSeveral: 'hold' as const,
        update: null,
      },
    },
    {
      ...call!,
      id: 'b',
      targetId: 'other',
      lines: [lineFrom('x', '@answer/a/links/@last/href'), lineFrom('y', '@answer/a/id'), lineFrom('z', '@answer/a')],
    },
  ];
  expect([...answersUsed({ calls }, 't')]).toEqual([
    ['create', ['/record/no', '/links', '/id']],
    ['search', ['/items']],
  ]);
  expect([...answersUsed({ calls }, 'other')]).toEqual([]);
});
