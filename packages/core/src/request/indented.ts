import type { Json } from '../submission';

/** JSON that is written without blanks, indented for people; any other text as it is. */
export function indented(body: string): string {
  if (!/^[[{]/.test(body)) return body;
  try {
    const value = JSON.parse(body) as Json;
    // A number that a double can't hold would be another one.
    return JSON.stringify(value) === body ? JSON.stringify(value, null, 2) : body;
  } catch {
    return body;
  }
}
