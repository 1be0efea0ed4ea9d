import type { PaceView } from '@grammata/contract';
import { useQuery } from '@tanstack/react-query';
import { scaleLinear, scaleLog, type ScaleLinear, type ScaleLogarithmic } from 'd3-scale';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { api, keys, wordsFor } from '../api';
import { count, Fault } from '../ui';
import { flaggedFirst, intakeFlag, latencyFlag, latencyTicks, took } from './flags';

/** How quickly routes deliver, and how much intakes receive, today against what is usual. */
export function Pace() {
  const { data, error, refetch } = useQuery({ queryKey: keys.pace, queryFn: () => api<PaceView>('/pace') });
  if (error) return <Fault again={() => void refetch()}>{wordsFor(error)}</Fault>;
  if (!data) return null;
  return (
    <div className="mt-7 grid gap-x-10 gap-y-7 xl:grid-cols-2">
      <Latency routes={data.routes.filter(each => each.today ?? each.usual)} />
      <Intakes intakes={data.intakes} />
    </div>
  );
}

const weekday = new Intl.DateTimeFormat('en-GB', { weekday: 'long', timeZone: 'UTC' });

function Latency({ routes }: { routes: PaceView['routes'] }) {
  const all = routes.flatMap(({ today, usual }) =>
    [today, usual].flatMap(each => (each ? [each.median, each.p95] : [])),
  );
  const ticks = latencyTicks(all);
  const x = scaleLog([ticks[0]!.ms, ticks.at(-1)!.ms], [0, 100]).clamp(true);
  const { rows, more } = flaggedFirst(routes, latencyFlag);
  return (
    <Figure
      title="Arrival to delivered"
      about="today"
      keys={
        <>
          <Key word="median">
            <circle cx="6" cy="6" r="3.5" className="fill-ink" />
          </Key>
          <Key word="95th percentile">
            <path d="M6,0 V12" className="stroke-ink" strokeWidth="2" />
          </Key>
          <Usual />
        </>
      }
      none="No deliveries yet."
      isEmpty={routes.length === 0}
      ticks={ticks.map(({ ms, words }) => ({ at: x(ms), words }))}
      more={more > 0 && <Link to="/routes">{count(more)} more routes</Link>}
    >
      {rows.map(({ routeId, name, today, usual }) => {
        const flag = latencyFlag({ today, usual });
        const phrases = [
          today && `today median ${took(today.median)}, 95 % in ${took(today.p95)}`,
          usual && `usually median ${took(usual.median)}, 95 % in ${took(usual.p95)}`,
        ];
        return (
          <Row
            key={routeId}
            to={`/routes/${routeId}`}
            name={name}
            flag={flag}
            said={phrases}
            ticks={ticks.map(({ ms }) => x(ms))}
          >
            {usual && <Band x={x} from={usual.median} to={usual.p95} />}
            {today && (
              <>
                <line x1={`${x(today.median)}%`} x2={`${x(today.p95)}%`} y1="11" y2="11" className="stroke-ink" />
                <circle cx={`${x(today.median)}%`} cy="11" r="3.5" className="fill-ink" />
                <Tick at={x(today.p95)} />
              </>
            )}
          </Row>
        );
      })}
    </Figure>
  );
}

function Intakes({ intakes }: { intakes: PaceView['intakes'] }) {
  const most = Math.max(4, ...intakes.flatMap(({ today, usual }) => [today, usual?.most ?? 0]));
  const x = scaleLinear([0, most], [0, 100]).nice(4);
  const ticks = x.ticks(4);
  const { rows, more } = flaggedFirst(intakes, intakeFlag);
  return (
    <Figure
      title="Intakes today"
      about={`against what is usual by now on a ${weekday.format(new Date())}`}
      keys={
        <>
          <Usual />
          <Key word="today">
            <path d="M6,0 V12" className="stroke-ink" strokeWidth="3" />
          </Key>
        </>
      }
      none="No intakes yet."
      isEmpty={intakes.length === 0}
      ticks={ticks.map(tick => ({ at: x(tick), words: count(tick) }))}
      more={more > 0 && <Link to="/intakes">{count(more)} more intakes</Link>}
    >
      {rows.map(each => {
        const { intakeId, name, today, usual } = each;
        const phrases = [`${count(today)} today`, usual && `usually ${count(usual.least)} to ${count(usual.most)}`];
        return (
          <Row
            key={intakeId}
            to={`/intakes/${intakeId}`}
            name={name}
            flag={intakeFlag(each)}
            said={phrases}
            ticks={ticks.map(x)}
          >
            {usual && <Band x={x} from={usual.least} to={usual.most} />}
            <Tick at={x(today)} isWide />
          </Row>
        );
      })}
    </Figure>
  );
}

