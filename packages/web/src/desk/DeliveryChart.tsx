import type { DeskView } from '@grammata/contract';
import { max, sum } from 'd3-array';
import { scaleBand, scaleLinear } from 'd3-scale';
import { count, counted, useWidth } from '../ui';

/** Wide enough before it is known how wide it is. */
const FIRST = 940;
const HEIGHT = 132;
const FOOT = 20;
const SIDE = 28;

const dayName = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', timeZone: 'UTC' });

/** Deliveries of the last four weeks, one column a day: delivered below, in trouble on top. */
export function DeliveryChart({ days }: { days: DeskView['days'] }) {
  const [figure, width] = useWidth<HTMLElement>(FIRST);
  const x = scaleBand(
    days.map(each => each.day),
    [SIDE, width],
  ).paddingInner(0.35);
  const most = Math.max(4, max(days, each => each.delivered + each.troubled) ?? 0);
  const y = scaleLinear([0, most], [HEIGHT - FOOT, 8]).nice(4);
  const delivered = sum(days, each => each.delivered);
  const troubled = sum(days, each => each.troubled);
  return (
    <figure ref={figure} className="mt-6 min-w-0">
      <figcaption className="flex flex-wrap items-baseline justify-between gap-x-4 border-b border-ink pb-1.5">
        <span className="font-serif text-lead font-semibold">Four weeks of deliveries</span>
        <span className="text-ink-2">
          <span aria-hidden className="mr-1.5 inline-block size-2 bg-verdigris" />
          {count(delivered)} delivered <span aria-hidden className="mr-1.5 ml-4 inline-block size-2 bg-crimson" />
          {count(troubled)} held or dead
        </span>
      </figcaption>
      <svg
        width={width}
        height={HEIGHT}
        role="img"
        aria-label={`${counted(delivered, 'delivery', 'deliveries')} went through in four weeks, ${count(troubled)} are held or dead letters.`}
        className="mt-3 block max-w-full"
      >
        {y.ticks(3).map(tick => (
          <g key={tick} transform={`translate(0,${y(tick)})`}>
            <line x1={SIDE} x2={width} stroke="var(--rule)" strokeDasharray={tick === 0 ? undefined : '1 3'} />
            <text x={SIDE - 8} dy="0.32em" textAnchor="end" className="fill-ink-3 font-mono text-[11px]">
              {tick}
            </text>
          </g>
        ))}
        {days.map((each, index) => (
          <g key={each.day} transform={`translate(${x(each.day)},0)`}>
            <title>{`${dayName.format(new Date(each.day))}: ${each.delivered} delivered, ${each.troubled} held or dead`}</title>
            <rect
              y={y(each.delivered)}
              width={x.bandwidth()}
              height={y(0) - y(each.delivered)}
              className="fill-verdigris"
            />
            <rect
              y={y(each.delivered + each.troubled) - (each.troubled ? 1 : 0)}
              width={x.bandwidth()}
              height={y(each.delivered) - y(each.delivered + each.troubled)}
              className="fill-crimson"
            />
            {((index % 7 === 0 && (width > 560 || index % 14 === 0)) || index === days.length - 1) && (
              <text
                x={index === days.length - 1 ? x.bandwidth() : x.bandwidth() / 2}
                y={HEIGHT - 5}
                textAnchor={index === days.length - 1 ? 'end' : 'middle'}
                className="fill-ink-3 text-[11px]"
              >
                {index === days.length - 1 ? 'today' : dayName.format(new Date(each.day))}
              </text>
            )}
          </g>
        ))}
      </svg>
    </figure>
  );
}
