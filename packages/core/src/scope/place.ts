import { asText, isJsonObject, tokensOf, type Json } from '../submission';

/**
 * Ways to pick items of a list beside their number (RFC 6901): `@first`, `@last`, `@each`, and `@name=Foam`, the first one whose
 * `name` is “Foam”; `@a/b=…` is written `@a~1b=…`. They mean this in lists alone: a member of an object may be called anything.
 */
export type ItemPick = { pick: 'first' | 'last' | 'each' } | { pick: 'whose'; part: string; is: string };

/** The token of a pointer that picks items so. */
export const itemToken = (item: ItemPick): string =>
  item.pick === 'whose' ? `@${item.part}=${item.is}` : `@${item.pick}`;

/** What a token picks; null for any other. */
export function itemPick(token: string): ItemPick | null {
  if (token === '@first' || token === '@last' || token === '@each')
    return { pick: token.slice(1) as 'first' | 'last' | 'each' };
  const [, part, is] = /^@([^=]+)=([\s\S]*)$/.exec(token) ?? [];
  return part === undefined ? null : { pick: 'whose', part, is: is! };
}

/**
 * What stands at a place of an answer: a JSON Pointer (RFC 6901) whose tokens may pick items of lists; undefined where there is
 * nothing. What `@each` picks is a list, without the items that have nothing there.
 * @example placeAt({ tags: [{ n: 'a' }, { n: 'b' }] }, '/tags/@each/n') // ['a', 'b']
 */
export const placeAt = (value: Json | undefined, pointer: string): Json | undefined => walk(value, tokensOf(pointer));

function walk(value: Json | undefined, tokens: readonly string[]): Json | undefined {
  const [token, ...rest] = tokens;
  if (token === undefined || value === undefined) return value;
  if (!Array.isArray(value))
    return isJsonObject(value) && Object.hasOwn(value, token) ? walk(value[token], rest) : undefined;
  const item = itemPick(token);
  if (item === null) return /^(0|[1-9]\d*)$/.test(token) ? walk(value[Number(token)], rest) : undefined;
  switch (item.pick) {
    case 'first':
      return walk(value[0], rest);
    case 'last':
      return walk(value.at(-1), rest);
    case 'each':
      return value.map(each => walk(each, rest)).filter(each => each !== undefined);
    case 'whose':
      return walk(
        value.find(each => asText(placeAt(each, partPointer(item.part)) ?? null) === item.is),
        rest,
      );
  }
}

/** `address/town` as a pointer; a part that has none is the item itself. */
const partPointer = (part: string): string => (part === '.' ? '' : `/${part}`);

/** A place for people: `id of the last of items`. */
export function placeWords(pointer: string): string {
  let whole = '';
  let names: string[] = [];
  const nameOf = () => [names.join('.'), whole].filter(Boolean).join(' of ');
  for (const token of tokensOf(pointer)) {
    const item = itemPick(token);
    if (item === null || nameOf() === '') {
      names.push(token);
      continue;
    }
    whole =
      item.pick === 'whose'
        ? `the one of ${nameOf()} whose ${item.part.replaceAll('/', '.')} is ${item.is}`
        : `${item.pick === 'each' ? 'each' : `the ${item.pick}`} of ${nameOf()}`;
    names = [];
  }
  return nameOf();
}
