import fc from 'fast-check';
import { applyPatch } from 'fast-json-patch';
import { patchOf, valueChanges, type Json } from '.';

describe('differences of bodies', () => {
  test('as a patch (RFC 6902), applied by fast-json-patch, they give the new body', () => {
    // The other side refuses to change what is called `__proto__`.
    const json = fc
      .jsonValue({ maxDepth: 4 })
      .map(each => each as Json)
      .filter(each => !JSON.stringify(each).includes('__proto__'));
    fc.assert(
      fc.property(json, json, (before, after) => {
        const patched = applyPatch(
          structuredClone({ root: before }),
          patchOf(valueChanges({ root: before }, { root: after })),
        ).newDocument;
        expect(JSON.parse(JSON.stringify(patched))).toEqual(JSON.parse(JSON.stringify({ root: after })));
      }),
      { numRuns: 500 },
    );
  });
  test.each<[string, Json, Json, unknown[]]>([
    ['the order of members is none', { a: 1, b: 2 }, { b: 2, a: 1 }, []],
    ['a value', { a: { b: 1 } }, { a: { b: 2 } }, [{ pointer: '/a/b', before: 1, after: 2 }]],
    ['one that is gone', { a: 1, 'x/y': 2 }, { a: 1 }, [{ pointer: '/x~1y', before: 2, after: undefined }]],
    [
      'a list of another length, as a whole',
      { a: [1] },
      { a: [1, 2] },
      [{ pointer: '/a', before: [1], after: [1, 2] }],
    ],
    ['an item of a list', [1, 2], [1, 3], [{ pointer: '/1', before: 2, after: 3 }]],
    ['another kind of value', { a: 1 }, { a: [1] }, [{ pointer: '/a', before: 1, after: [1] }]],
  ])('%s', (_, before, after, changes) => expect(valueChanges(before, after)).toEqual(changes));
});
