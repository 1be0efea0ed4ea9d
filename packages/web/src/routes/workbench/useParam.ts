import { useCallback } from 'react';
import { useSearchParams } from 'react-router';

/** What stands under a name in the address, and putting something else there. */
export function useParam(name: string): [value: string | null, set: (value: string) => void] {
  const [params, setParams] = useSearchParams();
  const set = useCallback(
    (value: string) =>
      setParams(before => new URLSearchParams({ ...Object.fromEntries(before), [name]: value }), { replace: true }),
    [setParams, name],
  );
  return [params.get(name), set];
}
