import { testsOf, type Condition } from '../condition';
import { referenceOf } from '../scope';
import { transformOf, type Step } from '../transform';
import type { Call } from './call';
import { ROUTE_FORMAT, type RouteDefinition } from './definition';
import { sourcesOfEntry, fieldsOf, type Line } from './line';

/** What is wrong with a definition in itself, whatever its form and its targets are. */
export interface RouteFault {
  /** JSON Pointer (RFC 6901) to the part that is at fault. */
  pointer: string;
  message: string;
}

/** What keeps a definition from being stored: its parts could not be told apart. */
export function identityFaults({ format, calls }: RouteDefinition): RouteFault[] {
  if (format !== ROUTE_FORMAT)
    return [{ pointer: '/format', message: `Made by another version of Grammata (format ${format}).` }];
  return [
    ...repeated(calls).map(at => ({ pointer: `/calls/${at}/id`, message: 'Another call has this identifier.' })),
    ...calls.flatMap(({ lines }, at) =>
      repeated(lines).map(line => ({
        pointer: `/calls/${at}/lines/${line}/id`,
        message: 'Another line of this call has this identifier.',
      })),
    ),
  ];
}

/** The places of those whose identifier stood before. */
function repeated(parts: readonly { id: string }[]): number[] {
  const seen = new Set<string>();
  return parts.flatMap(({ id }, at) => {
    if (seen.has(id)) return [at];
    seen.add(id);
    return [];
  });
}

/**
 * What a definition refers to that is not there at that place: an answer of a call that is made later or not at all, an
 * item where nothing repeats, a record where none was found. A draft may hold such, a route that goes live may not.
 */
export function referenceFaults({ condition, calls }: RouteDefinition): RouteFault[] {
  const before = new Set<string>();
  const faults = conditionKeys(condition).flatMap(key => fault('/condition', key, { before, repeats: false }));
  for (const [at, call] of calls.entries()) {
    const pointer = `/calls/${at}`;
    faults.push(...(call.repeat ? fault(`${pointer}/repeat`, call.repeat, { before, repeats: false }) : []));
    const scope = { before, repeats: Boolean(call.repeat) };
    for (const { where, key } of referencesIn(call)) faults.push(...fault(`${pointer}${where}`, key, scope));
    before.add(call.id);
  }
  return faults;
}

/** Every reference of a call but what it repeats for, with its place below the call. */
export function referencesIn({ condition, find, lines }: Call): { where: string; key: string }[] {
  const ofLine = (where: string, line: Line) => keysOf(line).map(key => ({ where, key }));
  return [
    ...(condition ? conditionKeys(condition) : []).map(key => ({ where: '/condition', key })),
    ...(find ? ofLine('/find/line', find.line) : []),
    ...(find?.lines ?? []).flatMap((line, at) => ofLine(`/find/lines/${at}`, line)),
    ...lines.flatMap((line, at) => ofLine(`/lines/${at}`, line)),
  ];
}

/** Every answer that a line draws on: for its value, and in the steps of its cleaning. */
export const keysOf = ({ source, cleaning }: Line): string[] => [
  ...fieldsOf(source),
  ...(source?.from === 'list'
    ? source.entries.flatMap(entry => sourcesOfEntry(entry, part => part.cleaning.flatMap(questionsOf)))
    : []),
  ...cleaning.flatMap(questionsOf),
];

const conditionKeys = (condition: Condition) => testsOf(condition).map(test => test.field);

/** The answers that a step asks for beside the value that it is given, and those that steps inside it ask for. */
const questionsOf = ({ id, params }: Step): string[] =>
  (transformOf(id)?.asks ?? []).flatMap(({ kind, name }) => {
    const given = params[name];
    if (kind === 'steps') return Array.isArray(given) ? (given as Step[]).flatMap(questionsOf) : [];
    return kind === 'question' && typeof given === 'string' && given !== '' ? [given] : [];
  });

function fault(
  pointer: string,
  key: string,
  { before, repeats }: { before: ReadonlySet<string>; repeats: boolean },
): RouteFault[] {
  const faultOf = (message: string) => [{ pointer, message }];
  const reference = referenceOf(key);
  switch (reference.to) {
    case 'answer':
      return before.has(reference.callId) ? [] : faultOf('It uses the response of a call that does not run before it.');
    case 'identity':
      return before.has(reference.callId) ? [] : faultOf('It uses the record of a call that does not run before it.');
    case 'item':
    case 'itemNumber':
      return repeats ? [] : faultOf('It uses the item of a repeated call, but this call runs once.');
    case 'record':
      return faultOf('It uses a record that is known only while one is updated.');
    default:
      return [];
  }
}
