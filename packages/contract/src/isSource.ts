import type { Segment } from '@grammata/core/route';
import { registerDecorator } from 'class-validator';

const isKey = (value: unknown): value is string => typeof value === 'string' && value.length <= 500;
const isSegment = (value: unknown): value is Segment =>
  typeof value === 'object' &&
  value !== null &&
  Object.keys(value).length === 1 &&
  (('text' in value && typeof value.text === 'string') || ('field' in value && isKey(value.field)));

function isSource(value: unknown): boolean {
  if (value === null) return true;
  if (typeof value !== 'object' || !('from' in value)) return false;
  if (value.from === 'field') return 'field' in value && isKey(value.field);
  if (value.from === 'first')
    return 'fields' in value && Array.isArray(value.fields) && value.fields.length <= 50 && value.fields.every(isKey);
  if (value.from === 'rest') return true;
  if (value.from === 'constant') return 'value' in value && value.value !== undefined;
  return (
    value.from === 'text' &&
    (!('html' in value) || typeof value.html === 'boolean') &&
    'segments' in value &&
    Array.isArray(value.segments) &&
    value.segments.length <= 200 &&
    value.segments.every(isSegment)
  );
}

/** Property rule: a line's source, or null. */
export function IsSource(): PropertyDecorator {
  return (target, property) =>
    registerDecorator({
      name: 'isSource',
      target: target.constructor,
      propertyName: property as string,
      validator: {
        validate: isSource,
        defaultMessage: () => '$property must come from a field, several, a text, a constant or what is left',
      },
    });
}
