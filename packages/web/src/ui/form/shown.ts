import { createContext, useContext, useEffect } from 'react';

export const ShownContext = createContext<Set<string> | null>(null);

/** Tells the form that a field is in sight while it is. */
export function useShown(name: string): void {
  const shown = useContext(ShownContext);
  useEffect(() => {
    shown?.add(name);
    return () => void shown?.delete(name);
  }, [shown, name]);
}
