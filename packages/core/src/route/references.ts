import { viaAddress, viaIn } from '../submission';
import { transformOf } from '../transform';

/** Where a step has its content from, where that is no target. */
const noTarget = ['', 'builder'];

/** Parameters of a step that name a target. */
const namesTarget = (step: Record<string, unknown>): string[] =>
  typeof step.id === 'string' && typeof step.params === 'object'
    ? (transformOf(step.id)?.asks ?? []).filter(each => each.kind === 'system').map(each => each.name)
    : [];

/**
 * A part of a route, or of what was approved of it, with every reference to a target renamed, wherever it stands: where calls go to, and
 * where steps have files from. The one place that knows them.
 */
export function withTargets<Part>(part: Part, rename: (targetId: string) => string): Part {
  return walked(part, rename) as Part;
}

function walked(value: unknown, rename: (targetId: string) => string): unknown {
  if (typeof value === 'string') {
    const via = value.startsWith('via:') ? viaIn(value) : null;
    return via && !noTarget.includes(via.from) ? viaAddress(rename(via.from), via.path) : value;
  }
  if (Array.isArray(value)) return value.map(each => walked(each, rename));
  if (typeof value !== 'object' || value === null) return value;
  const of = value as Record<string, unknown>;
  const own = namesTarget(of);
  return Object.fromEntries(
    Object.entries(of).map(([name, each]) => {
      if (name === 'targetId' && typeof each === 'string') return [name, rename(each)];
      if (name !== 'params' || own.length === 0) return [name, walked(each, rename)];
      const params = Object.entries(each as Record<string, unknown>).map(([param, given]) =>
        own.includes(param) && typeof given === 'string' && !noTarget.includes(given)
          ? [param, rename(given)]
          : [param, given],
      );
      return [name, Object.fromEntries(params) as unknown];
    }),
  );
}
