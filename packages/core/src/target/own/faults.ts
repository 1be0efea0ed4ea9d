import { RE2JS } from 're2js';
import type { Operation, TargetField } from '../operation';

/** What is wrong with an operation that people set: in which part, and what to do about it. */
export interface OperationFault {
  /** `label`, `path`, or `fields.3.pointer`. */
  at: string;
  message: string;
}

/** Names of parameters in a path, in their order. */
export const placesIn = (path: string): string[] => [...path.matchAll(/\{([^{}]+)\}/g)].map(([, name]) => name!);

/** What keeps an operation from being one that a call can use. */
export function operationFaults(operation: Operation): OperationFault[] {
  const faults: OperationFault[] = [];
  const add = (at: string, message: string) => void faults.push({ at, message });
  if (operation.label.trim() === '') add('label', 'Enter a name.');
  const path = pathFault(operation.path);
  if (path) add('path', path);
  const places = placesIn(operation.path);
  const inPath = new Set(operation.fields.filter(each => each.in === 'path').map(each => each.pointer));
  for (const name of new Set(places))
    if (!inPath.has(name)) add('path', `“${name}” stands in the path, and no field fills it.`);
  if (new Set(places).size < places.length) add('path', 'Each place in the path has a name of its own.');
  const seen = { places: new Set<string>(), keys: new Set<string>() };
  operation.fields.forEach((field, index) => {
    const fault = fieldFault(field, operation, new Set(places), seen);
    if (fault) add(`fields.${index}.${fault[0]}`, fault[1]);
    seen.places.add(placeOf(field));
    seen.keys.add(field.key);
  });
  return faults;
}

const placeOf = ({ in: place, pointer }: TargetField) =>
  `${place ?? 'body'} ${place === 'header' ? pointer.toLowerCase() : pointer}`;

function pathFault(path: string): string | null {
  if (!path.startsWith('/')) return 'Start the path with “/”.';
  if (/[\s#]/.test(path)) return 'A path holds no spaces and no “#”.';
  if (path.includes('?')) return 'What stands behind “?” goes into fields of the query.';
  if (/[{}]/.test(path.replace(/\{[\w.-]+\}/g, ''))) return 'Places for values are written {name}.';
  return path.split('/').some(part => /^(\.|%2e){1,2}$/i.test(part))
    ? 'A path has no “.” or “..” of its own (RFC 3986).'
    : null;
}

function fieldFault(
  field: TargetField,
  { method, body }: Operation,
  places: ReadonlySet<string>,
  seen: { places: ReadonlySet<string>; keys: ReadonlySet<string> },
): [part: string, message: string] | null {
  const { in: place, pointer, key } = field;
  if (key.trim() === '') return ['key', 'Enter a field name.'];
  if (seen.keys.has(key)) return ['key', `Two fields are named “${key}”.`];
  if (seen.places.has(placeOf(field))) return ['pointer', 'Another field goes to the same place.'];
  if (place === 'path' && !places.has(pointer)) return ['pointer', `The path has no place {${pointer}}.`];
  if (place === 'header' && !/^[!#$%&'*+.^_`|~0-9A-Za-z-]+$/.test(pointer))
    return ['pointer', 'The name of a header holds no spaces (RFC 9110).'];
  if (place === 'query' && pointer === '') return ['pointer', 'Name the parameter.'];
  if (!place && pointer !== '' && !/^(\/([^~/]|~[01])*)+$/.test(pointer))
    return ['pointer', 'Give a JSON Pointer such as /contact/email.'];
  if (!place && (body === 'none' || method === 'GET')) return ['in', 'It has no body to go into.'];
  if (field.options?.length === 0) return ['options', 'Give its options, or none.'];
  if (field.pattern !== undefined && !isPattern(field.pattern)) return ['pattern', 'This pattern can’t be read.'];
  return null;
}

function isPattern(pattern: string): boolean {
  try {
    RE2JS.compile(pattern);
    return true;
  } catch {
    return false;
  }
}
