import { plainToInstance } from 'class-transformer';
import { validateSync, type ValidationError } from 'class-validator';
import { HttpProblem } from '../problems';

/** The body as a checked instance of its class; throws a 422 that names every field at fault. */
export function checked<T extends object>(type: new () => T, body: unknown): T {
  if (typeof body !== 'object' || body === null || Array.isArray(body))
    throw new HttpProblem(400, 'The body must be a JSON object.');
  const instance = plainToInstance(type, body);
  const faults = validateSync(instance, { whitelist: true, forbidUnknownValues: false });
  if (faults.length > 0)
    throw new HttpProblem(
      422,
      'Some fields can’t be taken as they are.',
      undefined,
      faults.flatMap(fault => flattened(fault, '')),
    );
  return instance;
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
