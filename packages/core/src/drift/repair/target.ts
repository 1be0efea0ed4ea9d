import { isLikely, propose } from '../../match';
import { newLine, operationsUsed, type Call, type Line, type RouteDefinition } from '../../route';
import { compileLine } from '../../request';
import { scopeOf } from '../../scope';
import { asText, isBlank } from '../../submission';
import type { Operation, TargetField } from '../../target';
import { fieldPlace, operationName, type DocumentChange } from '../documents';
import {
  cleaned,
  filledWhenBlank,
  has,
  onlyWay,
  quoted,
  translating,
  valueWays,
  type Repair,
  type RepairParts,
  type RepairWay,
} from './ways';

/** Proposes what a route would do about a change of one of its targets; `field` and `operation` as the change tells them. */
export function repairsForTarget(
  change: DocumentChange,
  targetId: string,
  definition: RouteDefinition,
  parts: RepairParts & { before: readonly Operation[]; after: readonly Operation[] },
): RepairWay[] {
  const before = parts.before.find(each => operationName(each) === change.operation);
  if (before && change.change === 'operation-moved') {
    const after = parts.after.find(each => operationName(each) === asText(change.now ?? null));
    return after ? onlyWay(movedCalls(definition, targetId, before, after)) : [];
  }
  if (!before || change.field === undefined) return [];
  const made = (edit: (call: Call, words: string[]) => Call): Repair | null => {
    const words: string[] = [];
    const calls = definition.calls.map(call => (call.targetId === targetId ? edit(call, words) : call));
    // One line that serves two operations is told once.
    return words.length === 0 ? null : { definition: { ...definition, calls }, words: [...new Set(words)] };
  };
  if (change.change === 'field-renamed')
    return onlyWay(made((call, words) => renamedField(change, call, before, parts, words)));
  const written = definition.calls.filter(call => call.targetId === targetId && writesWith(call, before.id));
  if (change.change === 'field-added' || change.change === 'required')
    // One call after the other: each takes a value of its own.
    return (
      written.map(call => requiredWays(change.field!, call, definition, parts)).find(each => each.length > 0) ?? []
    );
  return onlyWay(
    made((call, words) =>
      written.includes(call) ? { ...call, lines: mended(change, call, before, definition, parts, words) } : call,
    ),
  );
}

/** Whether the lines of a call write with an operation: to make a record, or to update the one that it found. */
const writesWith = ({ operationId, find }: Call, id: string): boolean =>
  operationId === id || find?.update?.operationId === id;

/** What the lines of a call write with, as it is offered now. */
const operationsOf = ({ targetId, operationId, find }: Call, { operationOf }: RepairParts): Operation[] =>
  [operationId, find?.update?.operationId ?? operationId].flatMap(
    id => operationOf({ targetId, operationId: id }) ?? [],
  );

const fieldNamed = (call: Call, parts: RepairParts, key: string | undefined): TargetField | undefined =>
  operationsOf(call, parts)
    .flatMap(each => each.fields)
    .find(each => each.key === key);

/** Calls that use an operation use the other in its place: to write, to find, to update, to read back. */
function movedCalls(
  definition: RouteDefinition,
  targetId: string,
  before: Pick<Operation, 'id' | 'method' | 'path'>,
  after: Pick<Operation, 'id' | 'method' | 'path'>,
): Repair | null {
  if (after.id === before.id || !operationsUsed(definition, targetId).includes(before.id)) return null;
  const moved = <T extends { operationId: string }>(part: T): T =>
    part.operationId === before.id ? { ...part, operationId: after.id } : part;
  const calls = definition.calls.map(call =>
    call.targetId === targetId
      ? {
          ...moved(call),
          ...(call.find && { find: { ...moved(call.find), update: call.find.update && moved(call.find.update) } }),
          ...(call.readBack && { readBack: moved(call.readBack) }),
        }
      : call,
  );
  const words = [`Use ${operationName(after)} instead of ${operationName(before)}.`];
  return { definition: { ...definition, calls }, words };
}

const keyAt = (of: Operation | null, place: string): string | undefined =>
  of?.fields.find(each => fieldPlace(each) === place)?.key;

