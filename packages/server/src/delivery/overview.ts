import { OVERVIEWED, type FoundOverview, type RunView } from '@grammata/contract';
import { compileCondition } from '@grammata/core/condition';
import type { RouteDefinition } from '@grammata/core/route';
import { scopeOf } from '@grammata/core/scope';
import { isBlank, type Submission } from '@grammata/core/submission';
import PQueue from 'p-queue';
import { runDraft, type TrialParts } from './trying';

/** Look-ups that go at once, and examples that are shown of a line. */
const AT_ONCE = 4;
const EXAMPLES = 3;

/**
 * What a draft would do over the newest samples: what it would make, change, and leave as it is, and which lines would write over
 * something. Only look-ups are sent, to the side to try things on.
 */
export async function overviewOf(
  parts: TrialParts,
  draft: RouteDefinition,
  samples: readonly { id: string; data: Submission }[],
): Promise<FoundOverview> {
  const goes = compileCondition(draft.condition);
  const looked = samples.filter(({ data }) => goes(scopeOf(data))).slice(0, OVERVIEWED);
  const queue = new PQueue({ concurrency: AT_ONCE });
  const runs = await Promise.all(
    looked.map(({ id, data }) =>
      queue.add(async () => ({ id, run: await runDraft(parts, draft, { submissionId: id, data }, false) })),
    ),
  );
  return summed(runs.map(each => each!));
}

/** Many dry runs in one view. */
export function summed(runs: readonly { id: string; run: RunView }[]): FoundOverview {
  const lines = new Map<string, FoundOverview['lines'][number]>();
  const problems = new Map<string, number>();
  const count = { created: 0, updated: 0, unchanged: 0, left: 0, failed: 0 };
  for (const { id, run } of runs) {
    for (const { message } of run.problems) problems.set(message, (problems.get(message) ?? 0) + 1);
    for (const { what } of run.done) count[what] += 1;
    for (const { callId, changes } of run.asks)
      for (const { lineId, field, before, after } of changes) {
        const key = `${callId} ${lineId}`;
        const line = lines.get(key) ?? { callId, lineId, field, overwrites: 0, fills: 0, examples: [] };
        if (isBlank(before)) line.fills += 1;
        else line.overwrites += 1;
        if (!isBlank(before) && line.examples.length < EXAMPLES)
          line.examples.push({ sampleId: id, before: before ?? null, after });
        lines.set(key, line);
      }
  }
  return {
    looked: runs.length,
    made: count.created,
    changed: count.updated,
    unchanged: count.unchanged,
    left: count.left,
    problems: [...problems].map(([message, samples]) => ({ message, samples })).sort((a, b) => b.samples - a.samples),
    lines: [...lines.values()].sort((a, b) => b.overwrites - a.overwrites || b.fills - a.fills),
  };
}
