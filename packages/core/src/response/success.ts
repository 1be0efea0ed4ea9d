import type { Success } from '../route';
import { placeWords } from '../scope';
import { asText, escapeToken, isBlank, isJsonObject, parseJson, valueAt, type Json } from '../submission';
import { complaintIn, refusalIn } from './complaint';

/** Why a response with a success status refuses its request all the same, by what somebody set or else by what is usual; null where it does not. */
export function refusalBy(success: Success | null | undefined, body: string): string | null {
  // A member that nobody named yet tells nothing.
  if (!success || (success.by === 'member' && success.pointer === '')) return refusalIn(body);
  if (success.by === 'status') return null;
  const document = parseJson(body);
  const value = document === undefined ? undefined : valueAt(document, success.pointer);
  if (isSuccess(success, value)) return null;
  const name = placeWords(success.pointer) || 'the response';
  const is =
    value === undefined || isBlank(value) ? `${name} is missing.` : `${name} is “${asText(value).slice(0, 80)}”.`;
  return [is, complaintIn(body)].filter(Boolean).join(' ');
}

/** True where a member says that all went well: it is there and, where values are named, one of them. */
export const isSuccess = ({ values }: Pick<Success, 'values'>, value: Json | undefined): boolean =>
  value !== undefined &&
  !isBlank(value) &&
  (values === null || values.length === 0 || values.some(each => each.toLowerCase() === asText(value).toLowerCase()));

/** A member of responses, with what it was in them. */
export interface ResponseMember {
  /** JSON Pointer. */
  pointer: string;
  /** What it was, the most frequent first, and how often; empty where it was too varied to tell anything. */
  values: { value: string; count: number }[];
  /** In how many of them it was there. */
  present: number;
}

const limits = { depth: 3, members: 60, values: 6, length: 60 };
/** Names of members that say how it went. *Common practice, no source.* */
const telling = /^(success|succeeded|is_?success|ok|status|state|result|outcome|code|errors?|error_?code|message|id)$/i;

/**
 * The single members of responses, those first that may say how it went: by their name, then by being one of few values. Of
 * lists nothing is looked at.
 */
export function membersOf(responses: readonly Json[]): ResponseMember[] {
  const counts = new Map<string, Map<string, number>>();
  for (const response of responses)
    for (const [pointer, value] of scalarsIn(response, '', 0)) {
      const values = counts.get(pointer) ?? new Map<string, number>();
      values.set(value, (values.get(value) ?? 0) + 1);
      counts.set(pointer, values);
    }
  const members = [...counts].map(([pointer, values]): ResponseMember & { tells: number } => {
    const present = [...values.values()].reduce((sum, each) => sum + each, 0);
    const isVaried = values.size > limits.values;
    const name = pointer.slice(pointer.lastIndexOf('/') + 1);
    return {
      pointer,
      present,
      values: isVaried
        ? []
        : [...values].map(([value, count]) => ({ value, count })).sort((one, other) => other.count - one.count),
      tells: Number(telling.test(name)) * 2 + Number(!isVaried),
    };
  });
  return members
    .sort((one, other) => other.tells - one.tells || one.pointer.length - other.pointer.length)
    .slice(0, limits.members)
    .map(({ tells: _, ...member }) => member);
}

function scalarsIn(value: Json, pointer: string, depth: number): [pointer: string, value: string][] {
  if (isJsonObject(value))
    return depth < limits.depth
      ? Object.entries(value).flatMap(([name, each]) => scalarsIn(each, `${pointer}/${escapeToken(name)}`, depth + 1))
      : [];
  return pointer === '' || Array.isArray(value) || isBlank(value)
    ? []
    : [[pointer, asText(value).slice(0, limits.length)]];
}
