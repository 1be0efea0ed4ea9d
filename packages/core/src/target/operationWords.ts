import { labelFromKey } from '../submission';

/** Verbs at the end of a path that say themselves what is done. */
const verbs = new Set(
  'append send submit import upload publish search query merge upsert register subscribe invite notify trigger run cancel archive'.split(
    ' ',
  ),
);

const deeds: Record<string, (one: boolean, what: string) => string> = {
  POST: (one, what) => (one ? `Act on one of ${what}` : `Add to ${what}`),
  PUT: (one, what) => (one ? `Replace one of ${what}` : `Replace ${what}`),
  PATCH: (one, what) => (one ? `Change one of ${what}` : `Change ${what}`),
  DELETE: (one, what) => (one ? `Remove one of ${what}` : `Remove ${what}`),
  GET: (one, what) => (one ? `Read one of ${what}` : `Read ${what}`),
};

/** What an operation does, for one that has no words of its own: from its method and its path. */
export function operationWords(method: string, path: string): string {
  const parts = path.split(/[?#]/, 1)[0]!.split('/').filter(Boolean);
  const named = parts.filter(part => !/^\{.*\}$/.test(part) && !/^v\d+(\.\d+)*$/i.test(part));
  const words = (part: string) => labelFromKey(part.replace(/^.*:/, '')).toLowerCase();
  const last = named.at(-1);
  if (last === undefined) return `${method} ${path}`;
  const verb = words(last);
  const before = named.at(-2);
  if (method === 'POST' && verbs.has(verb))
    return before === undefined ? capital(verb) : `${capital(verb)}: ${words(before)}`;
  const deed = deeds[method];
  return deed ? deed(/^\{.*\}$/.test(parts.at(-1)!), words(last)) : `${method} ${path}`;
}

const capital = (word: string) => word.charAt(0).toUpperCase() + word.slice(1);
