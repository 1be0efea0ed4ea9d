/** Asks again until the answer is there; fails after so many ms, a minute for a busy machine, with what was seen last. */
export async function eventually<T>(
  ask: () => T | Promise<T>,
  holds: (value: T) => boolean,
  within = 60_000,
): Promise<T> {
  const end = performance.now() + within;
  for (;;) {
    const value = await ask();
    if (holds(value)) return value;
    if (performance.now() > end) throw new Error(`It did not come to hold; last seen: ${JSON.stringify(value)}`);
    await new Promise(resolve => setTimeout(resolve, 10));
  }
}
