import { createContext, useContext, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';

/** One thing a key does in a place. */
export interface KeyBinding {
  /** As KeyboardEvent.key gives it: `j`, `?`, `ArrowDown`. */
  key: string;
  does: string;
  run: () => void;
  /** Goes before the place's own keys. */
  urgent?: boolean;
}

interface Registry {
  bindings: Map<symbol, KeyBinding[]>;
  changed: () => void;
}

const RegistryContext = createContext<Registry | null>(null);
const BoundContext = createContext<KeyBinding[]>([]);
const LettersContext = createContext<{ on: boolean; set: (on: boolean) => void }>({ on: true, set: () => undefined });

/** Whether single letters do anything, and the switch. */
export const useLetters = () => useContext(LettersContext);

/** Inputs in which letters are nothing but letters pressed. */
const pressed = new Set(['checkbox', 'radio', 'button', 'submit', 'reset', 'file', 'range', 'color']);

/** True where letters are typed: keys of the place do nothing there. */
export const isTyping = (target: HTMLElement): boolean =>
  target.isContentEditable ||
  /^(TEXTAREA|SELECT)$/.test(target.tagName) ||
  (target instanceof HTMLInputElement && !pressed.has(target.type));

const ownKeys = 'a[href], button, summary, input, [role="button"], [role="tab"], [role="option"], [role="menuitem"]';

/** True for a key that means something to the element it is pressed on: that is what it does then (WCAG 2.1.1). */
const isItsOwn = (target: HTMLElement, key: string): boolean =>
  isTyping(target) ||
  ((key === 'Enter' || key === ' ') && target.closest(ownKeys) !== null) ||
  (key.startsWith('Arrow') &&
    (target instanceof HTMLInputElement || target.closest('[role="listbox"], [role="menu"]') !== null));

/** Whether single letters do anything: who speaks to their computer, or hits keys by chance, switches them off (WCAG 2.1.4). */
const STORED = 'grammata.letters';
const readLetters = () => localStorage.getItem(STORED) !== 'off';

/** Listens for single keys and knows what they do in the place at hand. */
export function Keys({ children }: { children: ReactNode }) {
  const [bound, setBound] = useState<KeyBinding[]>([]);
  const [letters, setLetters] = useState(readLetters);
  const registry = useMemo<Registry>(() => {
    const bindings = new Map<symbol, KeyBinding[]>();
    return { bindings, changed: () => setBound([...bindings.values()].flat()) };
  }, []);
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey) return;
      if (!letters && event.key.length === 1) return;
      if (event.target instanceof HTMLElement && isItsOwn(event.target, event.key)) return;
      if (document.querySelector('[role="dialog"]')) return;
      const matching = [...registry.bindings.values()].flat().filter(each => each.key === event.key);
      const binding = matching.find(each => each.urgent) ?? matching[0];
      if (!binding) return;
      event.preventDefault();
      binding.run();
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [registry, letters]);
  const switched = useMemo(
    () => ({
      on: letters,
      set: (on: boolean) => {
        localStorage.setItem(STORED, on ? 'on' : 'off');
        setLetters(on);
      },
    }),
    [letters],
  );
  return (
    <RegistryContext value={registry}>
      <LettersContext value={switched}>
        <BoundContext value={bound}>{children}</BoundContext>
      </LettersContext>
    </RegistryContext>
  );
}

/** Binds keys while the calling component is shown. */
export function useKeys(bindings: KeyBinding[]): void {
  const registry = useContext(RegistryContext);
  const latest = useRef(bindings);
  useEffect(() => {
    latest.current = bindings;
  });
  const names = bindings.map(each => each.key + each.does).join('\n');
  useEffect(() => {
    if (!registry) return;
    const id = Symbol();
    registry.bindings.set(
      id,
      latest.current.map((each, index) => ({ ...each, run: () => latest.current[index]?.run() })),
    );
    registry.changed();
    return () => {
      registry.bindings.delete(id);
      registry.changed();
    };
  }, [registry, names]);
}

/** All keys that do something now, the place's own first. */
export const useBoundKeys = (): KeyBinding[] => useContext(BoundContext);
