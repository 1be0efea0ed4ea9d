import type { ReceivedArrival } from '../store';
import type { ArrivalReading, Commands, FeedOutcome, FeedPage } from './commands';
import type { Desk } from './desk';
import { entriesOf } from './prints';
import { storeReadings } from './filing';
import { listOf } from './statements';

const COLUMNS = [
  'id',
  'intakeId',
  'receivedAt',
  'method',
  'url',
  'contentType',
  'sender',
  'size',
  'cut',
  'state',
  'trouble',
  'unsure',
  'checked',
  'digest',
  'aside',
  'lane',
  'tries',
  'ended',
  'found',
  'repeats',
  'readingRevision',
] as const;

const snake = (name: string) => name.replace(/[A-Z]/g, letter => `_${letter.toLowerCase()}`);

const INSERT = `INSERT INTO arrivals (${COLUMNS.map(snake).join(', ')}, headers)`;

/** Stores arrivals whose intake is there; gives their identifiers. */
function store({ sql }: Desk, arrivals: readonly ReceivedArrival[]): Set<string> {
  const intakeIds = listOf([...new Set(arrivals.map(each => each.intakeId))]);
  const open = new Set(
    sql
      .all<{ id: string }>('SELECT id FROM intakes WHERE id IN (SELECT value FROM json_each(:intakeIds))', {
        intakeIds,
      })
      .map(each => each.id),
  );
  const taken = arrivals.filter(each => open.has(each.intakeId));
  if (taken.length === 0) return new Set();
  sql.rows(
    INSERT,
    taken.map(each => [...COLUMNS.map(name => each[name]), JSON.stringify(each.headers)]),
  );
  sql.rows(
    // An empty blob is bound as NULL.
    'INSERT INTO arrival_bodies (arrival_id, body) SELECT column1, coalesce(column2, zeroblob(0)) FROM (',
    taken.map(({ id, body }) => [id, body]),
    ')',
  );
  return new Set(taken.map(each => each.id));
}

/** What comes in. */
export const arriving = (desk: Desk): Pick<Commands, 'takeIn' | 'takeInFeed'> => ({
  takeIn(arrivals) {
    const stored = store(desk, arrivals);
    return arrivals.map(each => stored.has(each.id));
  },

  takeInFeed(page) {
    const { arrival, end, isEmpty } = page;
    const fresh = freshIn(desk, page);
    const isNews = end.state === 'read' ? fresh > 0 : !isEmpty && !isKnown(desk, arrival);
    if (!isNews || !store(desk, [{ ...arrival, state: 'reading' }]).has(arrival.id)) return null;
    const reading: ArrivalReading = { ...page, arrivalId: arrival.id, from: 0, isAgain: false };
    const [outcome] = storeReadings(desk, [reading]);
    const { arrivalId: _id, ...rest } = outcome!;
    return { ...rest, fresh } satisfies FeedOutcome;
  },
});

/** How many entries of a page were not seen before. */
function freshIn({ sql }: Desk, { arrival, submissions }: FeedPage): number {
  const entries = submissions.map(each => entriesOf(each));
  const prints = listOf([...new Set(entries.flat())]);
  const rows = sql.all<{ print: string }>(
    'SELECT print FROM seen WHERE intake_id = :intakeId AND print IN (SELECT value FROM json_each(:prints))',
    { intakeId: arrival.intakeId, prints },
  );
  const known = new Set(rows.map(each => each.print));
  const fresh = entries.filter(prints => !prints.some(each => known.has(each)));
  return new Set(fresh.map(([first]) => first)).size;
}

/** Whether the same bytes came before. */
const isKnown = ({ sql }: Desk, { intakeId, digest }: ReceivedArrival): boolean =>
  sql.get('SELECT id FROM arrivals WHERE intake_id = :intakeId AND digest = :digest LIMIT 1', { intakeId, digest }) !==
  undefined;
