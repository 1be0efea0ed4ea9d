import { isJsonObject, type Json } from '../submission';

const HOST = 'https://copy.invalid/';
/** Shows where the link ends, whatever stands behind it. */
const END = '/-';

/** Stands for the link to a copy of a submission's file until there is one; `.invalid` is no host (RFC 2606 §2). */
export const copyLink = (index: number, name: string): string => `${HOST}${index}/${encodeURIComponent(name)}${END}`;

const links = /https:\/\/copy\.invalid\/(\d+)\/[^\s/]*\/-/g;

/** Which of a submission's files a text links to copies of, by their places. */
export const copiesIn = (text: string): number[] =>
  text.includes(HOST) ? [...new Set([...text.matchAll(links)].map(([, index]) => Number(index)))] : [];

/** The text with the links that were made. */
export const withCopyLinks = (text: string, linkFor: (index: number) => string): string =>
  text.includes(HOST) ? text.replace(links, (_, index: string) => linkFor(Number(index))) : text;

/** What was answered with anything that looks like such a link made harmless: only a line makes copies. */
export function withoutCopyLinks(value: Json): Json {
  if (typeof value === 'string') return value.includes(HOST) ? value.replaceAll(HOST, 'https://copy-invalid/') : value;
  if (typeof value !== 'object' || value === null || !JSON.stringify(value).includes(HOST)) return value;
  if (Array.isArray(value)) return value.map(withoutCopyLinks);
  return isJsonObject(value)
    ? Object.fromEntries(Object.entries(value).map(([key, each]) => [key, withoutCopyLinks(each)]))
    : value;
}
