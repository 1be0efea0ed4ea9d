import fc from 'fast-check';
import { compileChain, newStep, optionInList, readOptionList, withPair, writeOptionList } from '.';

const text = 'Low = 1\nSevere = 3\n\nFoam\nA = B = C';

test('a list is read by lines, and written again', () => {
  expect(readOptionList(text)).toEqual({
    pairs: [
      { answer: 'Low', option: '1' },
      { answer: 'Severe', option: '3' },
      { answer: 'A', option: 'B = C' },
    ],
    listed: ['Foam'],
  });
  expect(writeOptionList(readOptionList(text))).toBe('Low = 1\nSevere = 3\nA = B = C\nFoam');
});

test('an option for an answer takes the place of the one before; null takes it away', () => {
  const list = readOptionList(text);
  expect(optionInList(withPair(list, 'Severe', '4'), 'Severe')).toBe('4');
  expect(optionInList(withPair(list, 'Severe', null), 'Severe')).toBeUndefined();
  expect(optionInList(withPair(list, 'foam!', 'Foam'), 'foam!')).toBe('Foam');
  expect(optionInList(withPair(list, 'Foam', '9'), 'Foam')).toBe('9');
});

// What the table shows is what the step gives.
test('what a list says of an answer is what the step makes of it', () => {
  const word = fc.constantFrom('Low', 'low', 'Severe', 'Foam', 'foam.', '1', '3', 'Eels', 'B');
  fc.assert(
    fc.property(fc.array(fc.tuple(word, fc.option(word)), { maxLength: 6 }), word, (lines, answer) => {
      const options = lines.map(([one, other]) => (other === null ? one : `${one} = ${other}`)).join('\n');
      const step = newStep('choice.match', { options, otherwise: 'blank', nearest: 1 });
      expect(compileChain([step]).run(answer)).toBe(optionInList(readOptionList(options), answer) ?? '');
    }),
  );
});
