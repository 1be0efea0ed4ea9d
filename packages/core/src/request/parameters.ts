import { asText, percentEncoded, type Json } from '../submission';
import type { BodyKind } from '../target';
import { Problem } from '../transform';

/** A value that goes into the address or a header. */
export interface Parameter {
  in: 'path' | 'query' | 'header';
  name: string;
  value: Json;
}

/** The path with its parameters filled in, and the query. Lists in the query repeat the name. A parameter without value stays as it is named. */
export function pathWith(template: string, parameters: Parameter[]): string {
  const named = new Map(parameters.filter(each => each.in === 'path').map(each => [each.name, each.value]));
  const path = template.replace(/\{([^{}]+)\}/g, (whole, name: string) =>
    named.has(name) ? percentEncoded(asText(named.get(name))) : whole,
  );
  const query = parameters
    .filter(each => each.in === 'query')
    .flatMap(({ name, value }) =>
      (Array.isArray(value) ? value : [value]).map(each => `${percentEncoded(name)}=${percentEncoded(asText(each))}`),
    );
  return query.length === 0 ? path : `${path}${path.includes('?') ? '&' : '?'}${query.join('&')}`;
}

/** The text as a server may read it that decodes more than once. */
function decodedWhole(text: string): string {
  let read = text;
  for (let times = 0; times < 4 && read.includes('%'); times++) {
    const next = read.replace(/%([0-9a-f]{2})/gi, (_, hex: string) => String.fromCharCode(parseInt(hex, 16)));
    if (next === read) break;
    read = next;
  }
  return read;
}

/** `.` and `..` move to another place (RFC 3986 §5.2.4): as a segment of their own, encoded or between slashes of a value. */
const moves = (segment: string): boolean =>
  decodedWhole(segment)
    .split(/[/\\]/)
    .some(each => each === '.' || each === '..');

/**
 * Why a request may not go to the address that its values make: a place in the path is without a value, or a value would
 * lead to another path than the operation's. Null where nothing is wrong.
 */
export function addressFault(template: string, parameters: Parameter[]): Problem | null {
  const inPath = parameters.filter(each => each.in === 'path');
  const named = new Map(inPath.map(each => [each.name, asText(each.value)]));
  for (const segment of template.split(/[?#]/)[0]!.split('/')) {
    if (!segment.includes('{')) continue;
    let blank: string | null = null;
    const filled = segment.replace(/\{([^{}]+)\}/g, (_, name: string) => {
      const value = named.get(name) ?? '';
      if (value.trim() === '') blank ??= name;
      return value;
    });
    if (blank !== null) return new Problem('address.blank', `${blank} is part of the URL but has no value.`, null);
    if (moves(filled))
      return new Problem(
        'address.moves',
        `“${filled}” in the address would lead to another place of the target.`,
        filled,
      );
  }
  return parameters.map(placeFault).find(each => each !== null) ?? null;
}

/** Why a value can't stand where a parameter has its place; null where it can. */
export function placeFault({ in: place, name, value }: Parameter): Problem | null {
  const text = asText(value);
  if (place === 'path' && moves(text))
    return new Problem('address.moves', `“${text}” as ${name} would lead to another place of the target.`, value);
  // Field values are octets (RFC 9110 §5.5): what has no place in ISO-8859-1 can't be sent.
  if (place === 'header' && /[^\u0020-\u00ff\t]/.test(headerText(value)))
    return new Problem('header.characters', `The header ${name} can’t hold “${text}”: letters beyond Latin-1.`, value);
  return null;
}

/** A header's value in one line: control characters become spaces, so that nothing can be put in behind it (RFC 9110 §5.5). */
export const headerText = (value: Json): string =>
  asText(value)
    .replace(/\p{Cc}+/gu, ' ')
    .trim();

const types: Record<BodyKind, string | null> = {
  json: 'application/json',
  urlencoded: 'application/x-www-form-urlencoded',
  multipart: 'multipart/form-data',
  xml: 'application/xml',
  text: 'text/plain; charset=utf-8',
  // The type of the file itself.
  raw: null,
  mail: null,
  none: null,
};

export const contentType = (kind: BodyKind): [string, string][] => {
  const type = types[kind];
  return type === null ? [] : [['content-type', type]];
};
