/** Within single quotes a POSIX shell takes everything as it is, but for the quote itself (POSIX.1-2024, XCU 2.2.2). */
const quoted = (text: string): string => (/^[\w./:=@%+,-]+$/.test(text) ? text : `'${text.replaceAll("'", `'\\''`)}'`);

/** Headers that curl makes by itself, of what it sends. */
const own = new Set(['host', 'content-length', 'transfer-encoding', 'connection', 'expect']);

/** A stand-in for a secret or a file, which nobody can send as it is. */
const standsIn = /•••|‹/;

/**
 * A request as it is shown on the wire, as a line for a POSIX shell that makes it; null for what is no HTTP request.
 * @param wire request line, headers, a blank line, body
 * @param addresses base addresses of where it may go; the one of the same host tells http from https
 */
export function curlLine(wire: string, addresses: readonly string[] = []): string | null {
  const divide = wire.indexOf('\n\n');
  const [first = '', ...head] = (divide < 0 ? wire : wire.slice(0, divide)).split('\n');
  const body = divide < 0 ? '' : wire.slice(divide + 2);
  const [, method, target] = /^([A-Z]+) (\S.*) HTTP\/1\.1$/.exec(first) ?? [];
  if (method === undefined || target === undefined) return null;
  const headers = head.map(line => {
    const colon = line.indexOf(':');
    return [line.slice(0, colon).trim(), line.slice(colon + 1).trim()] as const;
  });
  const host = headers.find(([name]) => name.toLowerCase() === 'host')?.[1] ?? '';
  const at = addresses.find(each => URL.canParse(each) && new URL(each).host === host);
  const parts = [
    `curl ${(method === 'GET' && body === '') || (method === 'POST' && body !== '') ? '' : `-X ${method} `}${quoted(`${at ? new URL(at).protocol : 'https:'}//${host}${target}`)}`,
    ...headers
      .filter(([name]) => !own.has(name.toLowerCase()))
      .map(([name, value]) => `-H ${quoted(`${name}: ${value}`)}`),
    ...(body === '' ? [] : [`--data-raw ${quoted(body)}`]),
  ];
  return parts.join(' \\\n  ');
}

/** True where a line of curl can't be run as it is: secrets and files are only named in it. */
export const isToBeFilledIn = (line: string): boolean => standsIn.test(line);
