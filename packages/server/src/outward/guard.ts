import { lookup as dnsLookup, type LookupAddress } from 'node:dns';
import { lookup as resolve } from 'node:dns/promises';
import { isIP, type LookupFunction } from 'node:net';
import ipaddr from 'ipaddr.js';
import { buildConnector } from 'undici';
import { addressOf } from '../addresses';

/** An outgoing request to an address inside the own network was refused. */
export class PrivateAddress extends Error {
  constructor(host: string, address: string) {
    super(`${host} is the private address ${address}, which is not on the list of allowed private addresses.`);
  }
}

/** Whether an address may be connected to: public ones always, others when a host or a range on the list covers them. */
export function mayReach(address: string, host: string, port: string, allowed: readonly string[]): boolean {
  // A zone (`fe80::1%eth0`) names an interface of this machine.
  const parsed = addressOf(address);
  if (!parsed) return false;
  if (parsed.range() === 'unicast') return true;
  return allowed.some(entry => {
    if (entry === host || entry === `${host}:${port}` || entry === `${address}:${port}`) return true;
    if (!ipaddr.isValidCIDR(entry)) return false;
    const [range, bits] = ipaddr.parseCIDR(entry);
    return range.kind() === parsed.kind() && parsed.match([range, bits] as never);
  });
}

/** True for a host that is named on the list of private ones, by its name, its address or a range. */
export function isListed(hostname: string, port: string, allowed: readonly string[]): boolean {
  const bare = hostname.replace(/^\[|\]$/g, '');
  return isIP(bare)
    ? addressOf(bare)?.range() !== 'unicast' && mayReach(bare, hostname, port, allowed)
    : allowed.includes(hostname) || allowed.includes(`${hostname}:${port}`);
}

/** The address of a host to connect to, checked. Throws PrivateAddress, or what the resolver says. */
export async function reachableAddress(host: string, port: number, allowed: readonly string[]): Promise<string> {
  const bare = host.replace(/^\[|\]$/g, '');
  const addresses = isIP(bare) ? [bare] : (await resolve(bare, { all: true })).map(each => each.address);
  const bad = addresses.find(each => !mayReach(each, host, String(port), allowed));
  if (bad !== undefined) throw new PrivateAddress(host, bad);
  return addresses[0]!;
}

/** Connects like undici does, but checks the very address it connects to, so that DNS can't slip past. */
export function guardedConnector(allowed: readonly string[], timeout = 10_000): buildConnector.connector {
  return (options, callback) => {
    const { hostname, protocol } = options;
    const port = options.port || (protocol === 'https:' ? '443' : '80');
    const refuse = (address: string) =>
      mayReach(address, hostname, port, allowed) ? null : new PrivateAddress(hostname, address);
    const bare = hostname.replace(/^\[|\]$/g, '');
    const refused = isIP(bare) ? refuse(bare) : null;
    if (refused) return void callback(refused, null);
    const lookup: LookupFunction = (host, lookupOptions, done) =>
      dnsLookup(host, { ...lookupOptions, all: true }, (error, addresses: LookupAddress[]) => {
        if (error) return done(error, '');
        const bad = addresses.map(each => refuse(each.address)).find(each => each !== null);
        if (bad) return done(bad, '');
        return lookupOptions.all ? done(null, addresses) : done(null, addresses[0]!.address, addresses[0]!.family);
      });
    return buildConnector({ timeout, lookup })(options, callback);
  };
}
