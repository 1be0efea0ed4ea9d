import type { ProblemDetails } from '@grammata/contract';
import { isDeepStrictEqual } from 'node:util';
import type { Response } from 'express';

/** An answer other than success, as RFC 9457 problem details. Thrown by handlers, written in one place. */
export class HttpProblem extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    readonly detail?: string,
    readonly errors?: ProblemDetails['errors'],
  ) {
    super(title);
  }
}

export const notFound = (what: string) =>
  new HttpProblem(404, `There is no such ${what}.`, 'It may have been removed, or the address is mistyped.');

/** What is wrong with fields of the input, each with its words. */
export const fieldFaults = (errors: NonNullable<ProblemDetails['errors']>) =>
  new HttpProblem(422, 'Some fields can’t be taken as they are.', undefined, errors);

export const fieldFault = (field: string, message: string) => fieldFaults([{ field, message }]);

/** Parts of settings that change by themselves, and are nothing that somebody set. */
const byThemselves: Record<string, readonly string[]> = { feed: ['nextAt', 'reading'] };

const setIn = (name: string, value: unknown): unknown =>
  byThemselves[name] && typeof value === 'object' && value !== null
    ? Object.fromEntries(Object.entries(value).filter(([part]) => !byThemselves[name]!.includes(part)))
    : value;

/**
 * Refuses a change of what is not any more as it was shown to whoever changes it: somebody else changed the same meanwhile.
 * @param now the settings as they would be shown now
 * @param shown those of them that are changed, as they were shown; left out by who does not say what he was shown
 */
export function mustBeAsShown(now: object, shown: unknown): void {
  if (typeof shown !== 'object' || shown === null) return;
  const current = JSON.parse(JSON.stringify(now)) as Record<string, unknown>;
  const others = Object.entries(shown).filter(
    ([name, value]) => !isDeepStrictEqual(setIn(name, current[name]), setIn(name, value)),
  );
  if (others.length === 0) return;
  const errors = others.map(([field]) => {
    const value = current[field];
    const is = ['string', 'number'].includes(typeof value) ? `: it is “${String(value)}” now` : '';
    return { field, message: `Somebody else changed it meanwhile${is}. Save again to put yours in its place.` };
  });
  throw new HttpProblem(
    409,
    'Somebody else changed the same meanwhile.',
    'Save again to put yours in its place.',
    errors,
  );
}

export function writeProblem(
  response: Response,
  { status, title, detail, errors }: Omit<ProblemDetails, 'type'>,
): void {
  const problem: ProblemDetails = { type: 'about:blank', title, status, detail, errors };
  response.status(status).type('application/problem+json').send(JSON.stringify(problem));
}
