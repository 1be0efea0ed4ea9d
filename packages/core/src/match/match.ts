import { assigned } from './assignment';
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
  /** The questions that it is composed of, where they ask for its parts; each with what stands before it. */
  composed?: { from: string; before: string }[];
}

/** What can be taken out of a name or an address that was asked for as a whole. */
export type Part = 'given' | 'family' | 'street' | 'city' | 'postcode' | 'region' | 'country';

interface Candidate {
  score: number;
  why: string;
}

/** Below it nothing is proposed: no line is better than a wrong one. */
const THRESHOLD = 0.5;

/** What a whole name or address is composed of, where its parts were asked for apart; some it can do without. */
const compositions: { of: string[]; between: string; parts: Part[]; optional?: Part }[] = [
  { of: ['fullname', 'name'], between: ' ', parts: ['given', 'family'] },
  { of: ['address'], between: ', ', parts: ['street', 'postcode', 'city'], optional: 'postcode' },
];

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
  const named = isOpaque(key) ? undefined : key;
  // A key and a label often say more together: `visit_slot`, “Preferred slot”.
  const together = label && named && label.length < 60 ? `${label} ${named}` : undefined;
  return [...new Set([label?.trim(), named, together].filter(each => each !== undefined && each !== '') as string[])];
};

/** Proposes which answer of a form goes into which field of a target, as one assignment over all of them. */
export function match(sources: SourceField[], targets: MatchTarget[]): Proposal[] {
  const meant = inContext(sources);
  const direct = targets.map(target => sources.map((source, at) => compare(source, meant[at]!, target)));
  const chosen = assigned(direct, THRESHOLD);
  return targets.map((target, at): Proposal => {
    const index = chosen[at]!;
    const best = index < 0 ? null : direct[at]![index]!;
    if (best && best.score >= THRESHOLD)
      return { to: target.key, from: sources[index]!.key, score: rounded(best.score), why: best.why };
    return (
      partFor(target, sources) ??
      composedFor(target, targets, meant, sources) ?? {
        to: target.key,
        from: null,
        score: 0,
        why: 'Nothing asked there says or holds what belongs here.',
      }
    );
  });
}

/**
 * The questions with what they mean beside the others: a “Name” beside a given name is the family name (Nom beside
 * Prénom), and beside a family name it is the given one (Nombre beside Apellidos).
 */
function inContext(sources: SourceField[]): SourceField[] {
  const read = sources.map(source => textsOf(source).map(meaningOf));
  const has = (at: number, id: string) => read[at]!.some(each => each.concepts.some(one => one.id === id));
  const isBareName = (at: number) =>
    read[at]!.length > 0 &&
    read[at]!.every(each => each.concepts.length === 1 && each.concepts[0]!.id === 'name' && each.stems.length <= 1);
  const whose = (at: number) => [...new Set(read[at]!.flatMap(each => [...each.qualifiers]))].sort().join(' ');
  return sources.map((source, at) => {
    if (!isBareName(at)) return source;
    const beside = (id: string) =>
      sources.some((_, other) => other !== at && has(other, id) && whose(other) === whose(at));
    const [given, family] = [beside('given'), beside('family')];
    if (given === family) return source;
    return { ...source, key: 'q', label: given ? 'family name' : 'given name' };
  });
}

const rounded = (score: number) => Math.round(Math.min(1, Math.max(0, score)) * 100) / 100;

/** How well an answer fits a field, and why. */
function compare(source: SourceField, meant: SourceField, target: MatchTarget): Candidate {
  const [from, to] = [natureOf(source), natureOfTarget(target)];
  const fits = agreement(from, to);
  const words = wordsAlike(meant, target);
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
  const near = mainA.find(each => mainB.some(other => areNear(each.id, other.id)));
  const common = overlap(a.stems, b.stems);
  const isSame =
    textA.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '') === textB.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '');
  let score = isSame ? 1 : 0.86 * common;
  let why = isSame ? 'the same words' : 'most words are the same';
  if (shared) {
    const extra = mainA.length + mainB.length - 2;
    const meant = (shared.isBroad ? 0.62 : 0.88) - 0.08 * Math.min(3, extra) + 0.1 * common;
    if (meant > score) [score, why] = [meant, 'both mean the same'];
  } else if (near) {
    if (NEAR > score) [score, why] = [NEAR, 'both mean nearly the same'];
  } else if (mainA.length > 0 && mainB.length > 0 && !isSame) {
    // Both speak plainly of different things, whatever else they share.
    score *= mainA.some(each => each.isBroad) || mainB.some(each => each.isBroad) ? 0.6 : 0.35;
  }
  const onlyA = [...a.qualifiers].filter(each => !b.qualifiers.has(each));
  const onlyB = [...b.qualifiers].filter(each => !a.qualifiers.has(each));
  // Whose it is matters for what belongs to a person; what is asked of one person alone needs no saying whose it is.
  const isPersonal = [...mainA, ...mainB].some(each => personal.has(each.id));
  const weight = isPersonal ? 1 : 0.3;
  if (onlyA.length > 0 && onlyB.length > 0) score -= 0.55;
  else if (onlyB.length > 0) score -= isSided(onlyB) ? 0.5 * weight : 0.18;
  else if (onlyA.length > 0) score -= isSided(onlyA) ? 0.55 * weight : 0.1;
  return { score, why };
}

