import type { DeliverySummary, DeliveryState } from '@grammata/contract';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { wordsFor } from '../app/api';
import { useKeys } from '../app/keys';
import {
  Act,
  count,
  counted,
  DeliveryStateWord,
  deliveryWords,
  Empty,
  Fault,
  Moment,
  Note,
  Press,
  Sheet,
  useRowFocus,
} from '../ui';
import { WorkStrip } from '../work';
import { useRoutes } from '../routes/queries';
import { useDeliveries, useResend, type Filter } from './queries';

const states: DeliveryState[] = ['waiting', 'sending', 'delivered', 'held', 'dead'];
const ROW = 46;

/** The filter stands in the address, so that it can be sent to a colleague. */
function useFilter() {
  const [params, setParams] = useSearchParams();
  const filter: Filter = {
    state: params.get('state') ?? '',
    routeId: params.get('route') ?? '',
    search: params.get('search') ?? '',
  };
  const set = (name: string, value: string) =>
    setParams(
      before => {
        const after = new URLSearchParams(before);
        if (value) after.set(name, value);
        else after.delete(name);
        return after;
      },
      { replace: true },
    );
  return { filter, set };
}

export function DeliveryList() {
  const { filter, set } = useFilter();
  const list = useDeliveries(filter);
  const routes = useRoutes().data;
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const search = useRef<HTMLInputElement>(null);
  useKeys([{ key: '/', does: 'search', run: () => search.current?.focus() }]);
  const first = list.data?.pages[0];
  const rows = list.data?.pages.flatMap(page => page.deliveries) ?? [];
  const all = first ? Object.values(first.counts).reduce((sum, n) => sum + n, 0) : 0;
  const filtered = filter.state !== '' || filter.routeId !== '' || filter.search !== '';
  return (
    <Sheet
      title="Deliveries"
      aside={
        <Resend
          rows={rows}
          total={first?.total ?? 0}
          chosen={chosen}
          onDone={() => setChosen(new Set())}
          filter={filter}
        />
      }
    >
      <div
        className="mt-3 flex flex-wrap items-baseline gap-x-5 gap-y-2 border-b border-ink"
        role="group"
        aria-label="Filter by state"
      >
        {['', ...states].map(state => (
          <button
            key={state}
            type="button"
            aria-pressed={filter.state === state}
            onClick={() => set('state', state)}
            className={`pb-2 ${filter.state === state ? 'font-semibold shadow-[inset_0_-3px_0_var(--oxide)]' : 'text-ink-2 hover:text-ink'}`}
          >
            {state === '' ? 'all' : deliveryWords[state as DeliveryState]}{' '}
            <span className="font-mono text-fine font-normal text-ink-3">
              {first ? count(state === '' ? all : first.counts[state as DeliveryState]) : ''}
            </span>
          </button>
        ))}
        <span className="flex-1" />
        <select
          aria-label="Of which route"
          className="write mb-1 w-44!"
          value={filter.routeId}
          onChange={event => set('route', event.target.value)}
        >
          <option value="">of all routes</option>
          {(routes ?? []).map(each => (
            <option key={each.id} value={each.id}>
              {each.name}
            </option>
          ))}
        </select>
        <input
          ref={search}
          aria-label="Search deliveries"
          className="write mb-1 w-52!"
          placeholder="Search answers and reasons"
          value={filter.search}
          onChange={event => set('search', event.target.value)}
        />
      </div>
      <WorkStrip about={{}} kinds={['send', 'resend']} />
      {list.error && <Fault again={() => void list.refetch()}>{wordsFor(list.error)}</Fault>}
      {first &&
        rows.length === 0 &&
        (filtered ? (
          <Empty title="Nothing matches.">
            No delivery is like that.{' '}
            <Act onClick={() => ['state', 'route', 'search'].forEach(name => set(name, ''))}>Show all</Act>
          </Empty>
        ) : (
          <Empty title="Nothing was sent yet.">
            A live route delivers each submission that arrives.{' '}
            <Link className="act" to="/routes">
              Go to the routes
            </Link>
          </Empty>
        ))}
      <Rows
        rows={rows}
        total={first?.total ?? 0}
        more={() => void (list.hasNextPage && !list.isFetchingNextPage && list.fetchNextPage())}
        chosen={chosen}
        onChoose={setChosen}
      />
    </Sheet>
  );
}

