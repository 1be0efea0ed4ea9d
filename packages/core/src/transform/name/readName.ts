export interface PersonName {
  prefix: string;
  given: string;
  middle: string;
  particle: string;
  family: string;
  suffix: string;
}

// Common practice, no source: titles, particles and suffixes of several European languages and their neighbours.
const prefixes =
  /^(mr|mrs|ms|miss|mx|dr|prof|sir|dame|rev|herr|frau|monsieur|madame|mme|mlle|m|señora?|sra?|signora?|ing|dipl)\.?$/i;
const suffixes = /^(jr|sr|junior|senior|ii|iii|iv|phd|md|esq|obe|mbe)\.?$/i;
const particles =
  /^(van|von|vom|zu|zum|zur|de|del|della|der|den|des|di|da|das|do|dos|du|la|le|las|los|ten|ter|af|av|bin|ibn|al|el|y|st\.?)$/i;

/** The parts of a name typed into one box. Of two words the last is the family name; with a comma, the first part is. */
export function readName(typed: string): PersonName {
  const name: PersonName = { prefix: '', given: '', middle: '', particle: '', family: '', suffix: '' };
  const text = withoutBrackets(typed).replace(/\s+/g, ' ').trim();
  const [first = '', ...others] = text.split(',').map(part => part.trim());
  // “Reed, Jr.” is a suffix; “Adeyemi, Morenike” is the family name first.
  const trailing = others.filter(part => part.split(' ').every(word => suffixes.test(word)));
  const turned = others.filter(part => part !== '' && !trailing.includes(part));
  name.suffix = trailing.join(' ');
  if (turned.length > 0) {
    const [given = '', ...middle] = takePrefix(turned.join(' ').split(' '), name);
    name.given = given;
    name.middle = middle.join(' ');
    const family = first.split(' ');
    while (family.length > 1 && particles.test(family[0]!)) name.particle = `${name.particle} ${family.shift()}`.trim();
    name.family = family.join(' ');
    return name;
  }
  const words = takePrefix(first.split(' ').filter(Boolean), name);
  while (words.length > 1 && suffixes.test(words.at(-1)!)) name.suffix = `${words.pop()} ${name.suffix}`.trim();
  name.given = words.shift() ?? '';
  if (words.length === 0) return name;
  const particle = words.findIndex((word, index) => particles.test(word) && index < words.length - 1);
  if (particle >= 0) {
    name.middle = words.slice(0, particle).join(' ');
    const rest = words.slice(particle);
    while (rest.length > 1 && particles.test(rest[0]!)) name.particle = `${name.particle} ${rest.shift()}`.trim();
    name.family = rest.join(' ');
  } else {
    name.family = words.pop()!;
    name.middle = words.join(' ');
  }
  return name;
}

function takePrefix(words: string[], name: PersonName): string[] {
  const rest = [...words];
  while (rest.length > 1 && prefixes.test(rest[0]!)) name.prefix = `${name.prefix} ${rest.shift()}`.trim();
  return rest;
}

/** The text without what stands in round brackets. */
function withoutBrackets(text: string): string {
  const pieces = text.split('(');
  return pieces
    .map((piece, index) => {
      const end = index === 0 ? -1 : piece.indexOf(')');
      return index === 0 ? piece : end < 0 ? `(${piece}` : ` ${piece.slice(end + 1)}`;
    })
    .join('');
}
