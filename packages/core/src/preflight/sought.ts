import { compileCondition } from '../condition';
import { compileLine } from '../request';
import { callName, type RouteDefinition } from '../route';
import { scopeOf } from '../scope';
import { canonical, isBlank, asText, type Json, type Submission } from '../submission';
import type { Seen, SeenTarget } from './check';

/** What the look-ups of a route look for over samples, and how many look for what another looks for too. */
export function soughtIn(
  { calls, condition, terms }: RouteDefinition,
  targets: readonly SeenTarget[],
  samples: readonly Submission[],
): NonNullable<Seen['sought']> {
  const goes = compileCondition(condition);
  const scopes = samples.map(each => scopeOf(each)).filter(goes);
  return calls.flatMap(call => {
    const { find } = call;
    // What a call repeats for is many things of one submission.
    if (!find || call.repeat) return [];
    // What is only looked up changes nothing, however often.
    if (!find.update && find.whenNone !== 'create') return [];
    const operations = targets.find(each => each.id === call.targetId)?.operations ?? [];
    const finder = operations.find(each => each.id === find.operationId);
    const lines = [find.line, ...(find.lines ?? [])].map(line =>
      compileLine(line, finder?.fields.find(each => each.key === line.to) ?? null),
    );
    // What earlier calls will have answered is not known before.
    if (lines.some(each => each.waits)) return [];
    const times = new Map<string, { count: number; shown: string }>();
    for (const scope of scopes) {
      const values = lines.map(each => each.outcome(scope, { timeZone: terms.timeZone }).value ?? null);
      if (values.every(value => isBlank(value))) continue;
      const key = canonical(values as Json);
      const known = times.get(key) ?? { count: 0, shown: values.map(asText).filter(Boolean).join(', ') };
      times.set(key, { ...known, count: known.count + 1 });
    }
    const again = [...times.values()].filter(each => each.count > 1).sort((a, b) => b.count - a.count);
    const main = operations.find(each => each.id === call.operationId);
    return [
      {
        where: `“${callName(call, main ?? null)}”`,
        samples: [...times.values()].reduce((sum, each) => sum + each.count, 0),
        same: again.reduce((sum, each) => sum + each.count, 0),
        example: again[0]?.shown ?? '',
        isOverwritten: find.update !== null,
      },
    ];
  });
}
