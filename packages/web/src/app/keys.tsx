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

const isTyping = (target: EventTarget | null) =>
  target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));

/** Listens for single keys and knows what they do in the place at hand. */
export function Keys({ children }: { children: ReactNode }) {
  const [bound, setBound] = useState<KeyBinding[]>([]);
  const registry = useMemo<Registry>(() => {
    const bindings = new Map<symbol, KeyBinding[]>();
    return { bindings, changed: () => setBound([...bindings.values()].flat()) };
  }, []);
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (
        event.ctrlKey ||
        event.metaKey ||
        event.altKey ||
        isTyping(event.target) ||
        document.querySelector('[role="dialog"]')
      )
        return;
      const matching = [...registry.bindings.values()].flat().filter(each => each.key === event.key);
      const binding = matching.find(each => each.urgent) ?? matching[0];
      if (!binding) return;
      event.preventDefault();
      binding.run();
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [registry]);
  return (
    <RegistryContext value={registry}>
      <BoundContext value={bound}>{children}</BoundContext>
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