function Figure({
  title,
  about,
  keys: legend,
  none,
  isEmpty,
  ticks,
  more,
  children,
}: {
  title: string;
  about: string;
  keys: ReactNode;
  none: string;
  isEmpty: boolean;
  ticks: { at: number; words: string }[];
  more: ReactNode;
  children: ReactNode;
}) {
  return (
    <section aria-label={title} className="min-w-0">
      <div className="flex flex-wrap items-baseline gap-x-4 border-b border-ink pb-1.5">
        <h2>{title}</h2>
        <span className="flex-1 font-serif text-ink-2">{about}</span>
        {legend}
      </div>
      {isEmpty ? (
        <p className="py-3 font-serif text-ink-2">{none}</p>
      ) : (
        <>
          <ul className="pt-1.5">{children}</ul>
          <div className={`${columns} text-small text-ink-2`}>
            <span>{more && <span className="[&_a]:hover:underline">{more}</span>}</span>
            <svg aria-hidden width="100%" height="18" className="overflow-visible">
              {ticks.map(({ at, words }) => (
                <text key={words} x={`${at}%`} y="13" textAnchor="middle" className="fill-ink-2">
                  {words}
                </text>
              ))}
            </svg>
          </div>
        </>
      )}
    </section>
  );
}

const columns =
  'grid grid-cols-[minmax(0,9rem)_minmax(0,1fr)] gap-x-6 sm:grid-cols-[minmax(0,11rem)_minmax(0,1fr)_11rem]';

function Row({
  to,
  name,
  flag,
  said,
  ticks,
  children,
}: {
  to: string;
  name: string;
  flag: string | null;
  /** What is drawn, in words. */
  said: (string | null)[];
  ticks: number[];
  children: ReactNode;
}) {
  const words = said.filter(each => each !== null).join('; ');
  return (
    <li title={words}>
      <Link to={to} className={`${columns} items-center hover:bg-raised`}>
        <span className={`truncate ${flag ? 'font-semibold' : 'text-ink-2'}`}>
          {name}
          <span className="sr-only">: {words}</span>
        </span>
        <svg aria-hidden width="100%" height="22" className="overflow-visible">
          {ticks.map(at => (
            <line key={at} x1={`${at}%`} x2={`${at}%`} y1="0" y2="22" stroke="var(--rule)" strokeDasharray="1 3" />
          ))}
          {children}
        </svg>
        <span className="text-right font-semibold text-ochre max-sm:col-span-2">{flag}</span>
      </Link>
    </li>
  );
}

type Scale = ScaleLinear<number, number> | ScaleLogarithmic<number, number>;

const Band = ({ x, from, to }: { x: Scale; from: number; to: number }) => (
  <rect
    x={`${x(from)}%`}
    width={`${Math.max(0.8, x(to) - x(from))}%`}
    y="5"
    height="12"
    className="fill-rule stroke-rule-strong"
  />
);

const Tick = ({ at, isWide = false }: { at: number; isWide?: boolean }) => (
  <line x1={`${at}%`} x2={`${at}%`} y1="4" y2="18" className="stroke-ink" strokeWidth={isWide ? 3 : 2} />
);

const Usual = () => (
  <Key word="usual" width={26}>
    <rect x="0.5" y="0.5" width="25" height="11" className="fill-rule stroke-rule-strong" />
  </Key>
);

const Key = ({ word, width = 12, children }: { word: string; width?: number; children: ReactNode }) => (
  <span className="text-ink-2">
    <svg aria-hidden width={width} height="12" className="mr-1.5 inline-block align-[-1px]">
      {children}
    </svg>
    {word}
  </span>
);
