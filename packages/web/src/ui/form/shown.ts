import { createContext, useContext, useEffect } from 'react';

export const ShownContext = createContext<Set<string> | null>(null);

/** Tells the form that fields are in sight while they are. */
export function useShown(...names: string[]): void {
  const shown = useContext(ShownContext);
  const all = names.join(' ');
  useEffect(() => {
    const shownNames = all.split(' ');
    shownNames.forEach(name => shown?.add(name));
    return () => shownNames.forEach(name => shown?.delete(name));
  }, [shown, all]);
}
