import { plainToInstance } from 'class-transformer';
import { isISO8601, validateSync, type ValidationError } from 'class-validator';
import { fieldFaults, HttpProblem } from '../problems';

/** The body as a checked instance of its class; throws a 422 that names every field at fault. */
export function checked<T extends object>(type: new () => T, body: unknown): T {
  if (typeof body !== 'object' || body === null || Array.isArray(body))
    throw new HttpProblem(400, 'The body must be a JSON object.');
  if (isDeeperThan(body, DEEPEST)) throw new HttpProblem(422, `The body is nested more than ${DEEPEST} levels deep.`);
  const instance = plainToInstance(type, withoutPrototypes(body));
  const faults = validateSync(instance, { whitelist: true, forbidUnknownValues: false });
  if (faults.length > 0) throw fieldFaults(faults.flatMap(fault => flattened(fault, '')));
  return instance;
}

/** Levels that a body may be nested: nothing that is sent here has nearly as many. */
export const DEEPEST = 60;

/** Walks without recursion: the depth of a hostile body must not matter. */
export function isDeeperThan(body: object, most: number): boolean {
  let level: unknown[] = [body];
  for (let depth = 0; level.length > 0; depth++) {
    if (depth > most) return true;
    level = level.flatMap(each => (typeof each === 'object' && each !== null ? Object.values(each) : []));
  }
  return false;
}

/** Names that objects have of their own, and that mean something else to whoever makes an instance. */
const inherited = new Set(['__proto__', 'constructor', 'prototype']);

/** The same without properties of such names, at any depth: no field is called so. */
function withoutPrototypes(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(withoutPrototypes);
  if (typeof value !== 'object' || value === null) return value;
  const kept: Record<string, unknown> = {};
  for (const [name, each] of Object.entries(value)) if (!inherited.has(name)) kept[name] = withoutPrototypes(each);
  return kept;
}

function flattened(fault: ValidationError, above: string): { field: string; message: string }[] {
  const field = above ? `${above}.${fault.property}` : fault.property;
  const own = Object.values(fault.constraints ?? {})
    .slice(0, 1)
    .map(message => ({ field, message }));
  return [...own, ...(fault.children ?? []).flatMap(child => flattened(child, field))];
}

/** A whole number from the query, within bounds. */
export function numberFrom(value: unknown, fallback: number, most: number): number {
  const number = Number(value);
  return typeof value === 'string' && Number.isInteger(number) && number >= 0 ? Math.min(number, most) : fallback;
}

export const textFrom = (value: unknown): string | undefined =>
  typeof value === 'string' && value !== '' ? value : undefined;

/** A time from the query, as it was given; one that is none is refused. */
export function timeFrom(value: unknown, field: string): string | undefined {
  const text = textFrom(value);
  if (text !== undefined && !isISO8601(text, { strict: true }))
    throw fieldFaults([{ field, message: 'Use a time such as 2026-11-04T00:00:00Z.' }]);
  return text;
}
