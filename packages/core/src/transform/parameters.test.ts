import { validateSync } from 'class-validator';
import fc from 'fast-check';
import { newStep, stepIds, transformOf, transforms, compileChain } from '.';
import { readParameters } from './parameters';

test('there is a transform for each identifier, and no other', () => {
  expect(transforms.map(each => each.id).sort()).toEqual([...stepIds].sort());
  expect(transformOf('list.pick')).toBeUndefined();
});

const value = fc.oneof(
  fc.constantFrom<unknown>(
    undefined,
    null,
    true,
    false,
    '',
    'both',
    'upper',
    0,
    1,
    -1,
    1.5,
    1e9,
    Number.NaN,
    [],
    {},
    ['a'],
    [1],
  ),
  fc.string(),
  fc.constant('x'.repeat(3000)),
);

// The reference is the library that the rules are written for.
test.each(transforms.map(each => [each.id, each] as const))(
  '%s: parameters are taken and refused as class-validator does',
  (_, transform) => {
    const names = [...new Set([...Object.keys(new transform.params()), ...transform.asks.map(each => each.name)])];
    fc.assert(
      fc.property(fc.record(Object.fromEntries(names.map(name => [name, value])), { requiredKeys: [] }), given => {
        const known = Object.fromEntries(Object.entries(given).filter(([name]) => names.includes(name)));
        const reference = validateSync(Object.assign(new transform.params(), known), { forbidUnknownValues: false });
        const read = readParameters(transform.params, given as Record<string, unknown>);
        expect('fault' in read).toBe(reference.length > 0);
        if ('fault' in read) expect(read.fault).not.toBe('');
      }),
      { numRuns: 150 },
    );
  },
);

test('what no transform asks for does not come along', () => {
  const read = readParameters(transformOf('text.trim')!.params, {
    collapse: false,
    other: 1,
    __proto__: { collapse: 3 },
  });
  expect(read).toEqual({ params: { collapse: false } });
});

test('what is wrong is said in words', () => {
  expect(compileChain([newStep('list.item', { number: 0 })]).faults).toMatchObject([
    { code: 'step.params', message: '“List item”: number must not be less than 1.' },
  ]);
});
