import { asText, percentEncoded, type Json } from '../submission';
import type { BodyKind } from '../target';

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
