import { match } from '../match';
import { newLine, type Call, type Find, type Line, type RouteDefinition } from '../route';
import { plainText } from '../submission';
import { isReading, isWriting, writable, type Operation } from '../target';
import { settled, type Chosen, type Move, type Rehomed } from './move';

/** Two targets with what they offer: the one that a route goes to, and the one that it is to go to. */
export interface Exchange {
  from: { id: string; operations: readonly Operation[] };
  to: { id: string; operations: readonly Operation[] };
}

/**
 * A route as it goes to another target: each call does the likeliest of what that offers, and each line goes into the likeliest of its
 * fields. A line without one is kept as it is, and is a loose end; so is a call whose operation has no like.
 * @param chosen operations by the identifiers of calls
 */
export function ontoTarget(definition: RouteDefinition, exchange: Exchange, chosen: Chosen = new Map()): Rehomed {
  const moves: Move[] = [];
  const calls = definition.calls.map(call =>
    call.targetId === exchange.from.id ? moved(call, exchange, chosen, moves) : call,
  );
  return { definition: { ...definition, calls }, moves };
}

function moved(call: Call, { from, to }: Exchange, chosen: Chosen, moves: Move[]): Call {
  const was = from.operations.find(each => each.id === call.operationId);
  const id = settled(chosen, call.id, was ? (likeliest(was, to.operations, call.lines)?.id ?? null) : null);
  const now = to.operations.find(each => each.id === id) ?? null;
  moves.push({
    what: 'operation',
    callId: call.id,
    was: call.operationId,
    label: was?.label ?? call.operationId,
    now: now?.id ?? null,
  });
  const alike = (operationId: string): string => {
    const other = from.operations.find(each => each.id === operationId);
    return (other && likeliest(other, to.operations, [])?.id) ?? operationId;
  };
  const { find, readBack } = call;
  return {
    ...call,
    targetId: to.id,
    operationId: now?.id ?? call.operationId,
    lines: now ? movedLines(call, was, now, moves) : call.lines,
    ...(find && { find: movedFind(find, alike, { from, to }) }),
    ...(readBack && { readBack: { ...readBack, operationId: alike(readBack.operationId) } }),
  };
}

function movedFind(find: Find, alike: (operationId: string) => string, { from, to }: Exchange): Find {
  const [was, operationId] = [from.operations.find(each => each.id === find.operationId), alike(find.operationId)];
  const now = to.operations.find(each => each.id === operationId);
  const homes = homesOf([find.line, ...(find.lines ?? [])], was, now);
  const goes = (line: Line): Line => ({ ...line, to: homes.get(line.to) ?? line.to });
  return {
    ...find,
    operationId,
    line: goes(find.line),
    ...(find.lines && { lines: find.lines.map(goes) }),
    update: find.update && { ...find.update, operationId: alike(find.update.operationId) },
  };
}

/** The lines of a call by what another operation takes; what it takes beside them gets a line to be filled. */
function movedLines(call: Call, was: Operation | undefined, now: Operation, moves: Move[]): Line[] {
  const filled = call.lines.filter(each => each.source !== null);
  const homes = homesOf(filled, was, now);
  const lines = filled.map((line): Line => {
    const home = homes.get(line.to) ?? null;
    const label = was?.fields.find(each => each.key === line.to)?.label ?? line.to;
    moves.push({ what: 'field', callId: call.id, was: line.to, label, now: home });
    return home === null ? line : { ...line, to: home };
  });
  const taken = new Set(lines.map(each => each.to));
  const ids = new Set(call.lines.map(each => each.id));
  const fresh = writable(now).filter(each => !taken.has(each.key));
  return [...lines, ...fresh.map(({ key }) => newLine(freeId(`${call.id}-${key}`, ids), key))];
}

const freeId = (wanted: string, ids: ReadonlySet<string>): string => {
  let id = wanted;
  while (ids.has(id)) id += '+';
  return id;
};

/** Where each line goes, by the key that it went to: the field of that key, or the one that means the same. */
function homesOf(lines: readonly Line[], was: Operation | undefined, now: Operation | undefined): Map<string, string> {
  const homes = new Map<string, string>();
  if (!now) return homes;
  const offered = writable(now);
  const keys = [...new Set(lines.map(each => each.to))];
  for (const key of keys) if (offered.some(each => each.key === key)) homes.set(key, key);
  const free = offered.filter(each => !homes.has(each.key));
  const open = keys.filter(key => !homes.has(key));
  const named = open.map(key => was?.fields.find(each => each.key === key));
  const proposals = match(
    free.map(({ key, label, options }) => ({ key, label, ...(options && { samples: options }) })),
    open.map((key, at) => {
      const field = named[at];
      return { key, ...(field && { label: field.label, ...(field.options && { options: field.options }) }) };
    }),
  );
  for (const { to, from, part } of proposals) if (from !== null && part === undefined) homes.set(to, from);
  return homes;
}

/** What of another target does most likely what an operation does; null where nothing is of its sort. */
export function likeliest(was: Operation, offered: readonly Operation[], lines: readonly Line[]): Operation | null {
  const sort = isWriting(was)
    ? isWriting
    : isReading(was)
      ? isReading
      : ({ method }: Operation) => method === was.method;
  const used = lines.filter(each => each.source !== null);
  const scored = offered.filter(sort).map(now => {
    const homes = homesOf(used, was, now);
    const needed = writable(now).filter(each => each.required && ![...homes.values()].includes(each.key)).length;
    const held = used.length === 0 ? 0 : homes.size / new Set(used.map(each => each.to)).size;
    return { now, score: 2 * held + wordsAlike(was, now) + (was.method === now.method ? 0.3 : 0) - 0.1 * needed };
  });
  const [best] = scored.sort((a, b) => b.score - a.score);
  return best?.now ?? null;
}

/** Share of the words of two operations that both have. */
function wordsAlike(one: Operation, other: Operation): number {
  const [a, b] = [one, other].map(
    ({ label, path }) =>
      new Set(
        plainText(`${label} ${path}`)
          .split(/[^\p{L}\p{N}]+/u)
          .filter(each => each.length > 2),
      ),
  );
  const both = [...a!].filter(each => b!.has(each)).length;
  return (2 * both) / Math.max(1, a!.size + b!.size);
}
