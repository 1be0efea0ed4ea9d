import { agreement, natureOf, natureOfTarget, optionShare, type MatchTarget, type SourceField } from './evidence';
import { isOpaque, meaningOf, overlap, type Meaning } from './words';

/** What is proposed for one field of the target. */
export interface Proposal {
  to: string;
  /** The source's key, or null where nothing is proposed. */
  from: string | null;
  /** 0 to 1. */
  score: number;
  /** The reason, in a sentence. */
  why: string;
  /** What is taken out of the source, where it holds more than belongs here. */
  part?: Part;
}

/** What can be taken out of a name or an address that was asked for as a whole. */
export type Part = 'given' | 'family' | 'street' | 'city' | 'postcode' | 'region' | 'country';

interface Candidate {
  score: number;
  why: string;
}

/** Below it nothing is proposed: no line is better than a wrong one. */
const THRESHOLD = 0.5;

/** What a target's part of a name or address can be taken out of. */
const wholes: Record<Part, string[]> = {
  given: ['fullname', 'name'],
  family: ['fullname', 'name'],
  street: ['address'],
  city: ['address'],
  postcode: ['address'],
  region: ['address'],
  country: ['address'],
};

const quoted = (field: { key: string; label?: string }) => `“${field.label?.trim() || field.key}”`;

const textsOf = ({ key, label }: { key: string; label?: string }): string[] => {
  const texts = [label?.trim(), isOpaque(key) ? undefined : key].filter(each => each !== undefined && each !== '');
  return [...new Set(texts as string[])];
};

/** Proposes which answer of a form goes into which field of a target, as one assignment over all of them. */
export function match(sources: SourceField[], targets: MatchTarget[]): Proposal[] {
  const direct = targets.map(target => sources.map(source => compare(source, target)));
  const chosen = assigned(direct);
  return targets.map((target, at): Proposal => {
    const index = chosen[at]!;
    const best = index < 0 ? null : direct[at]![index]!;
    if (best && best.score >= THRESHOLD)
      return { to: target.key, from: sources[index]!.key, score: rounded(best.score), why: best.why };
    const part = partFor(target, sources);
    return (
      part ?? { to: target.key, from: null, score: 0, why: 'Nothing asked there says or holds what belongs here.' }
    );
  });
}

const rounded = (score: number) => Math.round(Math.min(1, Math.max(0, score)) * 100) / 100;

/** How well an answer fits a field, and why. */
function compare(source: SourceField, target: MatchTarget): Candidate {
  const [from, to] = [natureOf(source), natureOfTarget(target)];
  const fits = agreement(from, to);
  const words = wordsAlike(source, target);
  const options = optionShare(source, target);
  const values = valueEvidence(source, target, from);
  let score = Math.max(words.score, options >= 0.5 ? 0.35 + 0.5 * options : 0, values);
  const reasons = [
    words.score >= 0.4 ? words.why : null,
    options >= 0.5 ? `${Math.round(options * 100)} % of the answers are among its options` : null,
    values > words.score ? `its answers are what belongs there` : null,
  ].filter(each => each !== null);
  if (options >= 0.5 && words.score >= 0.4) score += 0.1;
  if (target.options && target.options.length > 0 && (source.samples?.length ?? 0) > 0 && options === 0) score -= 0.15;
  score += fits > 0 ? 0.06 * fits : 0.35 * fits;
  if (fits > 0 && from !== 'text') reasons.push(`both are ${from === 'list' ? 'lists' : from}`);
  return { score, why: `${quoted(source)}: ${reasons.join('; ') || 'little in common'}.` };
}

/** What the words of both say, the best of label and key on either side. */
function wordsAlike(source: SourceField, target: MatchTarget): Candidate {
  let best: Candidate = { score: 0, why: '' };
  for (const a of textsOf(source))
    for (const b of textsOf(target)) {
      const found = alike(meaningOf(a), meaningOf(b), a, b);
      if (found.score > best.score) best = found;
    }
  // A field's description is long: it only helps.
  if (target.description && best.score < 0.6) {
    for (const a of textsOf(source)) {
      const found = alike(meaningOf(a), meaningOf(target.description), a, target.description);
      const helped = found.score * 0.75;
      if (helped > best.score) best = { score: helped, why: `its description says ${found.why}` };
    }
  }
  return best;
}

function alike(a: Meaning, b: Meaning, textA: string, textB: string): Candidate {
  const [mainA, mainB] = [a.concepts, b.concepts];
  const shared = mainA.find(each => mainB.some(other => isOne(each.id, other.id)));
  const common = overlap(a.stems, b.stems);
  const isSame =
    textA.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '') === textB.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '');
  let score = isSame ? 1 : 0.86 * common;
  let why = isSame ? 'the same words' : 'most words are the same';
  if (shared) {
    const extra = mainA.length + mainB.length - 2;
    const meant = (shared.isBroad ? 0.62 : 0.88) - 0.08 * Math.min(3, extra) + 0.1 * common;
    if (meant > score) [score, why] = [meant, 'both mean the same'];
  } else if (mainA.length > 0 && mainB.length > 0 && !isSame) {
    // Both speak plainly of different things, whatever else they share.
    score *= mainA.some(each => each.isBroad) || mainB.some(each => each.isBroad) ? 0.6 : 0.35;
  }
  const onlyA = [...a.qualifiers].filter(each => !b.qualifiers.has(each));
  const onlyB = [...b.qualifiers].filter(each => !a.qualifiers.has(each));
  if (onlyA.length > 0 && onlyB.length > 0) score -= 0.55;
  else if (onlyB.length > 0) score -= isSided(onlyB) ? 0.5 : 0.18;
  else if (onlyA.length > 0) score -= isSided(onlyA) ? 0.55 : 0.1;
  return { score, why };
}

