import { entryShapes, type ListEntry, type PlainSegment, type Segment } from '@grammata/core/route';
import { registerDecorator } from 'class-validator';

const isKey = (value: unknown): value is string => typeof value === 'string' && value.length <= 500;
const isSegment = (value: unknown): value is Segment =>
  isPlainSegment(value) ||
  (isObject(value) &&
    Object.keys(value).length === 1 &&
    Array.isArray(value.part) &&
    value.part.length <= 50 &&
    value.part.every(isPlainSegment));

const isPlainSegment = (value: unknown): value is PlainSegment =>
  typeof value === 'object' &&
  value !== null &&
  Object.keys(value).length === 1 &&
  (('text' in value && typeof value.text === 'string') || ('field' in value && isKey(value.field)));

const isObject = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

const isStep = (value: unknown): boolean =>
  isObject(value) && typeof value.id === 'string' && value.id.length <= 100 && isObject(value.params);

const isPart = (value: unknown): boolean =>
  isObject(value) &&
  typeof value.name === 'string' &&
  value.name.length <= 200 &&
  (value.source === null || (isObject(value.source) && value.source.from !== 'list' && isSource(value.source))) &&
  Array.isArray(value.cleaning) &&
  value.cleaning.length <= 40 &&
  value.cleaning.every(isStep);

const isEntry = (value: unknown): value is ListEntry =>
  isObject(value) &&
  typeof value.id === 'string' &&
  value.id.length <= 60 &&
  (value.each === undefined || isKey(value.each)) &&
  entryShapes.some(shape => shape === value.as) &&
  Array.isArray(value.parts) &&
  value.parts.length <= 100 &&
  value.parts.every(isPart);

function isSource(value: unknown): boolean {
  if (value === null) return true;
  if (typeof value !== 'object' || !('from' in value)) return false;
  if (value.from === 'field') return 'field' in value && isKey(value.field);
  if (value.from === 'first')
    return 'fields' in value && Array.isArray(value.fields) && value.fields.length <= 50 && value.fields.every(isKey);
  if (value.from === 'rest') return !('as' in value) || value.as === 'pairs';
  if (value.from === 'list')
    return (
      'entries' in value && Array.isArray(value.entries) && value.entries.length <= 100 && value.entries.every(isEntry)
    );
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
        defaultMessage: () => '$property must come from a field, several, a text, a list, a constant or what is left',
      },
    });
}
