import type { LineProposal } from '@grammata/core/match';
import { fieldsOf } from '@grammata/core/route';
import { writable } from '@grammata/core/target';
import { scalePoint } from 'd3-scale';
import { link, curveBumpX } from 'd3-shape';
import { useState } from 'react';
import { takesProposals } from '../useLines';
import { useWorkbench } from '../../workbench';
import { useFares } from '../line/useSteady';

const WIDTH = 760;
const ROW = 26;
const [LEFT, RIGHT] = [290, 520];

interface Thread {
  from: string;
  to: string;
  lineId: string;
  isProposed: boolean;
}

/** The threads from a form's questions to a target's fields, with what is left over on both sides. */
export function Threads({
  proposals,
  onOpen,
}: {
  proposals: Map<string, LineProposal>;
  onOpen: (lineId: string) => void;
}) {
  const { references, operation, call, labelOf } = useWorkbench('call', 'offers');
  const fares = useFares();
  const [hot, setHot] = useState<string | null>(null);
  const { lines } = call;
  const threads = lines.flatMap((line): Thread[] => {
    const { id, to, source } = line;
    const proposal = takesProposals(line) ? proposals.get(to) : undefined;
    const keys = fieldsOf(source ?? proposal?.source ?? null);
    return keys.map(from => ({ from, to, lineId: id, isProposed: source === null }));
  });
  const drawn = new Set(threads.flatMap(each => [`question ${each.from}`, `field ${each.to}`]));
  // What is only proposed is neither used nor filled yet.
  const settled = new Set(
    threads.filter(each => !each.isProposed).flatMap(each => [`question ${each.from}`, `field ${each.to}`]),
  );
  const restOf = lines.find(line => line.source?.from === 'rest')?.to;
  const filledOtherwise = new Set(
    lines.filter(line => line.source !== null && fieldsOf(line.source).length === 0).map(line => line.to),
  );
  const questions = references.filter(each => each.isQuestion || drawn.has(`question ${each.key}`));
  const fields = operation ? writable(operation) : [];
  const height = Math.max(questions.length, fields.length, 1) * ROW;
  const place = (keys: string[]) =>
    scalePoint<string>()
      .domain(keys)
      .range([ROW / 2, Math.max(ROW / 2, keys.length * ROW - ROW / 2)]);
  const [questionY, fieldY] = [place(questions.map(each => each.key)), place(fields.map(each => each.key))];
  const path = link<Thread, [number, number]>(curveBumpX)
    .source(each => [LEFT, questionY(each.from) ?? 0])
    .target(each => [RIGHT, fieldY(each.to) ?? 0]);
  const isTroubled = (to: string) => lines.some(line => line.to === to && (fares.get(line.id)?.trouble ?? 0) > 0);
  const isLit = (thread: Thread) => hot !== null && (hot === `question ${thread.from}` || hot === `field ${thread.to}`);
  const unused = restOf === undefined ? questions.filter(each => !settled.has(`question ${each.key}`)).length : 0;
  const unfilled = fields.filter(each => !settled.has(`field ${each.key}`) && !filledOtherwise.has(each.key)).length;
  const light = (name: string | null) => ({
    onMouseEnter: () => setHot(name),
    onMouseLeave: () => setHot(null),
    onFocus: () => setHot(name),
    onBlur: () => setHot(null),
  });
  return (
    <section aria-label="Threads" className="min-w-0 overflow-auto px-6 pt-3 pb-8">
      <p className="pb-2 font-serif text-ink-2">
        {unused === 0 ? 'All questions used' : `${unused} ${unused === 1 ? 'question is' : 'questions are'} not used`};{' '}
        {unfilled === 0 ? 'all fields filled' : `${unfilled} ${unfilled === 1 ? 'field is' : 'fields are'} not filled`}.
        Dashed: suggestions.
      </p>
      <div className="relative" style={{ width: WIDTH, height }}>
        <svg width={WIDTH} height={height} className="absolute inset-0" aria-hidden>
          {threads
            .filter(each => questionY(each.from) !== undefined && fieldY(each.to) !== undefined)
            .map(each => (
              <path
                key={`${each.from} ${each.lineId}`}
                d={path(each) ?? ''}
                fill="none"
                stroke={isTroubled(each.to) ? 'var(--crimson)' : 'var(--lapis)'}
                strokeWidth={isLit(each) ? 2.5 : 1.25}
                strokeDasharray={each.isProposed ? '3 4' : undefined}
                opacity={hot !== null && !isLit(each) ? 0.2 : 1}
              />
            ))}
        </svg>
        <ul aria-label="Questions">
          {questions.map(({ key, label }) => {
            const to = threads.filter(each => each.from === key).map(each => each.to);
            return (
              <li
                key={key}
                {...light(`question ${key}`)}
                className={`absolute left-0 flex items-center justify-end gap-2 ${to.length > 0 ? 'text-lapis' : 'text-ink-3'}`}
                style={{ top: (questionY(key) ?? 0) - ROW / 2, width: LEFT - 4, height: ROW }}
              >
                <span className="truncate" title={label}>
                  {label}
                </span>
                <span aria-hidden className="font-mono text-fine">
                  {to.length > 0 ? '●' : '○'}
                </span>
                <span className="sr-only">
                  {to.length > 0
                    ? `goes to ${to.join(', ')}`
                    : restOf === undefined
                      ? 'is not used'
                      : `goes to ${restOf} with all unused answers`}
                </span>
              </li>
            );
          })}
        </ul>
        <ul aria-label="Fields">
          {fields.map(({ key, required }) => {
            const line = lines.find(each => each.to === key);
            const from = threads.filter(each => each.to === key).map(each => labelOf(each.from));
            const isFilled = from.length > 0 || filledOtherwise.has(key);
            return (
              <li
                key={key}
                className="absolute flex items-center gap-2"
                style={{ left: RIGHT + 4, top: (fieldY(key) ?? 0) - ROW / 2, width: WIDTH - RIGHT - 4, height: ROW }}
                {...light(`field ${key}`)}
              >
                <span
                  aria-hidden
                  className={`font-mono text-fine ${isFilled ? 'text-lapis' : required ? 'text-crimson' : 'text-ink-3'}`}
                >
                  {isFilled ? '●' : '○'}
                </span>
                <button
                  type="button"
                  disabled={!line}
                  onClick={() => line && onOpen(line.id)}
                  className={`truncate font-mono text-small font-medium enabled:hover:underline ${isFilled ? '' : 'text-ink-3'} ${isTroubled(key) ? 'text-crimson' : ''}`}
                >
                  {key}
                  {required && <span className="text-oxide">*</span>}
                  <span className="sr-only">
                    {from.length > 0
                      ? `, from ${from.join(', ')}`
                      : isFilled
                        ? ', filled without an answer'
                        : ', not filled'}
                    {isTroubled(key) ? ', with problems' : ''}
                  </span>
                </button>
                {filledOtherwise.has(key) && (
                  <span className="text-small text-ink-3">
                    {key === restOf ? 'all unused answers' : 'same in every record'}
                  </span>
                )}
              </li>
            );
          })}
        </ul>
      </div>
    </section>
  );
}
