import LinkHeader from 'http-link-header';
import { isHttpAddress, isJsonObject, type Json } from '@grammata/core/submission';
import type { OutwardAnswer } from './http';

/** Characters of a header of links that are read. */
const LONGEST_LINKS = 8000;

/** The link to the next page (RFC 8288), or null. */
export function nextLink(header: string): string | null {
  try {
    return LinkHeader.parse(header.slice(0, LONGEST_LINKS)).rel('next')[0]?.uri ?? null;
  } catch {
    return null;
  }
}

/** Members that tell of a next page: `links.next` (JSON:API 1.1), `@odata.nextLink` (OData 4.01); the others *common practice, no source*. */
const tellsNext = /^(?:next|next_?(?:url|link|page|cursor|token)|@odata\.nextLink|has_?(?:more|next))$/i;
const DEEPEST = 3;

/** What a response says of a page after it: its address, true where there is one that can't be followed, or false. */
export function nextPage(
  { headers, url }: Pick<OutwardAnswer, 'headers'> & { url: string },
  body: Json,
): string | boolean {
  const said = [nextLink(headers.link ?? ''), ...toldIn(body, DEEPEST)];
  // Credentials do not go to another origin.
  for (const each of said) {
    if (typeof each !== 'string' || !(isHttpAddress(each) || /^[/?]/.test(each)) || !URL.canParse(each, url)) continue;
    const next = new URL(each, url);
    if (next.origin === new URL(url).origin && next.href !== url) return next.href;
  }
  return said.some(each => each !== null && each !== '' && each !== false);
}

function toldIn(value: Json, depth: number): Json[] {
  if (!isJsonObject(value) || depth === 0) return [];
  return Object.entries(value).flatMap(([name, each]) => {
    if (!tellsNext.test(name)) return toldIn(each, depth - 1);
    // `{ "next": { "href": "…" } }` (JSON:API 1.1, HAL).
    return isJsonObject(each) ? [each.href ?? null] : [each];
  });
}
