import { useState } from 'react';

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/**
 * Text under the hands for a value: what is typed stays as it is typed, whatever it means, until the value becomes another from outside, as by
 * undoing or by taking away what stood before it.
 * @param written the value as it is written
 */
export function useTyped<T>(
  value: T,
  written: (value: T) => string,
): [text: string, type: (text: string, means: T) => void] {
  const [typed, setTyped] = useState({ text: written(value), means: value });
  const isOther = !same(typed.means, value);
  if (isOther) setTyped({ text: written(value), means: value });
  return [isOther ? written(value) : typed.text, (text, means) => setTyped({ text, means })];
}
