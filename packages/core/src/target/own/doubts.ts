import { labelFromKey } from '../../submission';
import type { Operation, TargetField } from '../operation';
import { isWriting } from '../operation';
import { suchAs, valueNamed } from '../suchAs';

/** What an example can't tell of an operation, and a person knows. */
export interface Doubt {
  about: 'nothingRequired' | 'alwaysTheSame' | 'varies';
  /** The field it is about; null for the operation as a whole. */
  field: string | null;
  words: string;
}

/** What is to be asked about an operation that was made from examples. */
export function doubtsAbout(operation: Operation): Doubt[] {
  const inBody = operation.fields.filter(each => !each.in && !each.readOnly);
  const doubts: Doubt[] = [];
  if (isWriting(operation) && inBody.length > 0 && !inBody.some(each => each.required))
    doubts.push({
      about: 'nothingRequired',
      field: null,
      words: 'Nothing in the body is required. An example can’t tell: mark what the target must have.',
    });
  for (const field of operation.fields) doubts.push(...doubtsOf(field));
  return doubts;
}

function doubtsOf({ key, in: place, fixed, description }: TargetField): Doubt[] {
  if (fixed !== undefined)
    return [
      { about: 'alwaysTheSame', field: key, words: `${key} is always “${String(fixed)}” unless a line fills it.` },
    ];
  const shown = place === 'path' ? valueNamed(description) : null;
  if (shown !== null)
    return [{ about: 'varies', field: key, words: `${shown} in the path was taken for an identifier.` }];
  return [];
}

/** The operation with a place for a value where a segment of its path stood, or the other way round. */
export function withSegment(operation: Operation, index: number): Operation {
  const parts = operation.path.split('/');
  const part = parts[index] ?? '';
  const [, name] = /^\{([^{}]+)\}$/.exec(part) ?? [];
  if (name !== undefined) {
    const field = operation.fields.find(each => each.in === 'path' && each.pointer === name);
    parts[index] = valueNamed(field?.description) ?? name;
    return {
      ...operation,
      path: parts.join('/'),
      fields: operation.fields.filter(each => each !== field),
    };
  }
  if (part === '' || part.includes('{')) return operation;
  const taken = new Set(operation.fields.map(each => each.key));
  const before = (parts[index - 1] ?? '').replace(/[^\w]/g, '').replace(/s$/, '');
  let key = before ? `${before}_id` : 'id';
  for (let number = 2; taken.has(key); number++) key = `${before || 'part'}_id_${number}`;
  parts[index] = `{${key}}`;
  const field: TargetField = {
    key,
    in: 'path',
    pointer: key,
    label: labelFromKey(key),
    type: 'text',
    required: true,
    readOnly: false,
    options: null,
    maxLength: null,
    description: suchAs(part),
  };
  return { ...operation, path: parts.join('/'), fields: [field, ...operation.fields] };
}
