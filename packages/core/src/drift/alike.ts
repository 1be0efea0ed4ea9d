import { distance } from 'fastest-levenshtein';
import { plainText, wordsOf } from '../submission';

/** A wording or a name as it is compared: its words without marks, case and signs. */
export const bare = (text: string): string => plainText(wordsOf(text.normalize('NFC')).join(' '));

/** How much two texts are the same letter by letter: 1 for the same. */
const byLetters = (a: string, b: string): number =>
  a === '' || b === '' ? 0 : 1 - distance(a, b) / Math.max(a.length, b.length);

/** True for words that are forms of one another: `phone` and `phones`, `telephone`. */
const areKin = (a: string, b: string): boolean =>
  a === b || (Math.min(a.length, b.length) >= 4 && (a.includes(b) || b.includes(a))) || byLetters(a, b) >= 0.8;

/** What is only numbered otherwise is another thing: `Site 4` and `Site 7`. */
const numbersIn = (text: string): string => (text.match(/\p{N}+/gu) ?? []).join(' ');
const OTHER_NUMBER = 0.4;

/** How alike two wordings or names are, 0 to 1: word by word, and letter by letter. */
export function alike(a: string, b: string): number {
  const [one, other] = [bare(a), bare(b)];
  if (one === '' || other === '') return 0;
  if (one === other) return 1;
  const [these, those] = [numbersIn(one), numbersIn(other)];
  const isOtherNumber = these !== '' && those !== '' && these !== those;
  return Math.min(isOtherNumber ? OTHER_NUMBER : 1, inWords(one, other));
}

/** The same of bare texts with words in them. */
function inWords(one: string, other: string): number {
  const [these, those] = [one.split(' '), other.split(' ')];
  const kin = these.filter(word => those.some(each => areKin(word, each))).length;
  const back = those.filter(word => these.some(each => areKin(word, each))).length;
  const dice = (kin + back) / (these.length + those.length);
  // One that says all that the other says, and more.
  const whole = Math.max(kin / these.length, back / those.length) === 1 ? 0.75 : 0;
  return Math.max(dice, whole, byLetters(one, other));
}

/** Of two sets of texts, how many are in both, of those in either. */
export function shared(a: Iterable<string>, b: Iterable<string>): number {
  const [one, other] = [new Set([...a].map(bare)), new Set([...b].map(bare))];
  if (one.size === 0 || other.size === 0) return 0;
  const both = [...one].filter(each => other.has(each)).length;
  return both / (one.size + other.size - both);
}
