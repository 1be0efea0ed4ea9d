import type { ProblemDetails } from '@grammata/contract';
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
  new HttpProblem(404, `No such ${what}.`, 'It may have been removed, or the address is wrong.');

/** What is wrong with fields of the input, each with its words. */
export const fieldFaults = (errors: NonNullable<ProblemDetails['errors']>) =>
  new HttpProblem(422, 'Some fields are invalid.', undefined, errors);

export const fieldFault = (field: string, message: string) => fieldFaults([{ field, message }]);

export function writeProblem(
  response: Response,
  { status, title, detail, errors }: Omit<ProblemDetails, 'type'>,
): void {
  const problem: ProblemDetails = { type: 'about:blank', title, status, detail, errors };
  response.status(status).type('application/problem+json').send(JSON.stringify(problem));
}
