import { exactJson } from './exact';

/** Any JSON value (RFC 8259). */
export type Json = null | boolean | number | string | Json[] | JsonObject;
export type JsonObject = { [key: string]: Json };

export const isJsonObject = (value: unknown): value is JsonObject =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** True for what a person would call unanswered: null, text of white space only, an empty list or object. */
export function isBlank(value: Json | undefined): boolean {
  if (value === null || value === undefined) return true;
  if (typeof value === 'string') return value.trim() === '';
  if (Array.isArray(value)) return value.every(isBlank);
  if (typeof value === 'object') return Object.keys(value).length === 0;
  return false;
}

/** The value as one text: text as it is, lists joined with “, ”, anything else as JSON. Blank gives "". */
export function asText(value: Json | undefined): string {
  if (value === null || value === undefined) return '';
  if (typeof value === 'string') return value;
  if (Array.isArray(value)) return value.map(asText).filter(Boolean).join(', ');
  return JSON.stringify(value);
}

/** Parses JSON text, every number as it was written ({@link exactJson}); undefined where it is none. Never throws. */
export function parseJson(text: string): Json | undefined {
  try {
    return exactJson(text).value as Json;
  } catch {
    return undefined;
  }
}

/** True for a text that begins like an object or a list of JSON and is none. */
export const isBrokenJson = (text: string): boolean => /^\s*[[{]/.test(text) && parseJson(text.trim()) === undefined;

/** Sets an own property whatever its name, `__proto__` included. */
export function setOwn(object: JsonObject, key: string, value: Json): void {
  if (key === '__proto__')
    Object.defineProperty(object, key, { value, enumerable: true, configurable: true, writable: true });
  else object[key] = value;
}

/** JSON with its properties in order: the same for values that are the same. */
export function canonical(value: Json): string {
  if (Array.isArray(value)) return `[${value.map(canonical).join()}]`;
  if (isJsonObject(value))
    return `{${Object.keys(value)
      .sort()
      .map(key => `${JSON.stringify(key)}:${canonical(value[key]!)}`)
      .join()}}`;
  return JSON.stringify(value);
}
