import { isJsonObject, type Json, type JsonObject } from '../../submission';
import type { OptionLabels } from '../envelope';
import { isCheckboxGroup, isMarked, speaksOf } from '../names';

const isText = (value: Json | undefined): value is string | number =>
  typeof value === 'string' || typeof value === 'number';

/** The label of a chosen option that was sent as an object, `{ id, label }`, or null. */
function labelOf(option: JsonObject): string | null {
  const names = Object.keys(option);
  if (
    names.length === 0 ||
    names.length > 4 ||
    names.some(name => typeof option[name] === 'object' && option[name] !== null)
  )
    return null;
  const label = names.find(name => speaksOf(name, 'wording') && isText(option[name]));
  const rest = names.filter(name => name !== label);
  const fits = rest.every(
    name =>
      speaksOf(name, 'id') ||
      speaksOf(name, 'answer') ||
      typeof option[name] === 'boolean' ||
      (typeof option[name] === 'number' && /^(index|order|position|score|weight|points|rank|sort)$/i.test(name)),
  );
  return label && fits ? String(option[label]) : null;
}

/**
 * A choose-one or choose-many answer in one of the shapes that builders give it, as the label or labels chosen:
 * option objects, `{ labels: [...], other }`, one key an option. Undefined when it is none of these.
 */
export function chosen(value: Json): { value: Json; other: string | null } | undefined {
  if (Array.isArray(value) && value.length > 0 && value.every(isJsonObject)) {
    const labels = value.map(labelOf);
    return labels.every(label => label !== null) ? { value: labels, other: null } : undefined;
  }
  if (!isJsonObject(value)) return undefined;
  if (isCheckboxGroup(value)) return { value: Object.keys(value).filter(key => isMarked(value[key]!)), other: null };
  const otherName = Object.keys(value).find(
    name => /other|else|specify/i.test(name) && (isText(value[name]) || value[name] === null),
  );
  const other = otherName && isText(value[otherName]) ? String(value[otherName]).trim() || null : null;
  const lists = Object.entries(value).filter(([, each]) => Array.isArray(each) && each.every(isText));
  if (lists.length > 0 && lists.length + (otherName ? 1 : 0) === Object.keys(value).length) {
    const list =
      lists.find(([name]) => speaksOf(name, 'wording')) ?? lists.find(([name]) => !speaksOf(name, 'id')) ?? lists[0]!;
    return { value: list[1], other };
  }
  const { [otherName ?? '']: _, ...rest } = value;
  const label = labelOf(rest);
  if (
    label !== null &&
    (otherName !== undefined || Object.keys(rest).length > 1 || speaksOf(Object.keys(rest)[0]!, 'wording'))
  )
    return { value: label, other };
  // `{ choice: 'Other', other: 'eels' }`: what was chosen, and what was written beside it.
  const [only, ...more] = Object.values(rest);
  if (otherName !== undefined && isText(only) && more.length === 0) return { value: String(only), other };
  return otherName !== undefined && Object.keys(rest).length === 0 && other !== null
    ? { value: other, other: null }
    : undefined;
}

/** Characters of the longest text that says no more than “other”. */
const LONGEST_OTHER = 60;

const isOther = (text: Json) =>
  typeof text === 'string' &&
  text.length < LONGEST_OTHER &&
  /^_{0,4}other(?:(?:_{0,4}(?:option|choice))?_{0,4}|\b[^a-z]{0,9}(?:(?:please )?(?:specify|tell us|state))?[^a-z]{0,9})$/i.test(
    text.trim(),
  );

/** What was written beside “Other” in its place among the choices. */
export function withOther(value: Json, other: string | null): Json {
  if (other === null) return value;
  if (!Array.isArray(value)) return isOther(value) || value === null || value === '' ? other : value;
  if (value.includes(other)) return value.filter(each => !isOther(each));
  return value.some(isOther) ? value.map(each => (isOther(each) ? other : each)) : [...value, other];
}

/** Option identifiers replaced by their labels. */
export function withOptionLabels(value: Json, options: OptionLabels): Json {
  if (Array.isArray(value)) return value.map(each => withOptionLabels(each, options));
  return isText(value) ? (options.get(String(value)) ?? value) : value;
}
