import { XMLBuilder } from 'fast-xml-parser';
import { asText, escapeToken, isJsonObject, percentDecoded, type Json } from '../submission';
import { withQuery } from '../target';
import { standIn, type PlannedFile, type RequestPlan } from './plan';

/** Stands between the parts of a body as people see it; what is sent has one of its own. */
const BOUNDARY = 'part';

/**
 * The body as it goes over the wire; empty for none. Of files, only their names: their content is put in as it leaves.
 * @param indent blanks that JSON is indented by, for people
 */
export function bodyText(plan: RequestPlan, indent = 0): string {
  const { body, encoding } = plan;
  switch (encoding) {
    case 'none':
      return '';
    case 'urlencoded':
      return pairsOf(body, '').join('&');
    case 'multipart':
      return multipartText(plan);
    case 'xml':
      return xmlText(body, plan.root ?? 'record');
    case 'text':
    case 'raw':
      return isJsonObject(body) ? '' : asText(body);
    case 'mail':
      return mailText(body);
    case 'json':
      return JSON.stringify(body, null, indent);
  }
}

export type BodyPart = { name: string } & ({ text: string } | { file: PlannedFile });

/** Parts of a multipart body (RFC 7578): texts as they are, lists as a part each, objects as JSON. */
export function partsOfBody({ body, files }: RequestPlan): BodyPart[] {
  if (!isJsonObject(body)) return [];
  return Object.entries(body).flatMap(([name, value]): BodyPart[] => {
    const own = files.filter(each => each.pointer === `/${escapeToken(name)}`);
    if (own.length > 0) return own.map(file => ({ name, file }));
    return (Array.isArray(value) ? value : [value]).map(each => ({ name, text: asText(each) }));
  });
}

/** A parameter of a part's header: quotes and line breaks as the HTML Standard writes them. */
export const partParameter = (text: string): string =>
  text.replaceAll('\r', '%0D').replaceAll('\n', '%0A').replaceAll('"', '%22');

function multipartText(plan: RequestPlan): string {
  const parts = partsOfBody(plan).map(part =>
    'file' in part
      ? `content-disposition: form-data; name="${partParameter(part.name)}"; filename="${partParameter(part.file.name)}"\ncontent-type: ${part.file.file.type ?? 'application/octet-stream'}\n\n${standIn(part.file.name)}`
      : `content-disposition: form-data; name="${partParameter(part.name)}"\n\n${part.text}`,
  );
  return [...parts.map(part => `--${BOUNDARY}\n${part}`), `--${BOUNDARY}--`].join('\n');
}

const xml = new XMLBuilder({ format: true, ignoreAttributes: true, suppressEmptyNode: true });

/** The body in XML: a property is an element, a list is an element each. Names that XML does not allow get underscores. */
function xmlText(body: Json, root: string): string {
  const named = (value: Json): Json =>
    Array.isArray(value)
      ? value.map(named)
      : isJsonObject(value)
        ? Object.fromEntries(Object.entries(value).map(([name, each]) => [elementName(name), named(each)]))
        : typeof value === 'string'
          ? value.replace(notInXml, '')
          : value;
  return `<?xml version="1.0" encoding="UTF-8"?>\n${xml.build({ [elementName(root)]: named(body) }).trim()}`;
}

/** Characters that XML 1.0 has no way to hold (§2.2). */
// eslint-disable-next-line no-control-regex
const notInXml = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g;

const elementName = (name: string): string => {
  const plain = name.replace(/[^\p{L}\p{N}_.-]/gu, '_');
  return /^[\p{L}_]/u.test(plain) ? plain : `_${plain}`;
};

/** A mail as people read it: its head, a blank line, its text. */
function mailText(body: Json): string {
  if (!isJsonObject(body)) return '';
  const { text, html, attachments, ...head } = body;
  const lines = Object.entries(head).map(([name, value]) => `${name}: ${asText(value)}`);
  const attached = attachments === undefined ? [] : [`attached: ${asText(attachments)}`];
  return [...lines, ...attached, '', asText(text ?? html)].join('\n');
}

/** Names and values as a form is written (WHATWG URL Standard); what is nested stands in brackets, as is common practice. */
function pairsOf(value: Json, name: string): string[] {
  if (Array.isArray(value)) return value.flatMap(each => pairsOf(each, `${name}[]`));
  if (isJsonObject(value))
    return Object.entries(value).flatMap(([key, each]) => pairsOf(each, name === '' ? key : `${name}[${key}]`));
  return [new URLSearchParams([[name, asText(value)]]).toString()];
}

/**
 * The message as HTTP/1.1 would show it (RFC 9112 §3): request line, headers, blank line, body.
 * @param body where it is rendered already; else JSON is indented, for people
 */
export function wireText(
  plan: RequestPlan,
  extraHeaders: [string, string][] = [],
  extraQuery: [string, string][] = [],
  body = bodyText(plan, 2),
): string {
  if (plan.encoding === 'mail') return body;
  if (plan.url.startsWith('file:')) return `${percentDecoded(new URL(plan.url).pathname.slice(1))}\n\n${body}`;
  const { pathname, search, host } = new URL(plan.url);
  // What stands for an answer that is not there yet is shown as it reads.
  const shown = (pathname + search).replace(/%E2%80%B9.*?%E2%80%BA/g, percentDecoded);
  const target = withQuery(shown, extraQuery);
  const headers: [string, string][] = [['host', host], ...plan.headers, ...extraHeaders];
  return [`${plan.method} ${target} HTTP/1.1`, ...headers.map(([name, value]) => `${name}: ${value}`), '', body].join(
    '\n',
  );
}
