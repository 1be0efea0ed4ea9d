import type { Operation } from './operation';

/** Up to so many operations all are near. */
const FEW = 200;

/**
 * Of what a target offers, what calls use and what stands near that: the operations below the same words of the path first, as far as
 * there is room. Of a target with few operations, all.
 * @param used identifiers of what is used
 */
export function operationsNear(
  operations: readonly Operation[],
  used: readonly string[],
  room = FEW,
): readonly Operation[] {
  if (operations.length <= room) return operations;
  const wanted = new Set(used);
  const paths = operations.filter(each => wanted.has(each.id)).map(each => segmentsOf(each.path));
  const nearness = (operation: Operation): number =>
    wanted.has(operation.id) ? Infinity : Math.max(0, ...paths.map(path => shared(path, segmentsOf(operation.path))));
  return operations
    .map((operation, at) => ({ operation, at, near: nearness(operation) }))
    .sort((a, b) => b.near - a.near || a.at - b.at)
    .slice(0, Math.max(room, wanted.size))
    .map(each => each.operation);
}

const segmentsOf = (path: string): string[] => path.split('/').filter(Boolean);

/** How many words two paths begin with together. */
function shared(a: readonly string[], b: readonly string[]): number {
  const differs = a.findIndex((each, at) => each !== b[at]);
  return differs < 0 ? a.length : differs;
}
