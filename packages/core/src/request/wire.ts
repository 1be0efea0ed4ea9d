import { asText, isJsonObject, type Json } from '../submission';
import { withQuery } from '../target';
import type { RequestPlan } from './plan';

/** The body as it goes over the wire; empty for none. */
export function bodyText({ body, encoding }: RequestPlan): string {
  if (encoding === 'none') return '';
  return encoding === 'urlencoded' ? pairsOf(body, '').join('&') : JSON.stringify(body, null, 2);
}

/** Names and values as a form is written (WHATWG URL Standard); what is nested stands in brackets, as is common practice. */
function pairsOf(value: Json, name: string): string[] {
  if (Array.isArray(value)) return value.flatMap(each => pairsOf(each, `${name}[]`));
  if (isJsonObject(value))
    return Object.entries(value).flatMap(([key, each]) => pairsOf(each, name === '' ? key : `${name}[${key}]`));
  return [new URLSearchParams([[name, asText(value)]]).toString()];
}

/** The message as HTTP/1.1 would show it (RFC 9112 §3): request line, headers, blank line, body. */
export function wireText(
  plan: RequestPlan,
  extraHeaders: [string, string][] = [],
  extraQuery: [string, string][] = [],
): string {
  const { pathname, search, host } = new URL(plan.url);
  const target = withQuery(pathname + search, extraQuery);
  const headers: [string, string][] = [['host', host], ...plan.headers, ...extraHeaders];
  return [
    `${plan.method} ${target} HTTP/1.1`,
    ...headers.map(([name, value]) => `${name}: ${value}`),
    '',
    bodyText(plan),
  ].join('\n');
}
