import type { DeskView } from '@grammata/contract';
import { sum } from 'd3-array';
import { scaleBand, scaleLinear } from 'd3-scale';
import { count, counted, useWidth, utcWeekday } from '../ui';
import { topOf } from './scale';

/** Wide enough before it is known how wide it is. */
const FIRST = 940;
const HEIGHT = 150;
const FOOT = 22;
/** Room above the columns for their numbers. */
const HEAD = 22;
const SIDE = 30;

type Day = DeskView['days'][number];
const allOf = (day: Day): number => day.delivered + day.held + day.failed;

/** Deliveries of the last four weeks, one column a day: delivered, held and failed. A day far above the others is cut open, and says its number. */
export function DeliveryChart({ days }: { days: Day[] }) {
  const [figure, width] = useWidth<HTMLElement>(FIRST);
  const x = scaleBand(
    days.map(each => each.day),
    [SIDE, width],
  ).paddingInner(0.35);
  const top = topOf(days.map(allOf));
  const y = scaleLinear([0, top], [HEIGHT - FOOT, HEAD])
    .nice(4)
    .clamp(true);
  const delivered = sum(days, each => each.delivered);
  const stopped = sum(days, each => each.held + each.failed);
  const column = x.bandwidth();
  return (
    <figure ref={figure} className="mt-7 min-w-0">
      <figcaption className="flex flex-wrap items-baseline gap-x-4 border-b border-ink pb-1.5">
        <span className="font-serif text-lead font-semibold">Four weeks of deliveries</span>
        <span className="flex-1 font-serif text-ink-2 max-sm:basis-full">
          {count(delivered)} delivered{stopped > 0 && `, ${count(stopped)} stopped`}
        </span>
        <Key look="bg-verdigris" word="delivered" />
        <Key
          look="bg-[image:repeating-linear-gradient(135deg,var(--crimson)_0_2px,transparent_2px_4px)] ring-1 ring-crimson ring-inset"
          word="held"
        />
        <Key look="bg-crimson" word="failed" />
      </figcaption>
      <svg
        width={width}
        height={HEIGHT}
        role="img"
        aria-label={`${counted(delivered, 'delivery', 'deliveries')} delivered in four weeks, ${count(stopped)} held or failed.`}
        className="mt-2 block max-w-full"
      >
        <defs>
          <pattern id="held" width="4" height="4" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <rect width="2" height="4" className="fill-crimson" />
          </pattern>
        </defs>
        {y.ticks(3).map(tick => (
          <g key={tick} transform={`translate(0,${y(tick)})`}>
            <line x1={SIDE} x2={width} stroke="var(--rule)" strokeDasharray={tick === 0 ? undefined : '1 3'} />
            <text x={SIDE - 8} dy="0.32em" textAnchor="end" className="fill-ink-3 font-mono text-[13px]">
              {tick}
            </text>
          </g>
        ))}
        {days.map((each, index) => {
          const all = allOf(each);
          const isCut = all > y.domain()[1]!;
          const stoppedAll = each.held + each.failed;
          const isLast = index === days.length - 1;
          // What stopped keeps its height in a column that is cut: only what was delivered is left out.
          const shown = isCut ? Math.max(0, y.domain()[1]! - stoppedAll) : each.delivered;
          return (
            <g key={each.day} transform={`translate(${x(each.day)},0)`}>
              <title>{`${utcWeekday(each.day)}: ${each.delivered} delivered, ${each.held} held, ${each.failed} failed`}</title>
              <rect y={y(shown)} width={column} height={y(0) - y(shown)} className="fill-verdigris" />
              <rect
                y={y(shown + each.held)}
                width={column}
                height={y(shown) - y(shown + each.held)}
                fill="url(#held)"
                className="stroke-crimson"
              />
              <rect
                y={y(shown + stoppedAll)}
                width={column}
                height={y(shown + each.held) - y(shown + stoppedAll)}
                className="fill-crimson"
              />
              {isCut && (
                <path
                  d={`M-2,${HEIGHT / 2 - 2} L${column + 2},${HEIGHT / 2 - 9} v5 L-2,${HEIGHT / 2 + 3} Z`}
                  className="fill-paper"
                />
              )}
              {(isCut || stoppedAll > 0) && (
                <text
                  x={isLast ? column : column / 2}
                  y={(isCut ? HEAD : y(all)) - 5}
                  textAnchor={isLast ? 'end' : 'middle'}
                  className={`font-mono text-[13px] ${isCut ? 'fill-ink font-semibold' : 'fill-crimson'}`}
                >
                  {isCut ? count(all) : stoppedAll}
                </text>
              )}
              {((index % 7 === 0 && (width > 560 || index % 14 === 0)) || isLast) && (
                <text
                  x={isLast ? column : 0}
                  y={HEIGHT - 5}
                  textAnchor={isLast ? 'end' : 'start'}
                  className="fill-ink-2 text-[13px]"
                >
                  {isLast ? 'today' : utcWeekday(each.day)}
                </text>
              )}
            </g>
          );
        })}
      </svg>
    </figure>
  );
}

const Key = ({ look, word }: { look: string; word: string }) => (
  <span className="text-ink-2">
    <span aria-hidden className={`mr-1.5 inline-block size-3 align-[-1px] ${look}`} />
    {word}
  </span>
);
