import type { RecordedPreview, SelectionInput, SendRecordedInput, WorkView } from '@grammata/contract';
import { foresee } from '@grammata/core/perform';
import { passes } from '../delivery';
import type { SendRecorded } from '../ledger';
import { tellQueued } from '../live';
import { HttpProblem, notFound } from '../problems';
import type { Services } from '../services';
import { type DeliveryRow, type RouteRow, type Selection, type SubmissionRow, type VersionRow } from '../store';
import { Problem } from '@grammata/core/transform';
import { inBackground } from '../work';
import { iso, now } from '../clock';
import type { Actor } from './actor';
import { mustBeAsShown } from './asShown';

/** Submissions looked at together, and most that a preview looks at. */
const PORTION = 100;
const MOST_LOOKED = 20_000;
/** Most reasons that a preview names. */
const MOST_REASONS = 5;
/** How many of a route may wait at once while recorded ones are sent: what arrives meanwhile does not wait behind all. */
const MOST_WAITING = 200;
/** ms after which it is looked again whether there is room. */
const PAUSE = 200;

type Parts = Pick<Services, 'store' | 'ledger' | 'timers' | 'deliveries' | 'workshop' | 'live' | 'log'>;

const selectionOf = ({ since, until, ...rest }: SelectionInput): Selection => ({
  ...rest,
  ...(since !== undefined && { since: Date.parse(since) }),
  ...(until !== undefined && { until: Date.parse(until) }),
});

/** Of a selection, what had arrived by a time. */
const upTo = (selection: Selection, time: string | undefined): Selection =>
  time === undefined ? selection : { ...selection, until: Math.min(selection.until ?? Infinity, Date.parse(time) + 1) };

/** The route with the version that counts. Throws HttpProblem where none is live. */
function liveRoute({ store }: Parts, routeId: string): { route: RouteRow; version: VersionRow } {
  const route = store.routes.byId(routeId);
  if (!route) throw notFound('route');
  const version = store.routes.latestVersion(routeId);
  if (route.state !== 'live' || !version)
    throw new HttpProblem(409, 'Only a live route can send past submissions.', 'Publish it first.');
  return { route, version };
}

/** Everything that is meant, oldest first, in portions that let others have their turn. */
async function* portions(
  { store, timers }: Parts,
  formId: string,
  selection: Selection,
): AsyncGenerator<SubmissionRow[]> {
  let last: SubmissionRow | undefined;
  for (;;) {
    const rows = store.forms.selected(formId, selection, PORTION, last);
    if (rows.length === 0) return;
    yield rows;
    last = rows.at(-1);
    await timers.turn();
  }
}

/** What sending recorded submissions through a live route would do. Nothing is sent. */
export async function previewRecorded(
  parts: Parts,
  _actor: Actor,
  routeId: string,
  input: SelectionInput,
): Promise<RecordedPreview> {
  const { version } = liveRoute(parts, routeId);
  const selection = selectionOf(input);
  const prepared = parts.deliveries.preparation.route(version.definition, 'live', version);
  const preview: RecordedPreview = {
    version: version.number,
    asOf: iso(now()),
    total: parts.store.forms.selectedCount(version.formId, selection),
    looked: 0,
    leftOut: 0,
    delivered: 0,
    underWay: 0,
    troubled: 0,
    fresh: 0,
    held: 0,
    reasons: [],
  };
  const reasons = new Map<string, number>();
  const problemsOf = ({ data }: SubmissionRow) =>
    prepared instanceof Problem ? [prepared] : foresee(prepared.stages, data, prepared.context).problems;
  for await (const rows of portions(parts, version.formId, selection)) {
    const before = parts.store.deliveries.lastOf(
      routeId,
      rows.map(each => each.id),
    );
    for (const row of rows) {
      preview.looked += 1;
      const known = before.get(row.id);
      if (known) preview[kindOf(known)] += 1;
      else if (!passes(version, row)) preview.leftOut += 1;
      else {
        preview.fresh += 1;
        const problems = problemsOf(row);
        if (problems.length > 0) preview.held += 1;
        for (const message of new Set(problems.map(problem => problem.message)))
          reasons.set(message, (reasons.get(message) ?? 0) + 1);
      }
    }
    if (preview.looked >= MOST_LOOKED) break;
  }
  preview.reasons = [...reasons]
    .map(([message, count]) => ({ message, count }))
    .sort((a, b) => b.count - a.count)
    .slice(0, MOST_REASONS);
  return preview;
}

const kindOf = ({ state }: DeliveryRow): 'delivered' | 'underWay' | 'troubled' =>
  state === 'delivered' ? 'delivered' : state === 'held' || state === 'dead' ? 'troubled' : 'underWay';

/**
 * Sends recorded submissions through a live route, oldest first, in the background: each that passes the condition and was
 * not sent before. Where a person insists (`again`), those that were delivered go once more, under a key of their own.
 */
export function sendRecorded(
  parts: Parts,
  actor: Actor,
  routeId: string,
  { selection: input, again, version: shown, asOf }: SendRecordedInput,
): Pick<WorkView, 'id'> {
  const { route, version } = liveRoute(parts, routeId);
  mustBeAsShown(version.number, shown, `Version ${version.number} is now live.`);
  const { store, ledger, workshop, timers, deliveries, live, log } = parts;
  const selection = upTo(selectionOf(input), asOf);
  const total = store.forms.selectedCount(version.formId, selection);
  if (total === 0) throw new HttpProblem(409, 'No past submission matches.');
  const work = workshop.start(
    { kind: 'send', title: `Sending past submissions of “${route.draft.name}”`, routeId },
    total,
  );
  log.info({ actor: actor.id, route: routeId, submissions: total }, 'past submissions are sent');
  let [done, queued, before] = [0, 0, 0];
  let isLive = true;
  const hasRoom = () => store.deliveries.waitingOn(routeId) <= MOST_WAITING;
  const all = async () => {
    let after: SendRecorded['after'] = null;
    for (;;) {
      // As many as go: the rest waits here, and need not be taken back where somebody stops it.
      while (!work.isStopped && isLiveNow() && !hasRoom()) await timers.pause(PAUSE);
      if (work.isStopped) break;
      const portion = await ledger.sendRecorded({ routeId, selection, after, most: PORTION, again });
      isLive = portion.isLive;
      if (!isLive || portion.looked === 0) break;
      tellQueued(live, portion.queued);
      deliveries.wake();
      queued += portion.queued.length;
      before += portion.before;
      done += portion.looked;
      after = portion.last;
      work.at(done);
    }
    const rest = work.isStopped || !isLive ? ` ${total - done} of ${total} were not processed.` : '';
    const gone = before > 0 ? ` ${before} were already delivered.` : '';
    work.finish(`${queued} queued.${gone}${rest}`);
  };
  const isLiveNow = () => store.routes.byId(routeId)?.state === 'live';
  void inBackground(timers, work, all, () => `after ${done} of ${total}`);
  return { id: work.id };
}
