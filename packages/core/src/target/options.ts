import { asText, isBlank, isJsonObject, plainText, type Json } from '../submission';
import type { TargetField } from './operation';

/** Names under which an option says what is sent, and what people call it; the first that is there. *Common practice, no source.* */
const sent = ['value', 'id', 'key', 'code', 'uuid', 'slug', 'const'];
const called = ['label', 'name', 'title', 'text', 'display_name', 'displayName', 'caption'];

/**
 * The options of a field, however they are given: values, objects with a value and a name (`{"id": "s1", "name": "Grafting"}`), or
 * an object of names by value.
 */
export function optionsIn(given: Json | undefined): Pick<TargetField, 'options' | 'optionNames'> {
  const options = isJsonObject(given ?? null)
    ? Object.entries(given as Record<string, Json>).map(([value, name]) => ({ value, name: asText(name) }))
    : Array.isArray(given)
      ? given.flatMap(optionOf)
      : null;
  return options === null ? { options: null } : withNames(options);
}

/** What is sent, and what people call it; where one of both is missing, it is both. */
export function withNames(
  options: readonly { value: string; name: string }[],
): Pick<TargetField, 'options' | 'optionNames'> {
  const names = options.filter(each => each.name !== '' && each.name !== each.value);
  return {
    options: options.map(each => each.value),
    ...(names.length > 0 && { optionNames: Object.fromEntries(names.map(({ value, name }) => [value, name])) }),
  };
}

function optionOf(option: Json): { value: string; name: string }[] {
  if (!isJsonObject(option)) return [{ value: asText(option), name: '' }];
  const first = (names: readonly string[]) => names.map(each => option[each]).find(each => !isBlank(each));
  const [value, name] = [first(sent), first(called)];
  if (isBlank(value) && isBlank(name)) return [];
  return [{ value: asText(value ?? name), name: asText(name ?? null) }];
}

/** A field that takes the names of its options in place of their identifiers; one whose names are not distinct stays as it is. */
export function takingNames(field: TargetField): TargetField {
  const { options, optionNames, ...others } = field;
  if (!options || !optionNames) return field;
  const names = options.map(each => optionName(field, each));
  return new Set(names).size < names.length ? field : { ...others, options: names };
}

/** What people call an option. */
export const optionName = ({ optionNames }: Pick<TargetField, 'optionNames'>, option: string): string =>
  (optionNames && Object.hasOwn(optionNames, option) ? optionNames[option] : undefined) ?? option;

/** The option that is spelt like this, or called so; undefined for none. */
export function optionFor(
  { options, optionNames }: Pick<TargetField, 'options' | 'optionNames'>,
  said: string,
): string | undefined {
  const plain = plainText(said);
  return (
    options?.find(each => plainText(each) === plain) ??
    options?.find(each => plainText(optionName({ optionNames }, each)) === plain)
  );
}
