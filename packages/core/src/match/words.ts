import { wordsOf } from '../submission';
import { concepts, fillers, qualifiers, wholes, type Concept } from './concepts';
import { synonyms } from './vocabulary';

/** What a text says: the concepts it names, which of several like things, and the words that are left. */
export interface Meaning {
  concepts: Concept[];
  qualifiers: Set<string>;
  /** Stems of the words that carry meaning, those of concepts too. */
  stems: string[];
}

const plain = (text: string) => text.replace(/ß/g, 'ss').normalize('NFD').replace(/\p{M}/gu, '');

const phrases = concepts
  .flatMap(each => each.phrases.map(phrase => ({ words: phrase.split(' '), concept: each })))
  .sort((a, b) => b.words.length - a.words.length);
const byFirst = new Map<string, typeof phrases>();
for (const phrase of phrases) byFirst.set(phrase.words[0]!, [...(byFirst.get(phrase.words[0]!) ?? []), phrase]);

const qualifierOf = new Map(
  Object.entries(qualifiers).flatMap(([id, words]) => words.map((word): [string, string] => [word, id])),
);

/** The word without the endings of plurals and cases: enough to tell that two words are one. */
export const stemOf = (word: string): string =>
  word.length > 4 ? word.replace(/(ies|ien)$/, 'y').replace(/(es|en|er|s|n|e)$/, '') : word.replace(/s$/, '');

/** The English word that stands for all that mean the same, by their stems. */
const canonical = new Map<string, string>();
for (const words of synonyms)
  for (const word of words) if (!canonical.has(stemOf(word))) canonical.set(stemOf(word), words[0]!);

/** Every word that is known to mean something; German compounds are made of these. */
const dictionary = new Set([
  ...canonical.keys(),
  ...phrases.flatMap(each => each.words).map(stemOf),
  ...[...qualifierOf.keys()].map(stemOf),
]);

/** The two words that a German compound is made of, with or without a joint between them; or the word itself. */
function decompounded(word: string): string[] {
  if (word.length < 8 || dictionary.has(stemOf(word)) || fillers.has(word)) return [word];
  for (let at = word.length - 3; at >= 3; at--) {
    const [left, right] = [word.slice(0, at), word.slice(at)];
    if (!dictionary.has(stemOf(right))) continue;
    const joined = [left, left.replace(/(s|n|es|en|er)$/, '')].find(
      each => each.length > 2 && dictionary.has(stemOf(each)),
    );
    if (joined !== undefined) return [joined, right];
  }
  return [word];
}

/** Small letters without accents; what is written together in German falls into its words. */
function tokensOf(text: string): string[] {
  const tokens = wordsOf(plain(text)).flatMap(decompounded);
  // “Invoice no.”, `member_no`: the last word of several is short for number.
  return tokens.map((word, at) => (at > 0 && at === tokens.length - 1 && /^(no|nr|num)$/.test(word) ? 'number' : word));
}

const wholeOf = new Map(
  Object.entries(wholes).flatMap(([id, words]) =>
    words.map(word => [word, concepts.find(each => each.id === id)!] as const),
  ),
);

const known = new Map<string, Meaning>();

/** What a label or key says. */
export function meaningOf(text: string): Meaning {
  const before = known.get(text);
  if (before) return before;
  const tokens = tokensOf(text);
  const found: Concept[] = [];
  const named = new Set<string>();
  for (let at = 0; at < tokens.length;) {
    const phrase = byFirst
      .get(tokens[at]!)
      ?.find(each => each.words.every((word, index) => tokens[at + index] === word));
    if (phrase) {
      found.push(phrase.concept);
      phrase.words.forEach(word => named.add(word));
    }
    at += phrase?.words.length ?? 1;
  }
  const whole = found.length === 0 ? wholeOf.get(tokens.join(' ')) : undefined;
  if (whole) found.push(whole);
  const meaning: Meaning = {
    concepts: narrowed([...new Set(found)]),
    qualifiers: new Set(
      tokens.flatMap((word, at) => {
        // English asks for a kind of something where German has a child.
        if (word === 'kind' && (tokens[at + 1] === 'of' || tokens[at - 1] === 'what')) return [];
        const id = qualifierOf.get(word);
        return id === undefined || (named.has(word) && (id === 'start' || id === 'end')) ? [] : [id];
      }),
    ),
    stems: [
      ...new Set(
        tokens
          .filter(word => !fillers.has(word) && !/^\d+$/.test(word))
          .map(word => canonical.get(stemOf(word)) ?? stemOf(word)),
      ),
    ],
  };
  if (known.size > 5000) known.clear();
  known.set(text, meaning);
  return meaning;
}

/** Beside a concept that says more, the broad ones say nothing. */
function narrowed(found: Concept[]): Concept[] {
  const sharp = found.filter(each => !each.isBroad);
  return sharp.length > 0 ? sharp : found;
}

/** True for a key that nobody could read: `q17`, `field_3`, `f1a2b3`. */
export const isOpaque = (key: string): boolean =>
  /^([a-z]{0,3}[_-]?\d+|(field|question|input|item|answer|col|column|entry|element|control|text|q|f)[\s_.-]*[\da-z]{0,3}\d*|[0-9a-f]{6,}|[0-9a-f-]{20,})$/i.test(
    key.trim(),
  );

/** How alike two words are, 0 to 1: the same stem, or most of it. */
function likeness(a: string, b: string): number {
  if (a === b) return 1;
  const short = Math.min(a.length, b.length);
  if (short < 4) return 0;
  let same = 0;
  while (same < short && a[same] === b[same]) same++;
  return same >= 4 && same / Math.max(a.length, b.length) > 0.7 ? 0.8 : 0;
}

/** Words that many questions share: alone they prove little. */
const common = new Set([
  'number',
  'quantity',
  'date',
  'name',
  'type',
  'time',
  'code',
  'id',
  'address',
  'contact',
  'person',
  'information',
  'answer',
  'day',
  'choice',
  'part',
  'status',
  'service',
  'preference',
  'need',
  'request',
  'group',
]);
const weightOf = (word: string) => (common.has(word) ? 0.5 : 1);
const total = (words: string[]) => words.reduce((sum, word) => sum + weightOf(word), 0);

/** How much of two sets of words is common, 0 to 1; the smaller set counts more. */
export function overlap(a: string[], b: string[]): number {
  if (a.length === 0 || b.length === 0) return 0;
  const shared = a.reduce(
    (sum, word) => sum + weightOf(word) * Math.max(0, ...b.map(other => likeness(word, other))),
    0,
  );
  const [small, large] = [Math.min(total(a), total(b)), Math.max(total(a), total(b))];
  return 0.65 * Math.min(1, shared / small) + 0.35 * Math.min(1, shared / large);
}
