import { compileChain, Problem } from '.';

const chain = [
  { id: 'list.read', params: {} },
  { id: 'text.case', params: { to: 'lower' } },
  { id: 'list.join', params: { separator: ';' } },
];

test('runs its steps in order and explains them in words', () => {
  const compiled = compileChain(chain);
  expect(compiled.run('["Foam","Oil sheen"]')).toBe('foam;oil sheen');
  expect(compiled.explain).toEqual(['read as list', 'lower case', 'joined with “;”']);
});

test('tells the value after each step', () => {
  expect(
    compileChain(chain)
      .trace('["Foam","Oil sheen"]')
      .map(step => step.result),
  ).toEqual([['Foam', 'Oil sheen'], ['foam', 'oil sheen'], 'foam;oil sheen']);
});

test('a step that is off does nothing and is not explained', () => {
  const compiled = compileChain(chain.map((step, index) => ({ ...step, off: index === 1 })));
  expect(compiled.run(['Foam'])).toBe('Foam');
  expect(compiled.explain).toHaveLength(2);
  expect(compiled.trace(['Foam'])[1]).toMatchObject({ off: true, result: ['Foam'] });
});

test('stops at the first problem; what comes behind is not reached', () => {
  const compiled = compileChain([{ id: 'number.read', params: {} }, ...chain]);
  expect(compiled.run('none')).toBeInstanceOf(Problem);
  expect(compiled.trace('none')).toHaveLength(1);
});

test.each([
  [{ id: 'text.shout', params: {} }, 'step.unknown', 'Unknown cleaning step'],
  [{ id: 'text.case', params: { to: 'loud' } }, 'step.params', 'Change case'],
  [{ id: 'list.join', params: { separator: 7 } }, 'step.params', 'separator'],
])('a wrong step is a fault, told once, not a crash: %j', (step, code, says) => {
  const compiled = compileChain([step]);
  expect(compiled.faults).toMatchObject([{ step: 0, code, message: expect.stringContaining(says) }]);
  expect(compiled.run('x')).toMatchObject({ code });
});

test('an empty chain gives the value as it is', () => expect(compileChain([]).run({ a: 1 })).toEqual({ a: 1 }));
