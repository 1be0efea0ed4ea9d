import type { ReceivedArrival } from '../store';
import type { ArrivalReading, Commands, FeedOutcome, FeedPage } from './commands';
import type { Desk } from './desk';
import { entriesOf } from './prints';
import { storeReadings } from './reading';
import { rowsOf } from './statements';

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

const INSERT = `INSERT INTO arrivals (${COLUMNS.map(snake).join(', ')}, headers)
  SELECT ${COLUMNS.map(name => `value->>'${name}'`).join(', ')}, value->'headers' FROM json_each(:rows)
  WHERE EXISTS (SELECT 1 FROM intakes WHERE id = value->>'intakeId')
  ON CONFLICT DO NOTHING RETURNING id`;

/** Bodies come as one run of bytes: each row says where its own begins. */
const INSERT_BODIES = `INSERT INTO arrival_bodies (arrival_id, body)
  SELECT value->>'id', coalesce(substr(:bytes, value->>'start' + 1, value->>'length'), x'') FROM json_each(:rows)
  WHERE EXISTS (SELECT 1 FROM arrivals WHERE id = value->>'id') ON CONFLICT DO NOTHING`;

const asNumber = (value: boolean) => (value ? 1 : 0);

/** Stores arrivals; gives the identifiers of those that are stored. */
function store({ sql }: Desk, arrivals: readonly ReceivedArrival[]): Set<string> {
  const rows = arrivals.map(({ body: _body, ...row }) => ({
    ...row,
    cut: asNumber(row.cut),
    unsure: asNumber(row.unsure),
    aside: asNumber(row.aside),
    ended: asNumber(row.ended),
  }));
  const stored = new Set(sql.all<{ id: string }>(INSERT, { rows: rowsOf(rows) }).map(each => each.id));
  let start = 0;
  const places = arrivals.map(({ id, body }) => {
    const place = { id, start, length: body.length };
    start += body.length;
    return place;
  });
  const bytes = arrivals.length === 1 ? arrivals[0]!.body : Buffer.concat(arrivals.map(each => each.body));
  sql.run(INSERT_BODIES, { rows: rowsOf(places), bytes });
  return stored;
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
  const prints = rowsOf([...new Set(entries.flat())]);
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
