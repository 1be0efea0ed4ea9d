import type { Submission } from '../submission';
import { weeklyFill } from '.';

const sample = (
  day: string,
  answered: string[],
  asked = ['site', 'note'],
): { receivedAt: number; submission: Submission } => ({
  receivedAt: Date.parse(`${day}T12:00:00Z`),
  submission: {
    form: null,
    id: null,
    submittedAt: null,
    meta: {},
    files: [],
    questions: asked.map(key => ({ key, label: key, pointer: `/${key}` })),
    fields: answered.map(key => ({ key, label: key, kind: 'text', value: 'x', pointer: `/${key}` })),
  },
});

test('weeks begin on Monday, stand in order and have no gaps', () => {
  const weeks = weeklyFill([
    sample('2026-11-22', ['site']),
    sample('2026-11-02', ['site', 'note']),
    sample('2026-11-08', ['site']),
  ]);
  expect(weeks).toEqual([
    { monday: '2026-11-02', submissions: 2, filled: { site: 2, note: 1 } },
    { monday: '2026-11-09', submissions: 0, filled: {} },
    { monday: '2026-11-16', submissions: 1, filled: { site: 1, note: 0 } },
  ]);
});

test('a question that was asked and passed over counts 0, one that was not asked is missing', () => {
  expect(weeklyFill([sample('2026-11-02', ['site'], ['site', 'note'])])[0]!.filled).toEqual({ site: 1, note: 0 });
  expect(weeklyFill([sample('2026-11-02', ['site'], ['site'])])[0]!.filled).toEqual({ site: 1 });
});

test('no samples, no weeks', () => expect(weeklyFill([])).toEqual([]));
