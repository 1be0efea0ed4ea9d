import type { RequestPlan } from './plan';

/** The body as it goes over the wire. */
export const bodyText = (plan: RequestPlan): string => JSON.stringify(plan.body, null, 2);

/** The message as HTTP/1.1 would show it (RFC 9112 §3): request line, headers, blank line, body. */
export function wireText(plan: RequestPlan, extraHeaders: [string, string][] = []): string {
  const { pathname, search, host } = new URL(plan.url);
  const headers: [string, string][] = [['host', host], ...plan.headers, ...extraHeaders];
  return [
    `${plan.method} ${pathname}${search} HTTP/1.1`,
    ...headers.map(([name, value]) => `${name}: ${value}`),
    '',
    bodyText(plan),
  ].join('\n');
}
