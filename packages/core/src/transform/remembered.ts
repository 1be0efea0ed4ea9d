/** A function that makes each thing once and keeps the latest few: parameters of a step come again with every sample. */
export function remembered<In, Out>(key: (input: In) => string, make: (input: In) => Out): (input: In) => Out {
  const made = new Map<string, Out>();
  return input => {
    const name = key(input);
    const before = made.get(name);
    if (before !== undefined) return before;
    const fresh = make(input);
    if (made.size > 200) made.clear();
    made.set(name, fresh);
    return fresh;
  };
}
