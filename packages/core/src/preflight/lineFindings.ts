import { callName, type Call, type Line } from '../route';
import type { Operation } from '../target';
import { operationOf, type Finding, type Seen } from './check';

/** A call with its operation, and a line of it that is filled. */
export interface LineAt {
  call: Call;
  operation: Operation;
  line: Line;
  /** The field of the call, as people call both where there are several calls. */
  where: string;
}

/** Every line that is filled, of calls whose operation is offered. */
export function filledLines(seen: Seen): LineAt[] {
  const { calls } = seen.definition;
  return calls.flatMap(call => {
    const operation = operationOf(seen, call, call.operationId);
    if (!operation) return [];
    const of = calls.length > 1 ? ` of “${callName(call, operation)}”` : '';
    return call.lines
      .filter(line => line.source !== null)
      .map(line => ({ call, operation, line, where: `${line.to}${of}` }));
  });
}

/** A finding about lines, leading to the first of them. */
export const aboutLines = (
  tone: Finding['tone'],
  lines: readonly Pick<LineAt, 'call' | 'line' | 'where'>[],
  words: (names: string) => string,
  remedy?: string,
): Finding[] => {
  const [first] = lines;
  if (!first) return [];
  const names = lines.map(each => each.where);
  const listed = names.length > 4 ? `${names.slice(0, 4).join(', ')} and ${names.length - 4} more` : names.join(', ');
  return [
    {
      tone,
      words: words(listed),
      stops: tone === 'trouble',
      at: { callId: first.call.id, lineId: first.line.id },
      ...(remedy !== undefined && { remedy }),
    },
  ];
};
