import { setOwn, type Submission } from '../submission';

/** How often each question was answered in one week. */
export interface Week {
  /** The Monday it begins with, `2026-11-02`, in UTC. */
  monday: string;
  submissions: number;
  /** Answers by question key; a question that was not asked at all is missing. */
  filled: Record<string, number>;
}

const DAY = 86_400_000;

/** The Monday of a time's week (ISO 8601 weeks begin on Monday), in ms since the epoch, UTC. */
const mondayOf = (time: number): number => {
  const day = Math.floor(time / DAY) * DAY;
  return day - ((new Date(day).getUTCDay() + 6) % 7) * DAY;
};

/** Fill by question and week, oldest first, without gaps: what makes a change of the form visible. */
export function weeklyFill(samples: Iterable<{ receivedAt: number; submission: Submission }>): Week[] {
  const weeks = new Map<number, Week>();
  const weekAt = (monday: number): Week => {
    const known = weeks.get(monday) ?? {
      monday: new Date(monday).toISOString().slice(0, 10),
      submissions: 0,
      filled: {},
    };
    weeks.set(monday, known);
    return known;
  };
  for (const { receivedAt, submission } of samples) {
    const week = weekAt(mondayOf(receivedAt));
    week.submissions += 1;
    const answered = new Set([
      ...submission.fields.map(field => field.key),
      ...submission.files.map(file => file.field),
    ]);
    const before = (key: string) => (Object.hasOwn(week.filled, key) ? week.filled[key]! : 0);
    for (const { key } of submission.questions) setOwn(week.filled, key, before(key));
    for (const key of answered) setOwn(week.filled, key, before(key) + 1);
  }
  const mondays = [...weeks.keys()];
  const last = Math.max(...mondays);
  for (let monday = Math.min(...mondays); monday < last; monday += 7 * DAY) weekAt(monday);
  return [...weeks].sort(([a], [b]) => a - b).map(([, week]) => week);
}
