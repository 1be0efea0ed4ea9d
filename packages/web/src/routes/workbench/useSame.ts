import { replaceEqualDeep } from '@tanstack/react-query';
import { useState } from 'react';

/** A value, or the one that was there before as far as it is equal to it: what is worked out from it stays as it is. */
export function useSame<Value>(value: Value): Value {
  const [kept, setKept] = useState(value);
  const same = replaceEqualDeep(kept, value);
  if (same !== kept) setKept(same);
  return same;
}
