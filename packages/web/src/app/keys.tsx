import { createContext, useContext, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';

/** One thing a key does in a place. */
export interface KeyBinding {
  /** As KeyboardEvent.key gives it: `j`, `?`, `ArrowDown`. */
  key: string;
  does: string;
  run: () => void;
}

interface Registry {
  bindings: Map<symbol, KeyBinding[]>;
  changed: () => void;
}

const KeysContext = createContext<Registry | null>(null);

const isTyping = (target: EventTarget | null) => target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));

/** Listens for single keys and knows what they do in the place at hand. */
export function Keys({ children }: { children: ReactNode }) {
  const [, setVersion] = useState(0);
  const registry = useMemo<Registry>(() => ({ bindings: new Map(), changed: () => setVersion(version => version + 1) }), []);
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target) || document.querySelector('[role="dialog"]')) return;
      const binding = [...registry.bindings.values()].reverse().flat().find(each => each.key === event.key);
      if (!binding) return;
      event.preventDefault();
      binding.run();
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [registry]);
  return <KeysContext value={registry}>{children}</KeysContext>;
}

/** Binds keys while the calling component is shown. */
export function useKeys(bindings: KeyBinding[]): void {
  const registry = useContext(KeysContext);
  const latest = useRef(bindings);
  useEffect(() => {
    latest.current = bindings;
  });
  const names = bindings.map(each => each.key + each.does).join('\n');
  useEffect(() => {
    if (!registry) return;
    const id = Symbol();
    registry.bindings.set(id, latest.current.map((each, index) => ({ ...each, run: () => latest.current[index]?.run() })));
    registry.changed();
    return () => {
      registry.bindings.delete(id);
      registry.changed();
    };
  }, [registry, names]);
}

/** All keys that do something now, the place's own first. */
export function useBoundKeys(): KeyBinding[] {
  const registry = useContext(KeysContext);
  return registry ? [...registry.bindings.values()].reverse().flat() : [];
}