function Rows({
  rows,
  total,
  more,
  chosen,
  onChoose,
}: {
  rows: DeliverySummary[];
  total: number;
  more: () => void;
  chosen: ReadonlySet<string>;
  onChoose: (chosen: ReadonlySet<string>) => void;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  const navigate = useNavigate();
  const [at, setAt] = useState(-1);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 12,
  });
  const items = virtual.getVirtualItems();
  const last = items.at(-1)?.index ?? 0;
  useEffect(() => {
    if (last >= rows.length - 20 && rows.length < total) more();
  });
  /** Where the last one was chosen: with Shift all between are. */
  const from = useRef<number | null>(null);
  const toggle = (index: number, isRange = false) => {
    const { id } = rows[index]!;
    if (isRange && from.current !== null) {
      const [first, last] = [Math.min(from.current, index), Math.max(from.current, index)];
      onChoose(new Set([...chosen, ...rows.slice(first, last + 1).map(each => each.id)]));
    } else onChoose(chosen.has(id) ? new Set([...chosen].filter(each => each !== id)) : new Set([...chosen, id]));
    from.current = index;
  };
  const go = useRowFocus(rows.length, at, setAt, virtual, scroller);
  useKeys([
    { key: 'j', does: 'next', run: () => go(1) },
    { key: 'k', does: 'previous', run: () => go(-1) },
    { key: 'x', does: 'choose it', run: () => rows[at] && toggle(at) },
    { key: 'X', does: 'choose all from the last chosen to it', run: () => rows[at] && toggle(at, true) },
    {
      key: 'A',
      does: chosen.size > 0 ? 'choose none' : 'choose all that are listed',
      run: () => onChoose(chosen.size > 0 ? new Set() : new Set(rows.map(each => each.id))),
    },
    { key: 'Enter', does: 'open it', run: () => rows[at] && void navigate(`/deliveries/${rows[at].id}`) },
  ]);
  if (rows.length === 0) return null;
  return (
    <div ref={scroller} className="max-h-[calc(100vh-11.5rem)] overflow-auto">
      <ul
        aria-label={counted(total, 'delivery', 'deliveries')}
        className="relative"
        style={{ height: virtual.getTotalSize() }}
      >
        {items.map(({ index, start }) => {
          const row = rows[index]!;
          return (
            <li
              key={row.id}
              data-row={index}
              style={{ transform: `translateY(${start}px)`, height: ROW }}
              className={`absolute inset-x-0 grid grid-cols-[1.5rem_7.5rem_minmax(0,1fr)_6rem] items-start gap-x-3 border-b border-rule pt-1.5 hover:bg-raised md:grid-cols-[1.5rem_7.5rem_minmax(0,1fr)_14rem_6.5rem] ${index === at ? 'bg-oxide-wash' : ''}`}
            >
              <input
                type="checkbox"
                aria-label={`Choose ${row.about}`}
                checked={chosen.has(row.id)}
                onChange={event => toggle(index, (event.nativeEvent as MouseEvent).shiftKey)}
                title="With Shift: all from the last chosen to this one"
                className="mt-1 ml-1 accent-oxide"
              />
              <DeliveryStateWord state={row.state} />
              <Link to={`/deliveries/${row.id}`} className="min-w-0">
                <span className="block truncate">{row.about}</span>
                <span
                  className={`block truncate text-small ${row.state === 'held' || row.state === 'dead' ? 'text-crimson' : 'text-ink-3'}`}
                >
                  {row.reason ?? (row.attempts > 1 ? counted(row.attempts, 'attempt') : ' ')}
                </span>
              </Link>
              <span className="min-w-0 max-md:hidden">
                <span className="block truncate text-ink-2">{row.routeName}</span>
                <span className="block text-small text-ink-3">version {row.version}</span>
              </span>
              <span className="pr-1 text-right text-ink-2">
                <Moment at={row.createdAt} />
              </span>
            </li>
          );
        })}
      </ul>
    </div>
  );
}

/** What can be done with the deliveries that are chosen, or with all that match. */
function Resend({
  rows,
  total,
  chosen,
  filter,
  onDone,
}: {
  rows: DeliverySummary[];
  /** All that match, whether they are seen or not. */
  total: number;
  chosen: ReadonlySet<string>;
  filter: Filter;
  onDone: () => void;
}) {
  const resend = useResend();
  const picked = rows.filter(row => chosen.has(row.id));
  const alike = (['held', 'dead'] as const).find(state => state === filter.state) ?? null;
  const number = picked.length > 0 ? picked.length : alike ? total : 0;
  const twice = picked.filter(row => row.state === 'delivered').length;
  const send = (mapping: 'then' | 'now') => {
    const { routeId, search } = filter;
    const meant =
      picked.length > 0
        ? { ids: picked.map(row => row.id) }
        : { ids: [], filter: { state: alike!, ...(routeId && { routeId }), ...(search && { search }) } };
    resend.mutate({ ...meant, mapping }, { onSuccess: onDone });
  };
  return (
    <>
      <p role="status" className="sr-only">
        {resend.data && !resend.data.work
          ? `${counted(resend.data.ids.length, 'delivery', 'deliveries')} sent again`
          : ''}
      </p>
      {number === 0 ? (
        <Note tone="goes">
          Choose deliveries to send them again, or look at those that are held or dead: what was done already is not
          done twice.
        </Note>
      ) : (
        <Note tone="goes">
          {picked.length > 0
            ? `${counted(number, 'delivery', 'deliveries')} chosen.`
            : `All ${counted(number, 'delivery', 'deliveries')} like this, seen here or not.`}{' '}
          {twice > 0 && (
            <b className="text-crimson">
              {counted(twice, 'was', 'were')} delivered already and would be a second time.
            </b>
          )}
          <span className="mt-2 flex flex-wrap gap-2 font-sans">
            <Press onClick={() => send('now')} disabled={resend.isPending}>
              {picked.length === 0 && number > 1 ? `Send all ${count(number)} again` : 'Send again'}
            </Press>
            <Press quiet onClick={() => send('then')} disabled={resend.isPending}>
              as mapped then
            </Press>
          </span>
        </Note>
      )}
      {resend.data && resend.data.ids.length > 0 && (
        <Note tone="fine">{counted(resend.data.ids.length, 'delivery', 'deliveries')} on the way again.</Note>
      )}
      {resend.error && <Note tone="trouble">{wordsFor(resend.error)}</Note>}
      <Note tone="look">
        <b>Held</b> means the request can’t be made as the mapping stands. <b>Dead letter</b> means the target would not
        take it.
      </Note>
    </>
  );
}
