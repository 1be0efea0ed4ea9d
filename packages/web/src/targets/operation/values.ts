import type { OperationFieldInput } from '@grammata/contract';
import { escapeToken, parseJson, pointerOf, type Json } from '@grammata/core/submission';
import type { TargetField } from '@grammata/core/target';

/** A value as it was typed, of the field's type; undefined where nothing was. What can’t be of the type stays text, and is refused. */
export function typedValue({ type, items }: Pick<TargetField, 'type' | 'items'>, text: string): Json | undefined {
  const trimmed = text.trim();
  if (trimmed === '') return undefined;
  const json = parseJson(trimmed);
  switch (type) {
    case 'number':
    case 'integer':
      return typeof json === 'number' ? json : trimmed;
    case 'boolean':
      return typeof json === 'boolean' ? json : trimmed;
    case 'choices': {
      if (Array.isArray(json)) return json;
      const parts = trimmed.split(',').map(each => each.trim());
      return items ? parts.map(each => parseJson(each) ?? each) : parts;
    }
    case 'json':
      return json ?? trimmed;
    default:
      return trimmed;
  }
}

/** A value as it is typed. */
export const textOfValue = (value: Json | undefined): string =>
  value === undefined ? '' : typeof value === 'string' ? value : JSON.stringify(value);

/** The place of a field of the body with this name: `contact.email` in an object `contact`. */
export const placeFor = (key: string, place: OperationFieldInput['in']): string =>
  place
    ? key
    : key.trim() === ''
      ? ''
      : key
          .split('.')
          .map(token => `/${escapeToken(token)}`)
          .join('');

/** True while a field stands where its name says: another name moves it along. */
export const followsItsName = ({ key, in: place, pointer }: OperationFieldInput): boolean =>
  pointer === placeFor(key, place);

/** Options as lines: `s1 = Grafting`. */
export const optionLines = ({ options, optionNames }: Pick<TargetField, 'options' | 'optionNames'>): string =>
  (options ?? []).map(each => (optionNames?.[each] ? `${each} = ${optionNames[each]}` : each)).join('\n');

/** Reads what `optionLines` writes; no line is no options. */
export function optionsFrom(text: string): Pick<TargetField, 'options' | 'optionNames'> {
  const pairs = text
    .split('\n')
    .map(line => line.trim())
    .filter(Boolean)
    .map(line => {
      const [value, ...name] = line.split(' = ');
      return { value: value!.trim(), name: name.join(' = ').trim() };
    });
  const named = pairs.filter(each => each.name !== '');
  return {
    options: pairs.length > 0 ? pairs.map(each => each.value) : null,
    optionNames: named.length > 0 ? Object.fromEntries(named.map(each => [each.value, each.name])) : undefined,
  };
}

/** The place of a pointer that a person types with dots or as a pointer. */
export const pointerFrom = (text: string): string =>
  text.startsWith('/') || text === '' ? text : pointerOf(text.split('.'));
