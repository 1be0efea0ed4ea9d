import { useEffect, useState } from 'react';

/** What was typed once nothing has been typed for a while, in ms. */
export function useSettled(value: string, pause: number): string {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), value === '' ? 0 : pause);
    return () => clearTimeout(timer);
  }, [value, pause]);
  return settled;
}
