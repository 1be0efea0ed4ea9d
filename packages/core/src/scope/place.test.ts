import type { Json } from '../submission';
import { itemPick, itemToken, placeAt, placeWords, type ItemPick } from '.';

const answer: Json = {
  items: [
    { id: 1, name: 'Foam', tags: ['a', 'b'], of: { town: 'Elden' } },
    { id: 2, name: 'Oil / sheen', tags: [], of: { town: 'Withy' } },
    { id: 3, name: 'Foam' },
  ],
  '@last': { id: 'not a list' },
  words: ['x', 'y'],
};

test.each<[string, Json | undefined]>([
  ['', answer],
  ['/items/0/id', 1],
  ['/items/@first/id', 1],
  ['/items/@last/id', 3],
  ['/items/@each/id', [1, 2, 3]],
  ['/items/@each/of/town', ['Elden', 'Withy']],
  ['/items/@each/tags/@last', ['b']],
  ['/items/@name=Foam/id', 1],
  ['/items/@name=Oil ~1 sheen/id', 2],
  ['/items/@of~1town=Withy/id', 2],
  ['/items/@name=Nobody/id', undefined],
  ['/words/@.=y', 'y'],
  ['/words/@last', 'y'],
  ['/words/@each', ['x', 'y']],
  // Only lists have items to pick: a member may be called anything.
  ['/@last/id', 'not a list'],
  ['/items/last/id', undefined],
  ['/items/01/id', undefined],
  ['/words/@last/id', undefined],
  ['/nowhere/@each', undefined],
])('%s', (pointer, value) => expect(placeAt(answer, pointer)).toEqual(value));

test.each<[string, ItemPick | null]>([
  ['@first', { pick: 'first' }],
  ['@last', { pick: 'last' }],
  ['@each', { pick: 'each' }],
  ['@name=a=b', { pick: 'whose', part: 'name', is: 'a=b' }],
  ['@of/town=', { pick: 'whose', part: 'of/town', is: '' }],
  ['last', null],
  ['@', null],
  ['@type', null],
])('the token %s', (token, item) => {
  expect(itemPick(token)).toEqual(item);
  if (item) expect(itemToken(item)).toBe(token);
});

test.each([
  ['', ''],
  ['/tag/id', 'tag.id'],
  ['/items/@first/id', 'id of the first of items'],
  ['/items/@each/name', 'name of each of items'],
  ['/items/@name=Foam/id', 'id of the one of items whose name is Foam'],
])('%s reads “%s”', (pointer, words) => expect(placeWords(pointer)).toBe(words));
