import { decode, KnownShapes } from '@grammata/core/decode';
import { canonical, valueAt, withValueAt, type Json } from '@grammata/core/submission';
import { payloads } from './score';

const type = 'application/json';
const bytes = (document: Json) => new TextEncoder().encode(JSON.stringify(document));

/** A hard payload of one submission, and the same with more to say in its longer answers. */
const variants = payloads.flatMap(({ name, contentType, text }) => {
  if (!contentType?.includes('json') || text === undefined) return [];
  const document = parsed(text);
  if (document === undefined) return [];
  const { envelope, submissions } = decode(bytes(document), type);
  const [only, ...more] = submissions;
  if (!envelope?.isSure || envelope.splitAt !== null || !only || more.length > 0) return [];
  const saying = (words: string): Json => {
    const other = structuredClone(document);
    for (const { pointer } of only.fields) {
      const value = pointer === undefined ? undefined : valueAt(other, pointer);
      if (typeof value === 'string' && /\s/.test(value) && !/^[[{"]/.test(value))
        withValueAt(other, pointer!, `${value} ${words}`);
    }
    return other;
  };
  return [[name, saying] as const];
});

function parsed(text: string): Json | undefined {
  try {
    return JSON.parse(text) as Json;
  } catch {
    return undefined;
  }
}

/** Payloads that a reader was made for when this was written: a part of a result stands nowhere in the others as it was read. */
const KNOWN = 37;

test('a shape that is known reads as the search does, and most shapes get to be known', () => {
  expect(variants.length).toBeGreaterThan(50);
  const known = variants.filter(([, saying]) => {
    const shapes = new KnownShapes();
    for (const words of ['indeed', 'as ever', 'for now']) decode(bytes(saying(words)), type, '', {}, {}, shapes);
    const last = saying('at last');
    const isKnown = shapes.read('json', last) !== null;
    const read = decode(bytes(last), type, '', {}, {}, shapes).submissions;
    expect(canonical(read as unknown as Json)).toBe(
      canonical(decode(bytes(last), type).submissions as unknown as Json),
    );
    return isKnown;
  });
  expect(known.length).toBeGreaterThanOrEqual(KNOWN);
});
