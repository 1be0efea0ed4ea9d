import type { TargetField } from './operation';

/** Keys that a parameter and the body share are told apart by where they go. */
export function withOwnKeys(fields: TargetField[]): TargetField[] {
  const taken = new Set<string>();
  return fields.map(field => {
    const key = taken.has(field.key) ? `${field.in ?? 'body'}.${field.key}` : field.key;
    taken.add(key);
    return { ...field, key };
  });
}
