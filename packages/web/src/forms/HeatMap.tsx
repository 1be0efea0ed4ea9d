import type { FieldSchema, Week } from '@grammata/core/schema';
import { scaleBand, scaleLinear } from 'd3-scale';
import { useState } from 'react';
import { Act, count, counted, useWidth, utcDay } from '../ui';

const ROW = 20;
const HEAD = 22;
/** Wide enough before it is known how wide it is; and the least that a week needs. */
const [FIRST, LEAST] = [960, 14];
const MOST_WEEKS = 26;
/** Questions that are drawn at once: a form may have a thousand. */
const AT_ONCE = 100;

const shortened = (text: string, most: number) => (text.length > most ? `${text.slice(0, most - 1)}…` : text);

/** How often each question was answered, week by week: a question that changed, came or went shows as a break. */
export function HeatMap({
  fields: asked,
  weeks: all,
  marks = [],
}: {
  fields: FieldSchema[];
  weeks: Week[];
  /** Changes of questions, in words, by their keys and when they were seen (ISO 8601). */
  marks?: { key: string; at: string; words: string }[];
}) {
  const weeks = all.slice(-MOST_WEEKS);
  const [most, setMost] = useState(AT_ONCE);
  const fields = asked.slice(0, most);
  const [box, room] = useWidth<HTMLDivElement>(FIRST);
  const labels = room < 640 ? 130 : 250;
  // Weeks that have no room are scrolled to: the labels keep their size.
  const width = Math.max(room, labels + weeks.length * LEAST);
  const height = HEAD + fields.length * ROW;
  const x = scaleBand(
    weeks.map(week => week.monday),
    [labels, width],
  ).paddingInner(0.06);
  const y = scaleBand(
    fields.map(field => field.key),
    [HEAD, height],
  ).paddingInner(0.14);
  const ink = scaleLinear([0, 1], [0.07, 1]).clamp(true);
  const every = Math.ceil(weeks.length / Math.max(1, Math.floor((width - labels) / 70)));
  return (
    <div ref={box} className="mt-3 overflow-x-auto" tabIndex={width > room ? 0 : undefined}>
      <svg
        width={width}
        height={height}
        role="img"
        aria-label={`How often each of ${counted(fields.length, 'question')} was answered in ${counted(weeks.length, 'week')}.`}
        className="block"
      >
        {weeks.map((week, index) => (
          <text
            key={week.monday}
            x={x(week.monday)}
            y={HEAD - 9}
            className="fill-ink-3 text-[13px]"
            visibility={index % every === 0 ? 'visible' : 'hidden'}
          >
            {utcDay(week.monday)}
          </text>
        ))}
        {fields.map(field => (
          <g key={field.key} transform={`translate(0,${y(field.key)})`}>
            <text x={labels - 12} y={y.bandwidth() / 2} dy="0.35em" textAnchor="end" className="fill-ink-2 text-[13px]">
              {shortened(field.label, room < 640 ? 20 : 40)}
            </text>
            {weeks.map(week => {
              const filled = week.filled[field.key];
              const share = filled === undefined || week.submissions === 0 ? null : filled / week.submissions;
              const cellWords =
                share === null
                  ? week.submissions === 0
                    ? 'no submissions'
                    : 'not asked'
                  : `${filled} of ${week.submissions} answered`;
              return (
                <rect
                  key={week.monday}
                  x={x(week.monday)}
                  width={x.bandwidth()}
                  height={y.bandwidth()}
                  className={share === null ? 'fill-none stroke-rule' : 'fill-verdigris'}
                  strokeDasharray={share === null ? '2 2' : undefined}
                  fillOpacity={share === null ? undefined : ink(share)}
                >
                  <title>{`${field.label}, week of ${utcDay(week.monday)}: ${cellWords}`}</title>
                </rect>
              );
            })}
            {marks
              .filter(each => each.key === field.key)
              .flatMap(({ at, words }) => {
                const week = weeks.findLast(each => each.monday <= at.slice(0, 10));
                return week ? [{ at, words, x: x(week.monday)! + x.bandwidth() / 2 }] : [];
              })
              .map(mark => (
                <g key={`${mark.at} ${mark.words}`} transform={`translate(${mark.x},${y.bandwidth() / 2})`}>
                  <title>{mark.words}</title>
                  <path d="M0,-6 L6,5 L-6,5 Z" className="fill-raised stroke-ochre" strokeWidth={1.5} />
                </g>
              ))}
          </g>
        ))}
      </svg>
      {asked.length > most && (
        <p className="pt-2 text-ink-2">
          {count(most)} of {counted(asked.length, 'question')}.{' '}
          <Act onClick={() => setMost(most + AT_ONCE)}>Show more</Act>
        </p>
      )}
    </div>
  );
}
