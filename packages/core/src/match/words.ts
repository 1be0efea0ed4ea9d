import { wordsOf } from '../submission';
import { concepts, fillers, qualifiers, type Concept } from './concepts';

/** What a text says: the concepts it names, which of several like things, and the words that are left. */
export interface Meaning {
  concepts: Concept[];
  qualifiers: Set<string>;
  /** Stems of the words that carry meaning, those of concepts too. */
  stems: string[];
}

const plain = (text: string) => text.replace(/ß/g, 'ss').normalize('NFD').replace(/\p{M}/gu, '');

/** Small letters without accents; `Lieferadresse` falls into what it is made of. */
function tokensOf(text: string): string[] {
  return wordsOf(plain(text)).flatMap(word => {
    const parts = compound.exec(word);
    return parts ? [parts[1]!, parts[2]!] : [word];
  });
}

// German compounds of what is delivered, billed or feared with what it belongs to (common practice, no source).
const compound =
  /^(rechnungs|liefer|versand|notfall|privat|firmen|geburts|start|end)(adresse|anschrift|strasse|ort|land|kontakt|telefon|nummer|mail|email|name)$/;

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
  const meaning: Meaning = {
    concepts: narrowed([...new Set(found)]),
    qualifiers: new Set(
      tokens.flatMap(word => {
        const id = qualifierOf.get(word);
        return id === undefined || (named.has(word) && (id === 'start' || id === 'end')) ? [] : [id];
      }),
    ),
    stems: [...new Set(tokens.filter(word => !fillers.has(word) && !/^\d+$/.test(word)).map(stemOf))],
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

/** How much of two sets of words is common, 0 to 1; the smaller set counts more. */
export function overlap(a: string[], b: string[]): number {
  if (a.length === 0 || b.length === 0) return 0;
  const common = a.reduce((sum, word) => sum + Math.max(0, ...b.map(other => likeness(word, other))), 0);
  const [small, large] = [Math.min(a.length, b.length), Math.max(a.length, b.length)];
  return 0.65 * Math.min(1, common / small) + 0.35 * Math.min(1, common / large);
}
