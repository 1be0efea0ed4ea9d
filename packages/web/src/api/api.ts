import type { ProblemDetails } from '@grammata/contract';

/** An answer of the server other than success. */
export class ApiFault extends Error {
  constructor(readonly problem: ProblemDetails) {
    super(problem.title);
  }
}

/** True where something was refused since it is not as it was shown any more. */
export const isConflict = (error: unknown): boolean => error instanceof ApiFault && error.problem.status === 409;

/** What to say about a failure: what happened, and what to do. */
export function wordsFor(error: unknown): string {
  if (error instanceof ApiFault) return [error.problem.title, error.problem.detail].filter(Boolean).join(' ');
  return 'The server does not answer. Check that it is running.';
}

let first: string | null = null;

/** What the server had told of when it answered for the first time: what is shown is as of then, or later. */
export const firstMark = (): string | null => first;

/** Talks to the server's API: JSON both ways. Rejects with ApiFault when the server says no. */
export async function api<T>(
  path: string,
  { method = 'GET', body }: { method?: string; body?: unknown } = {},
): Promise<T> {
  const answer = await fetch(`/api${path}`, {
    method,
    headers: body === undefined ? {} : { 'content-type': 'application/json' },
    body: body === undefined ? undefined : JSON.stringify(body),
  });
  first ??= answer.headers.get('x-live-mark');
  const text = await answer.text();
  const json: unknown = text ? JSON.parse(text) : null;
  if (!answer.ok) throw new ApiFault(json as ProblemDetails);
  return json as T;
}
