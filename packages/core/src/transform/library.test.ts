import fc from 'fast-check';
import { validateSync } from 'class-validator';
import { isBlank, type Json } from '../submission';
import { compileChain, isProblem, transforms } from '.';

const cases = transforms.flatMap(transform => transform.examples.map(example => [transform.id, example] as const));

test.each(cases)('%s: %j', (id, { params, in: value, out }) => {
  const result = compileChain([{ id, params: { ...params } }]).run(value);
  if (typeof out === 'object' && out !== null && !Array.isArray(out) && 'problem' in out)
    expect(result).toMatchObject({ code: out.problem });
  else expect(result).toEqual(out);
});

describe.each(transforms.map(transform => [transform.id, transform] as const))('%s', (_, transform) => {
  const params = new transform.params();

  test('its defaults are valid, its parameters are all asked for, and it explains itself', () => {
    expect(validateSync(params, { forbidUnknownValues: false })).toEqual([]);
    const known = new Set([
      ...Object.keys(params),
      ...transform.examples.flatMap(example => Object.keys(example.params)),
    ]);
    expect(new Set(transform.asks.map(ask => ask.name))).toEqual(known);
    expect(transform.explain(params)).toMatch(/\S/);
    expect(transform.examples.length).toBeGreaterThan(3);
  });

  test('never throws, and lets blanks through', () => {
    const chain = compileChain([{ id: transform.id, params: { ...params } }]);
    fc.assert(
      fc.property(fc.jsonValue(), value => {
        const result = chain.run(value as Json);
        expect(isProblem(result) || result !== undefined).toBe(true);
        if (isProblem(result)) expect(result.code).not.toBe('transform.fault');
      }),
    );
    for (const blank of [null, '', '  ', {}]) expect(chain.run(blank)).toEqual(blank);
    expect(isBlank(chain.run([]) as Json)).toBe(true);
  });
});

test.each(['text.trim', 'text.case', 'list.read', 'number.read'])('%s done twice is done once', id => {
  const chain = compileChain([{ id, params: {} }]);
  fc.assert(
    fc.property(fc.string(), text => {
      const once = chain.run(text);
      if (!isProblem(once)) expect(chain.run(once)).toEqual(once);
    }),
  );
});

test('a list that was joined is read back', () => {
  const there = compileChain([
    { id: 'list.join', params: { separator: '; ' } },
    { id: 'list.read', params: { separator: ';' } },
  ]);
  const item = fc.stringMatching(/^[^;\s[](?:[^;]*[^;\s])?$/);
  fc.assert(fc.property(fc.array(item, { minLength: 1 }), items => expect(there.run(items)).toEqual(items)));
});

// RFC 3339 §5.8, each example as an instant in UTC. The leap second is left out: no calendar library has one.
test.each([
  ['1985-04-12T23:20:50.52Z', '1985-04-12T23:20:50.520Z'],
  ['1996-12-19T16:39:57-08:00', '1996-12-20T00:39:57Z'],
  ['1937-01-01T12:00:27.87+00:20', '1937-01-01T11:40:27.870Z'],
])('RFC 3339 §5.8: %s', (text, instant) =>
  expect(compileChain([{ id: 'date.format', params: { to: 'iso' } }]).run(text)).toBe(instant),
);

test.each([
  ['2026-10-25 00:30', '2026-10-24T23:30:00Z'],
  ['2026-10-25 02:30', '2026-10-25T02:30:00Z'],
  ['29/3/2026 0:59', '2026-03-29T00:59:00Z'],
  ['29/3/2026 2:00', '2026-03-29T01:00:00Z'],
])('across the change of the clocks in London: %s', (text, instant) =>
  expect(compileChain([{ id: 'date.format', params: { to: 'iso', zone: 'Europe/London' } }]).run(text)).toBe(instant),
);
