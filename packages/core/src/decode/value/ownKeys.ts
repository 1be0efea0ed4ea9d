import { tokensOf } from '../../submission';

interface Asked {
  key: string;
  /** JSON Pointer into the document. */
  pointer: string;
}

/**
 * Gives each question a key of its own: of several called `email` the outermost stays so, one that stands in `location` becomes
 * `location.email`, and what has no better name is counted: `email (2)`. What was answered has no part in it, so that a
 * question is called the same in each submission of its form.
 */
export function withOwnKeys<A extends Asked>(asked: A[]): A[] {
  const named = new Map<string, number[]>();
  asked.forEach(({ key }, at) => {
    const places = named.get(key);
    if (places) places.push(at);
    else named.set(key, [at]);
  });
  if (named.size === asked.length) return asked;
  const taken = new Set(named.keys());
  const renamed = [...asked];
  for (const [key, places] of named) {
    if (places.length === 1) continue;
    const [, ...inner] = places.sort((a, b) => depthOf(asked[a]!) - depthOf(asked[b]!) || a - b);
    let number = 2;
    for (const at of inner) {
      let name = placeNames(asked[at]!).find(each => !taken.has(each));
      for (; name === undefined; number++) if (!taken.has(`${key} (${number})`)) name = `${key} (${number})`;
      taken.add(name);
      renamed[at] = { ...asked[at]!, key: name };
    }
  }
  return renamed;
}

const depthOf = ({ pointer }: Asked): number => pointer.split('/').length;

/** Most names around a question that are put before its key. */
const MOST_AROUND = 5;

/**
 * What a question may be called by the names of what it stands in, the nearest first. Only where the key itself is part of
 * the way there do the names before it say where it stands.
 */
function placeNames({ key, pointer }: Asked): string[] {
  const around = tokensOf(pointer);
  if (around.pop() !== key) return [];
  const named = around.filter(each => !/^\d*$/.test(each)).slice(-MOST_AROUND);
  return named.map((_, at) => [...named.slice(named.length - 1 - at), key].join('.'));
}