/** A call whose lines, look-up, update and reading back fill a field under its other name; as it was, where not all that it fills have that. */
function renamedField(
  { field, now: is }: DocumentChange,
  call: Call,
  before: Operation,
  parts: RepairParts,
  words: string[],
): Call {
  const place = asText(is ?? null);
  const renamedIn = (operationId: string | undefined) =>
    operationId === before.id ? parts.operationOf({ targetId: call.targetId, operationId }) : null;
  const renamed = <T extends { to: string }>(part: T, operationId: string | undefined): T => {
    const [key, to] = [keyAt(before, field!), keyAt(renamedIn(operationId), place)];
    if (to === undefined || part.to !== key || to === key) return part;
    words.push(`The line for ${quoted(key)} fills ${quoted(to)}.`);
    return { ...part, to };
  };
  const { find, readBack } = call;
  const [writing] = operationsOf(call, parts).filter(each => each.id === before.id);
  const [key, to] = [keyAt(before, field!), keyAt(writing ?? null, place)];
  // A line that fills both when a record is made and when it is updated moves once both have the field under that name.
  const isKept = operationsOf(call, parts).some(
    ({ fields }) => fields.some(each => each.key === key) && !fields.some(each => each.key === to),
  );
  return {
    ...call,
    lines:
      writing && !isKept && call.lines.some(each => each.to === key)
        ? call.lines.filter(each => each.to !== to || each.source !== null).map(each => renamed(each, writing.id))
        : call.lines,
    ...(find && {
      find: {
        ...find,
        line: renamed(find.line, find.operationId),
        ...(find.lines && { lines: find.lines.map(each => renamed(each, find.operationId)) }),
        update: find.update && renamed(find.update, find.update.operationId),
      },
    }),
    ...(readBack && { readBack: renamed(readBack, readBack.operationId) }),
  };
}

/** A field that has to be filled: with the likeliest question, or with one value; where a line may leave it blank, with one value then. */
function requiredWays(place: string, call: Call, definition: RouteDefinition, parts: RepairParts): RepairWay[] {
  const operation = operationsOf(call, parts).find(each => keyAt(each, place) !== undefined);
  const field = operation?.fields.find(each => fieldPlace(each) === place);
  if (!operation || !field?.required || field.fixed !== undefined) return [];
  const stands = call.lines.find(each => each.to === field.key);
  if (stands && stands.source !== null)
    return stands.whenBlank === 'fallback' || !isSometimesBlank(stands, field, definition, parts)
      ? []
      : valueWays(field, parts, (fallback, shown) => ({
          definition: filledWhenBlank(definition, [stands], fallback),
          words: [`${field.key}: ${shown} where it would be blank.`],
        }));
  const withLine = (line: Line): RouteDefinition => ({
    ...definition,
    calls: definition.calls.map(each =>
      each === call ? { ...each, lines: [...each.lines.filter(one => one.to !== field.key), line] } : each,
    ),
  });
  const line = stands ?? newLine(`${call.id}-${field.key}`, field.key);
  const proposal = propose(parts.schema, [...parts.samples], operation).find(each => each.to === field.key);
  const question: RepairWay[] =
    proposal && isLikely(proposal)
      ? [
          {
            way: 'question',
            label: 'The likeliest question',
            asks: null,
            repair: {
              definition: withLine({ ...line, source: proposal.source, cleaning: proposal.cleaning }),
              words: [`New line for ${quoted(field.key)}: ${proposal.why}`],
            },
          },
        ]
      : [];
  return [
    ...question,
    ...valueWays(field, parts, (value, shown) => ({
      definition: withLine({ ...line, source: { from: 'constant', value }, cleaning: [] }),
      words: [`${field.key}: always ${shown}.`],
    })),
  ];
}

/** Whether a line gives nothing for some submissions. */
const isSometimesBlank = (
  line: Line,
  field: TargetField,
  { terms }: RouteDefinition,
  { samples }: RepairParts,
): boolean => {
  const compiled = compileLine({ ...line, whenBlank: 'leaveOut' }, { ...field, required: false });
  return samples.some(each => isBlank(compiled.outcome(scopeOf(each), { timeZone: terms.timeZone }).value ?? null));
};

/** The lines of a call after a change of what it writes to; says what was done to them. */
function mended(
  change: DocumentChange,
  call: Call,
  before: Operation,
  definition: RouteDefinition,
  parts: RepairParts,
  words: string[],
): Line[] {
  const field = change.field!;
  const key = keyAt(before, field);
  const on = (to: string | undefined, edit: (line: Line) => Line): Line[] =>
    call.lines.map(line => (line.to === to && line.source !== null ? edit(line) : line));
  switch (change.change) {
    case 'option-renamed': {
      const [was, is] = [asText(change.was ?? null), asText(change.now ?? null)];
      return on(key, line => {
        const step = translating([[was, is]]);
        if (has(line, step)) return line;
        words.push(`${line.to}: ${quoted(was)} is sent as ${quoted(is)}.`);
        return { ...line, cleaning: [...line.cleaning, step] };
      });
    }
    case 'type':
    case 'format':
    case 'narrowed':
    case 'option-gone': {
      const target = fieldNamed(call, parts, key);
      return on(key, line => {
        const made = cleaned(line, target, parts, definition);
        if (made) words.push(made.words);
        return made?.line ?? line;
      });
    }
    default:
      return call.lines;
  }
}
