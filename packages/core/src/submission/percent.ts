/** Lone surrogates have no UTF-8: they become U+FFFD (WHATWG Encoding Standard). */
const wellFormed = (text: string) =>
  text.replace(/[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g, '\ufffd');

/** Everything but the unreserved characters of RFC 3986 §2.3, as simple expansion in RFC 6570 §3.2.2 has it. */
export const percentEncoded = (text: string): string =>
  encodeURIComponent(wellFormed(text)).replace(/[!'()*]/g, each => `%${each.charCodeAt(0).toString(16).toUpperCase()}`);

/** What percent-encoding stands for (RFC 3986 §2.1); a text that is not encoded so is given back as it is. */
export function percentDecoded(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}
