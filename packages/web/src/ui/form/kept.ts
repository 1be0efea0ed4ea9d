/** Where what is typed outlives a page: by the name of the form. */
export interface Drawer {
  read(): Record<string, unknown> | null;
  write(values: Record<string, unknown> | null): void;
}

/** Names of what must not lie in a browser: secrets, and documents, in which examples show them. */
const secrets = new Set(['document', 'token', 'tryToken', 'secret', 'secrets', 'password', 'typed']);

/** The same without secrets, and without what is no number: it would come back as nothing, which may mean something else. */
function keepable(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(keepable);
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(
    Object.entries(value)
      .filter(([name, each]) => !secrets.has(name) && each !== undefined && !Number.isNaN(each))
      .map(([name, each]) => [name, keepable(each)]),
  );
}

/** What was typed into a form and is not stored yet, in this browser. */
export const drawerFor = (name: string, storage: Pick<Storage, 'getItem' | 'setItem' | 'removeItem'>): Drawer => ({
  read() {
    try {
      const kept: unknown = JSON.parse(storage.getItem(`grammata.typed.${name}`) ?? 'null');
      return typeof kept === 'object' && kept !== null && !Array.isArray(kept)
        ? (kept as Record<string, unknown>)
        : null;
    } catch {
      return null;
    }
  },
  write(values) {
    try {
      if (values) storage.setItem(`grammata.typed.${name}`, JSON.stringify(keepable(values)));
      else storage.removeItem(`grammata.typed.${name}`);
    } catch {
      // A browser without room for it: the page itself still has it.
    }
  },
});

/** What the form begins with: what was typed before over what is stored. Null where that is the same. */
export function takenUp<T extends object>(stored: T, drawer: Drawer): T | null {
  const kept = drawer.read();
  if (!kept) return null;
  const whole = merged(stored, kept) as T;
  return JSON.stringify(keepable(whole)) === JSON.stringify(keepable(stored)) ? null : whole;
}

/** Parts that are objects are merged part by part, so that a secret that was left out is not taken for one that is gone. */
function merged(before: unknown, after: unknown): unknown {
  if (!isPlain(before) || !isPlain(after)) return after;
  const names = [...new Set([...Object.keys(before), ...Object.keys(after)])];
  return Object.fromEntries(
    names.map(name => [name, name in after ? merged(before[name], after[name]) : before[name]]),
  );
}

const isPlain = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
