import type { ArrivalSummary, DeskView, RouteSummary } from '@grammata/contract';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, keys } from '../api';
import { Read } from '../app/Read';
import { alike, bytes, count, counted, Empty, Moment, Note, RouteStateWord, Sheet } from '../ui';
import { DeliveryChart } from './DeliveryChart';

const useDesk = () => useQuery({ queryKey: keys.desk, queryFn: () => api<DeskView>('/desk') });

/** What goes on, at a glance. */
export function Desk() {
  return (
    <Read title="Desk" query={useDesk()}>
      {desk => <Loaded desk={desk} />}
    </Read>
  );
}

function Loaded({ desk }: { desk: DeskView }) {
  return (
    <Sheet title="Desk" aside={<DeskNotes desk={desk} />}>
      {desk.intakes === 0 ? (
        <Empty title="A clean desk.">
          Begin where the answers begin:{' '}
          <Link className="act" to="/intakes?new">
            open an intake
          </Link>
          , put its address into the form builder, and send one answer.
        </Empty>
      ) : (
        <>
          <DeliveryChart days={desk.days} />
          <Routes routes={desk.routes} />
          <Recent arrivals={desk.recent} />
        </>
      )}
    </Sheet>
  );
}

function DeskNotes({
  desk: { counts, troubles, strays, changes, routes, unread, lastUnread, storage, arrivalsToday, intakes, parked },
}: {
  desk: DeskView;
}) {
  const troubled = counts.held + counts.dead + parked.length;
  const told = troubles.reduce((sum, each) => sum + each.count, 0);
  const drafts = routes.filter(each => each.state === 'draft');
  return (
    <>
      {parked.map(({ targetId, name, reason }) => (
        <Note key={targetId} tone="trouble">
          <b>{name}</b> is parked. {reason} What goes there waits.{' '}
          <Link className="act" to={`/targets/${targetId}`}>
            See to it
          </Link>
        </Note>
      ))}
      {alike(troubles, each => `${each.routeId} ${each.state}`).map(([first]) => (
        <Trouble
          key={first.routeId + first.state}
          troubles={troubles.filter(each => each.routeId === first.routeId && each.state === first.state)}
        />
      ))}
      {told < counts.held + counts.dead && (
        <Note tone="trouble">
          {told > 0 && 'And '}
          {counted(
            counts.held + counts.dead - told,
            told > 0 ? 'more delivery' : 'delivery',
            told > 0 ? 'more deliveries' : 'deliveries',
          )}{' '}
          held or dead letters.{' '}
          <Link className="act" to={`/deliveries?state=${counts.held > 0 ? 'held' : 'dead'}`}>
            Look at them
          </Link>
        </Note>
      )}
      {changes > 0 && (
        <Note tone="look">
          {counted(changes, 'change')} of forms and targets {changes === 1 ? 'is' : 'are'} open.{' '}
          <Link className="act" to="/changes">
            Look at {changes === 1 ? 'it' : 'them'}
          </Link>
        </Note>
      )}
      {strays > 0 && (
        <Note tone="trouble">
          {counted(strays, 'request')} came to addresses that no intake has.{' '}
          <Link className="act" to="/intakes">
            See which
          </Link>
        </Note>
      )}
      {lastUnread && (
        <Note tone="look">
          {counted(unread, 'message')} could not be read and {unread === 1 ? 'is' : 'are'} set aside.{' '}
          <Link className="act" to={`/intakes/${lastUnread.intakeId}?arrival=${lastUnread.id}`}>
            See the newest
          </Link>
        </Note>
      )}
      {drafts.map(each => (
        <Note key={each.id} tone="look">
          <b>{each.name}</b> is still a draft.{' '}
          <Link className="act" to={`/routes/${each.id}`}>
            Go on with it
          </Link>
        </Note>
      ))}
      {intakes > 0 && troubled + strays + unread === 0 && storage === null && (
        <Note tone="fine">Nothing is in trouble.</Note>
      )}
      <Note tone="goes">
        {arrivalsToday === 0 ? 'Nothing has come in today.' : `${counted(arrivalsToday, 'submission')} came in today.`}
      </Note>
    </>
  );
}

