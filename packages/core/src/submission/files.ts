import { asText, isJsonObject, type Json } from './json';

/** True for a file whose media type or end of name is the one wanted: `image/*`, `application/pdf`, `.pdf`. */
export function isFileOf(file: Json, wanted: string): boolean {
  const { name, type } = isJsonObject(file) ? file : { name: file, type: null };
  const [named, typed, want] = [asText(name).toLowerCase(), asText(type).toLowerCase(), wanted.trim().toLowerCase()];
  if (want.startsWith('.')) return named.endsWith(want);
  return want.endsWith('/*') ? typed.startsWith(want.slice(0, -1)) : typed === want;
}
