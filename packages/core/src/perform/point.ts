import type { Find } from '../route';
import { isJsonObject, pointerOf, tokensOf, valueAt, type Json } from '../submission';

/** What a place of an answer can be to a look-up. */
export const findRoles = ['list', 'equals', 'id'] as const;
export type FindRole = (typeof findRoles)[number];

/** The list of objects that a place stands in, the innermost, and the way from its items to the place; null for none. */
function listAround(answer: Json, pointer: string): { list: string; inside: string } | null {
  const tokens = tokensOf(pointer);
  for (let length = tokens.length; length >= 0; length--) {
    const list = pointerOf(tokens.slice(0, length));
    const held = valueAt(answer, list);
    if (Array.isArray(held) && held.some(isJsonObject)) return { list, inside: pointerOf(tokens.slice(length + 1)) };
  }
  return null;
}

const isScalar = (value: Json | undefined): boolean =>
  value !== undefined && value !== null && typeof value !== 'object';

/**
 * A look-up with what a place of a real answer is to it: where the records stand, what of one must be what was looked for, what
 * identifies it. What is pointed at inside a record says where the records stand, too.
 * @example pointFind(find, 'equals', { data: [{ id: 7, of: { mail: 'a@b.example' } }] }, '/data/0/of/mail')
 *   // { …, list: '/data', equals: '/of/mail' }
 */
export function pointFind(find: Find, role: FindRole, answer: Json, pointer: string): Find | { refusal: string } {
  const value = valueAt(answer, pointer);
  if (value === undefined) return { refusal: 'There is nothing at this place.' };
  const around = listAround(answer, pointer);
  if (role === 'list') {
    if (around) return { ...find, list: around.list };
    return isJsonObject(value)
      ? { ...find, list: pointer }
      : { refusal: 'Point at a list of records, at anything in one, or at the one record.' };
  }
  if (!isScalar(value)) return { refusal: 'Point at a text or a number in a record.' };
  const within = find.list !== '' && pointer.startsWith(`${find.list}/`) ? pointer.slice(find.list.length) : null;
  // A record that is no item of a list is the place itself.
  const place = around ?? { list: within === null ? '' : find.list, inside: within ?? pointer };
  if (role === 'equals') return { ...find, list: place.list, equals: place.inside, takesAny: false };
  return { ...find, list: place.list, update: find.update && { ...find.update, from: place.inside } };
}

/** Where in a record its identifier stands, by pointing at it in an answer. */
export const identifierAt = (answer: Json, pointer: string): string => listAround(answer, pointer)?.inside ?? pointer;
