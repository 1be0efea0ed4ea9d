import type { Json } from '../submission';

/** Changes text, and every text of a list; leaves other values as they are. */
export function onText(value: Json, change: (text: string) => string): Json {
  if (typeof value === 'string') return change(value);
  if (Array.isArray(value)) return value.map(each => onText(each, change));
  return value;
}
