import { useCallback } from 'react';
import { useSearchParams } from 'react-router';
import { useLatest } from '../ui';

// What is looked at stands in the address: it can be sent to a colleague, and stays when the page is loaded again.

/** Parts of the address by their names: what is put there, or null for what goes. */
export type Put = Record<string, string | null>;

/** The address with some parts put otherwise; the others stay. */
export function withParts(before: URLSearchParams, put: Put): URLSearchParams {
  const after = new URLSearchParams(before);
  for (const [name, value] of Object.entries(put)) {
    if (value === null) after.delete(name);
    else after.set(name, value);
  }
  return after;
}

/**
 * The parameters of the address, and putting some otherwise: all in one change, since two would overwrite each other. What puts them stays
 * the same function, wherever one goes.
 */
export function useAddress(): [params: URLSearchParams, put: (parts: Put) => void] {
  const [params, setParams] = useSearchParams();
  const latest = useLatest(setParams);
  const put = useCallback(
    (parts: Put) => latest.current(before => withParts(before, parts), { replace: true }),
    [latest],
  );
  return [params, put];
}

/** What stands under a name in the address, and putting something else there. */
export function useParam(name: string): [value: string | null, set: (value: string | null) => void] {
  const [params, put] = useAddress();
  const set = useCallback((value: string | null) => put({ [name]: value }), [put, name]);
  return [params.get(name), set];
}

/** Of several views one is looked at; the first is not named. */
export function useView<T extends string>(
  name: string,
  views: Record<T, unknown>,
  first: NoInfer<T>,
): [T, (next: T) => void] {
  const [given, set] = useParam(name);
  const view = given !== null && Object.hasOwn(views, given) ? (given as T) : first;
  return [view, useCallback((next: T) => set(next === first ? null : next), [set, first])];
}
