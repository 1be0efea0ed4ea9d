import type { Json } from '../submission';
import type { TargetField } from '../target';
import { targetField } from '../testing';
import { compileChain } from '../transform';
import { cleaningFor } from './cleaning';

const cleaned = (of: Partial<TargetField>, values: Json[], kind: 'choice' | 'choices' = 'choice') => {
  const chain = compileChain(cleaningFor({ kind, options: [] }, values, targetField('skill', of)));
  expect(chain.faults).toEqual([]);
  return values.map(each => chain.run(each));
};
const named = { options: ['7', '9'], optionNames: { 7: 'Grafting', 9: 'Bank walks' } };
test('what people chose becomes what is sent', () => {
  expect(cleaned({ type: 'choice', ...named }, ['Grafting', 'bank walks'])).toEqual(['7', '9']);
  expect(cleaned({ type: 'integer', ...named }, ['Grafting', 'bank walks'])).toEqual([7, 9]);
  expect(cleaned({ type: 'choices', ...named }, [['Grafting', 'bank walks']], 'choices')).toEqual([['7', '9']]);
  expect(cleaned({ type: 'choices', items: 'integer', ...named }, [['Grafting', 'Bank walks']], 'choices')).toEqual([
    [7, 9],
  ]);
});
