import { OperationFieldInput } from '@grammata/contract';
import { followsItsName, optionLines, optionsFrom, placeFor, pointerFrom, textOfValue, typedValue } from './values';

test.each<[string, Parameters<typeof typedValue>[0]['type'], unknown]>([
  ['', 'text', undefined],
  [' Foam ', 'text', 'Foam'],
  ['7.4', 'number', 7.4],
  ['seven', 'number', 'seven'],
  ['true', 'boolean', true],
  ['perhaps', 'boolean', 'perhaps'],
  ['Foam, Litter', 'choices', ['Foam', 'Litter']],
  ['["a, b"]', 'choices', ['a, b']],
  ['{"a":1}', 'json', { a: 1 }],
  ['{"a":', 'json', '{"a":'],
  ['7', 'text', '7'],
])('“%s” typed for %s', (text, type, value) => expect(typedValue({ type }, text)).toEqual(value));

test('a list of numbers is one of numbers, and what is none stays', () =>
  expect(typedValue({ type: 'choices', items: 'integer' }, '71, x')).toEqual([71, 'x']));

test.each([['Foam'], [7], [true], [['a']], [{ a: 1 }]])('%j is typed as it is shown', value =>
  expect(typeof value === 'string' ? textOfValue(value) : JSON.parse(textOfValue(value))).toEqual(value),
);

test('a field stands where its name says, until it is moved', () => {
  expect(placeFor('contact.email', undefined)).toBe('/contact/email');
  expect(placeFor('a/b', undefined)).toBe('/a~1b');
  expect(placeFor('X-Trace', 'header')).toBe('X-Trace');
  const field = { ...new OperationFieldInput(), key: 'mail', pointer: '/mail' };
  expect(followsItsName(field)).toBe(true);
  expect(followsItsName({ ...field, pointer: '/contact/mail' })).toBe(false);
  expect(pointerFrom('contact.email')).toBe('/contact/email');
  expect(pointerFrom('/a~1b')).toBe('/a~1b');
});

test('options are lines, and lines options', () => {
  const options = { options: ['s1', 'Foam'], optionNames: { s1: 'Grafting = and more' } };
  expect(optionLines(options)).toBe('s1 = Grafting = and more\nFoam');
  expect(optionsFrom(optionLines(options))).toEqual(options);
  expect(optionsFrom(' \n')).toEqual({ options: null, optionNames: undefined });
});
