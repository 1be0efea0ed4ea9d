/**
 * The words of an identifier or a label, lower-cased: `submittedAt`, `submitted_at` and `Submitted at` all give
 * `['submitted', 'at']`.
 */
export function wordsOf(name: string): string[] {
  return name
    .replace(/(\p{Ll}|\d)(\p{Lu})/gu, '$1 $2')
    .replace(/(\p{Lu})(\p{Lu}\p{Ll})/gu, '$1 $2')
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean);
}

/** A readable label made from a key: `water_temp[]` gives `Water temp`. A key that is a sentence stays as it is. */
export function labelFromKey(key: string): string {
  const before = labels.get(key);
  if (before !== undefined) return before;
  const label = labelMadeOf(key);
  if (key.length <= LONGEST_KNOWN) {
    if (labels.size > MOST_KNOWN) labels.clear();
    labels.set(key, label);
  }
  return label;
}

/** Labels that were made before: the rows of a table repeat their keys. */
const labels = new Map<string, string>();
const MOST_KNOWN = 20_000;
/** Characters. */
const LONGEST_KNOWN = 200;

function labelMadeOf(key: string): string {
  if (/\s/.test(key.trim()) || /^\p{Lu}[\p{L}]*(-\p{L}+)+$/u.test(key)) return key.trim();
  const words = wordsOf(key).join(' ');
  return words ? words[0]!.toUpperCase() + words.slice(1) : key;
}

/** A text as it is compared where case, accents and punctuation do not matter: `Düne (AB-07)` gives `dune ab 07`. */
export const plainText = (text: string): string =>
  text
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();
