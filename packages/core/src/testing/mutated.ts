/** A generator of numbers from 0 to 1 that gives the same ones for the same seed (mulberry32, public domain). */
export function randomFrom(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
}

/** Bytes that mean something to one reader or another. */
const telling = [...'{}[]",:\\\n\r\t =&;%<>/@.-_0a'].map(each => each.charCodeAt(0)).concat([0, 0x80, 0xff, 0xc3]);

/** A message with a few of its bytes changed, left out, doubled or moved; the same for the same seed. */
export function mutated(whole: Uint8Array, seed: number): Uint8Array {
  const random = randomFrom(seed);
  const upTo = (most: number) => Math.floor(random() * most);
  let bytes = [...whole.subarray(0, 20_000)];
  for (let times = 1 + upTo(4); times > 0; times--) {
    const at = upTo(bytes.length + 1);
    const length = upTo(Math.min(24, bytes.length - at + 1));
    const piece = bytes.slice(at, at + length);
    switch (upTo(5)) {
      case 0:
        bytes[at] = telling[upTo(telling.length)]!;
        break;
      case 1:
        bytes.splice(at, length);
        break;
      case 2:
        bytes.splice(at, 0, ...Array.from({ length: 1 + upTo(8) }, () => piece).flat());
        break;
      case 3:
        bytes.splice(upTo(bytes.length), 0, ...piece);
        break;
      default:
        bytes = bytes.slice(0, at);
    }
  }
  return Uint8Array.from(bytes, each => each ?? 0);
}
