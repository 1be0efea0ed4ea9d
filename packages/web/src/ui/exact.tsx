import { createContext, useContext, useMemo, useState, type ReactNode } from 'react';

const STORED = 'grammata.exactTimes';

const ExactContext = createContext<{ isExact: boolean; toggle: () => void }>({
  isExact: false,
  toggle: () => undefined,
});

/** Whether times are shown to the second with their year and zone, and the switch. */
export const useExactTimes = () => useContext(ExactContext);

/** Keeps how times are shown, in this browser. */
export function ExactTimes({ children }: { children: ReactNode }) {
  const [isExact, setExact] = useState(() => localStorage.getItem(STORED) === 'on');
  const value = useMemo(
    () => ({
      isExact,
      toggle: () => {
        localStorage.setItem(STORED, isExact ? 'off' : 'on');
        setExact(!isExact);
      },
    }),
    [isExact],
  );
  return <ExactContext value={value}>{children}</ExactContext>;
}
