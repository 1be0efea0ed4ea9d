import ipaddr from 'ipaddr.js';

/**
 * An address as it connects: IPv4 inside IPv6, mapped (RFC 4291 §2.5.5.2) or in the older compatible form (§2.5.5.1), is IPv4. Null for
 * what is no address.
 */
export function addressOf(text: string): ipaddr.IPv4 | ipaddr.IPv6 | null {
  if (!ipaddr.isValid(text)) return null;
  const address = ipaddr.process(text);
  if (!(address instanceof ipaddr.IPv6) || address.range() !== 'unicast') return address;
  const bytes = address.toByteArray();
  return bytes.slice(0, 12).every(each => each === 0) ? new ipaddr.IPv4(bytes.slice(12)) : address;
}