/** Why deliveries of a route are held or dead letters, and where that is mended. */
function Trouble({ troubles }: { troubles: DeskView['troubles'] }) {
  const [{ routeId, routeName, state }] = troubles as [DeskView['troubles'][number]];
  const many = troubles.reduce((sum, each) => sum + each.count, 0);
  return (
    <Note tone="trouble">
      <b>{routeName}</b>:{' '}
      {state === 'held' ? `${counted(many, 'delivery', 'deliveries')} held` : counted(many, 'dead letter')}.
      {troubles.map(each => (
        <span key={each.reason} className="block text-ink-2">
          {troubles.length > 1 && `${count(each.count)}: `}
          {each.reason}
        </span>
      ))}
      {state === 'held' && (
        <>
          <Link className="act" to={`/routes/${routeId}/what`}>
            Mend the mapping
          </Link>{' '}
          or{' '}
        </>
      )}
      <Link className="act" to={`/deliveries?state=${state}&route=${routeId}`}>
        {many === 1 ? 'look at it' : 'look at them'}
      </Link>
    </Note>
  );
}

function Routes({ routes }: { routes: RouteSummary[] }) {
  return (
    <section aria-label="Routes" className="mt-8">
      <h2 className="border-b border-ink pb-1.5">Routes</h2>
      {routes.length === 0 && (
        <p className="py-3 font-serif text-[0.9375rem] text-ink-2">
          None yet.{' '}
          <Link className="act" to="/routes?new">
            Start one
          </Link>{' '}
          once a submission has arrived.
        </p>
      )}
      <ul className="ledger">
        {routes.map(route => (
          <li key={route.id}>
            <Link
              to={`/routes/${route.id}`}
              className="grid grid-cols-[minmax(0,1fr)_5.5rem] items-baseline gap-x-5 py-2 hover:bg-raised md:grid-cols-[minmax(0,1fr)_5.5rem_8rem_6.5rem_7rem]"
            >
              <span className="truncate font-semibold">{route.name}</span>
              <RouteStateWord state={route.state} />
              <span className="text-right text-ink-2 max-md:hidden">{count(route.delivered)} delivered</span>
              <span className="text-right text-ink-2 max-md:hidden">{count(route.waiting)} waiting</span>
              <span className={`text-right max-md:hidden ${route.dead > 0 ? 'text-crimson' : 'text-ink-2'}`}>
                {count(route.dead)} held or dead
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Recent({ arrivals }: { arrivals: ArrivalSummary[] }) {
  return (
    <section aria-label="Came in last" className="mt-8">
      <h2 className="border-b border-ink pb-1.5">Came in last</h2>
      {arrivals.length === 0 && <p className="py-3 font-serif text-[0.9375rem] text-ink-2">Nothing yet.</p>}
      <ul className="ledger">
        {arrivals.map(each => (
          <li key={each.id}>
            <Link
              to={`/intakes/${each.intakeId}?arrival=${each.id}`}
              className="grid grid-cols-[minmax(0,1fr)_8rem] items-baseline gap-x-5 py-2 hover:bg-raised md:grid-cols-[minmax(0,1fr)_12rem_5rem_8rem]"
            >
              <span className="truncate">
                {each.about ?? <span className="text-ochre">△ {each.trouble}</span>}
                {each.repeats && <span className="text-ink-3"> · sent again</span>}
              </span>
              <span className="truncate text-ink-2 max-md:hidden">
                {each.formName ?? each.contentType ?? each.method}
              </span>
              <span className="text-right text-ink-2 max-md:hidden">{bytes(each.size)}</span>
              <span className="text-right text-ink-2">
                <Moment at={each.receivedAt} />
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}