/** Of concepts that one question may stand for the other. */
const NEAR = 0.6;
const nearOnes = [
  ['message', 'description'],
  ['interests', 'skills'],
  ['deadline', 'end'],
  ['arrival', 'start'],
  ['departure', 'end'],
];
const areNear = (a: string, b: string) => nearOnes.some(pair => pair.includes(a) && pair.includes(b) && a !== b);

/** Concepts of which every person has one. */
const personal = new Set([
  'given',
  'family',
  'fullname',
  'name',
  'email',
  'phone',
  'address',
  'street',
  'city',
  'postcode',
  'birthday',
  'fax',
]);

/** A name asked for without more is a full name. */
const isOne = (a: string, b: string): boolean => {
  const whole = (id: string) => (id === 'name' ? 'fullname' : id);
  return whole(a) === whole(b);
};

/** Qualifiers that make it another person's or another use: never the plain one. */
const isSided = (ids: string[]) =>
  ids.some(id => ['emergency', 'parent', 'child', 'partner', 'manager', 'second', 'created'].includes(id));

/** Answers that can only be one thing, where the words say nothing or speak of something else. */
function valueEvidence(source: SourceField, target: MatchTarget, nature: string): number {
  const concept = { email: 'email', phone: 'phone', url: 'website', files: 'file' }[nature];
  if (concept === undefined) return 0;
  const wanted = textsOf(target).map(meaningOf);
  const fits = wanted.some(each => each.concepts.some(({ id }) => id === concept)) || natureOfTarget(target) === nature;
  if (!fits) return 0;
  const sourceMeanings = textsOf(source).map(meaningOf);
  const of = (meanings: Meaning[]) => new Set(meanings.flatMap(each => [...each.qualifiers]).filter(isOther));
  const [mine, theirs] = [of(sourceMeanings), of(wanted)];
  const isOneOf = mine.size === theirs.size && [...mine].every(each => theirs.has(each));
  if (!isOneOf) return 0;
  const speaksOfElse = sourceMeanings.some(each => each.concepts.some(({ id, isBroad }) => !isBroad && id !== concept));
  return speaksOfElse ? 0.52 : 0.62;
}

/** A part of a compound: the family name out of a full name, the town out of a one-box address. */
function partFor(target: MatchTarget, sources: SourceField[]): Proposal | null {
  const meanings = textsOf(target).map(meaningOf);
  const isPart = (id: string): id is Part => id in wholes;
  const part = meanings.flatMap(each => each.concepts.map(({ id }) => id)).find(isPart);
  if (!part) return null;
  const asked = new Set(meanings.flatMap(each => [...each.qualifiers]));
  // Where the part is asked for by itself, the whole is somebody else's.
  const isAskedApart = sources.some(source =>
    textsOf(source).some(text => meaningOf(text).concepts.some(each => each.id === part)),
  );
  if (isAskedApart && ![...asked].some(isOther)) return null;
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

/** A whole whose parts were asked for apart: the full name out of a given and a family name. None where the target takes the parts. */
function composedFor(
  target: MatchTarget,
  targets: MatchTarget[],
  meant: SourceField[],
  sources: SourceField[],
): Proposal | null {
  if (target.options?.length || natureOfTarget(target) !== 'text') return null;
  const conceptsOf = (field: SourceField | MatchTarget) =>
    textsOf(field)
      .map(meaningOf)
      .flatMap(each => each.concepts.map(({ id }) => id));
  const sideOf = (field: SourceField | MatchTarget) =>
    [...new Set(textsOf(field).flatMap(text => [...meaningOf(text).qualifiers].filter(isOther)))].sort().join(' ');
  const asked = conceptsOf(target);
  const composition = compositions.find(({ of }) => asked.length > 0 && asked.every(id => of.includes(id)));
  if (!composition) return null;
  const { parts, optional, between } = composition;
  if (targets.some(each => each !== target && conceptsOf(each).some(id => (parts as string[]).includes(id))))
    return null;
  const side = sideOf(target);
  const found = parts.map(part => ({
    part,
    source: sources[meant.findIndex(each => conceptsOf(each).includes(part) && sideOf(each) === side)],
  }));
  if (found.some(({ part, source }) => !source && part !== optional)) return null;
  const composed = found.flatMap(({ source }) => source ?? []);
  return {
    to: target.key,
    from: composed[0]!.key,
    score: 0.72,
    why: `Composed of ${composed.map(quoted).join(' and ')}.`,
    composed: composed.map(({ key }, at) => ({ from: key, before: at === 0 ? '' : between })),
  };
}

const isOther = (id: string) => !['home', 'created'].includes(id);
