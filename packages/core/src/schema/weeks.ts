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
  return withoutGaps([...weeks].sort(([a], [b]) => a - b).map(([, week]) => week));
}

/** Two countings of one week together. */
export function addedUp(a: Week | undefined, b: Week): Week {
  if (!a) return b;
  const filled = new Map(Object.entries(a.filled));
  for (const [key, times] of Object.entries(b.filled)) filled.set(key, (filled.get(key) ?? 0) + times);
  return { monday: b.monday, submissions: a.submissions + b.submissions, filled: Object.fromEntries(filled) };
}

/** Weeks that are told at most; the newest. */
const MOST_WEEKS = 520;

/** The weeks in their order, with those in between in which nothing came. */
export function withoutGaps(weeks: Week[]): Week[] {
  const known = new Map(weeks.map(week => [week.monday, week]));
  const all: Week[] = [];
  const last = Date.parse(weeks.at(-1)?.monday ?? '');
  const first = Math.max(Date.parse(weeks[0]?.monday ?? ''), last - MOST_WEEKS * 7 * DAY);
  for (let at = first; at <= last; at += 7 * DAY) {
    const monday = new Date(at).toISOString().slice(0, 10);
    all.push(known.get(monday) ?? { monday, submissions: 0, filled: {} });
  }
  return all;
}