/** A name asked for without more is a full name. */
const isOne = (a: string, b: string): boolean => {
  const whole = (id: string) => (id === 'name' ? 'fullname' : id);
  return whole(a) === whole(b);
};

/** Qualifiers that make it another person's or another use: never the plain one. */
const isSided = (ids: string[]) =>
  ids.some(id => ['emergency', 'parent', 'child', 'partner', 'manager', 'second', 'created'].includes(id));

/** Answers that can only be one thing, where the words say nothing. */
function valueEvidence(source: SourceField, target: MatchTarget, nature: string): number {
  if (textsOf(source).some(text => meaningOf(text).concepts.some(each => !each.isBroad))) return 0;
  const wants = textsOf(target).flatMap(text => meaningOf(text).concepts.map(each => each.id));
  const telling: Record<string, string> = { email: 'email', phone: 'phone', url: 'website', files: 'file' };
  const concept = telling[nature];
  return concept !== undefined &&
    wants.includes(concept) &&
    textsOf(target).every(text => meaningOf(text).qualifiers.size === 0)
    ? 0.62
    : 0;
}

/** A part of a compound: the family name out of a full name, the town out of a one-box address. */
function partFor(target: MatchTarget, sources: SourceField[]): Proposal | null {
  const meanings = textsOf(target).map(meaningOf);
  const isPart = (id: string): id is Part => id in wholes;
  const part = meanings.flatMap(each => each.concepts.map(({ id }) => id)).find(isPart);
  if (!part) return null;
  const asked = new Set(meanings.flatMap(each => [...each.qualifiers]));
  for (const whole of wholes[part]) {
    const found = sources.find(source =>
      textsOf(source).some(text => {
        const meaning = meaningOf(text);
        const only = meaning.concepts.filter(each => each.id !== 'name' || whole === 'name');
        const sameOne =
          [...meaning.qualifiers].filter(isOther).every(each => asked.has(each)) &&
          [...asked].filter(isOther).every(each => meaning.qualifiers.has(each));
        return sameOne && only.some(each => each.id === whole) && !only.some(each => each.id === 'company');
      }),
    );
    if (found)
      return {
        to: target.key,
        from: found.key,
        score: 0.72,
        why: `A part of ${quoted(found)}, which holds it whole.`,
        part,
      };
  }
  return null;
}

const isOther = (id: string) => !['home', 'created'].includes(id);

/**
 * One source for each target so that the sum is greatest (the assignment problem; Kuhn 1955, Munkres 1957, in the form
 * with potentials). -1 where the best is none.
 */
function assigned(candidates: Candidate[][]): number[] {
  const rows = candidates.length;
  const columns = candidates[0]?.length ?? 0;
  if (rows === 0 || columns === 0) return candidates.map(() => -1);
  // A column of its own for each target stands for “nothing”.
  const width = columns + rows;
  const cost = (row: number, column: number) => {
    if (column >= columns) return -THRESHOLD;
    const { score } = candidates[row]![column]!;
    return score < THRESHOLD ? 1 : -score;
  };
  const u = new Float64Array(rows + 1);
  const v = new Float64Array(width + 1);
  const owner = new Int32Array(width + 1);
  const way = new Int32Array(width + 1);
  for (let row = 1; row <= rows; row++) {
    owner[0] = row;
    let column = 0;
    const least = new Float64Array(width + 1).fill(Infinity);
    const used = new Uint8Array(width + 1);
    do {
      used[column] = 1;
      const current = owner[column]!;
      let delta = Infinity;
      let next = 0;
      for (let at = 1; at <= width; at++) {
        if (used[at]) continue;
        const reduced = cost(current - 1, at - 1) - u[current]! - v[at]!;
        if (reduced < least[at]!) {
          least[at] = reduced;
          way[at] = column;
        }
        if (least[at]! < delta) {
          delta = least[at]!;
          next = at;
        }
      }
      for (let at = 0; at <= width; at++) {
        if (used[at]) {
          u[owner[at]!] = u[owner[at]!]! + delta;
          v[at] = v[at]! - delta;
        } else least[at] = least[at]! - delta;
      }
      column = next;
    } while (owner[column] !== 0);
    do {
      const previous = way[column]!;
      owner[column] = owner[previous]!;
      column = previous;
    } while (column !== 0);
  }
  const chosen = new Array<number>(rows).fill(-1);
  for (let at = 1; at <= columns; at++) if (owner[at]! > 0) chosen[owner[at]! - 1] = at - 1;
  return chosen;
}
