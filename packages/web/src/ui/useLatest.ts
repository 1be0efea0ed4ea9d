import { useEffect, useRef, type RefObject } from 'react';

/** The latest value, for what is done later: what does it can stay the same function. */
export function useLatest<Value>(value: Value): RefObject<Value> {
  const latest = useRef(value);
  useEffect(() => {
    latest.current = value;
  });
  return latest;
}
