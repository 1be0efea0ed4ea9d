import { isAmong, type Row } from './useRows';

const row = (part: Partial<Row>): Row => ({
  sample: {} as Row['sample'],
  index: 0,
  isKnown: true,
  goes: true,
  sends: true,
  isTroubled: false,
  ...part,
});

test.each<[string, Partial<Row>, boolean, boolean]>([
  ['what can go', {}, false, false],
  ['a line in trouble that passes', { isTroubled: true }, true, false],
  ['what can’t go', { sends: false }, true, false],
  ['what is left out', { goes: false, sends: false, isTroubled: true }, false, true],
  ['what is not rehearsed yet is neither', { isKnown: false, goes: false, sends: false }, false, false],
])('%s', (_, part, isTrouble, isOut) => {
  expect([isAmong(row(part), 'all'), isAmong(row(part), 'trouble'), isAmong(row(part), 'out')]).toEqual([
    true,
    isTrouble,
    isOut,
  ]);
});
