import type { RequestHandler, Request } from 'express';
import type { IncomingMessage } from 'node:http';
import { isIP } from 'node:net';
import ipaddr from 'ipaddr.js';
import proxyAddress from 'proxy-addr';
import type { Accounts, Account } from '../store';
import { addressOf } from '../addresses';
import { HttpProblem } from '../problems';

export const SESSION_COOKIE = 'grammata_session';
/** 30 days in ms. */
export const SESSION_LIFETIME = 30 * 24 * 3600 * 1000;

/** The value of a cookie (RFC 6265 §4.2), or null. */
export function cookieOf(request: Pick<IncomingMessage, 'headers'>, name: string): string | null {
  const pairs = (request.headers.cookie ?? '').split(';').map(pair => pair.trim().split('='));
  return pairs.find(([key]) => key === name)?.[1] ?? null;
}

const isOwn = (address: string | undefined): boolean =>
  address !== undefined && addressOf(address)?.range() === 'loopback';

/** What proxies say of themselves (RFC 7239, RFC 9110 §7.6.3, common practice). */
const proxyHeaders = ['forwarded', 'via', 'x-forwarded-for', 'x-forwarded-host', 'x-forwarded-proto', 'x-real-ip'];

/** Where requests come from, and which of them are meant for this server. */
export interface Entrance {
  /** The address that a request came from; behind a proxy that is trusted, the one it tells (X-Forwarded-For, common practice). */
  senderOf(request: IncomingMessage): string | null;
  /** True for the address of a proxy that is trusted. */
  isProxy(address: string): boolean;
  /** True when the connection and the name it asked for are both this machine's own, and no proxy stands between. */
  isLoopback(request: IncomingMessage): boolean;
  /** True when the Host (RFC 9110 §7.2) is one of the names of this server: a page of another name that resolves to it is not let in. */
  isForUs(request: IncomingMessage): boolean;
  /** True for an origin whose pages are this server's own. */
  isOurs(origin: string, request: IncomingMessage): boolean;
}

const hostnameOf = (host: string): string | null => {
  const url = `http://${host}`;
  return /[@/\\?#\s]/.test(host) || !URL.canParse(url) ? null : new URL(url).hostname.replace(/^\[|\]$/g, '');
};

/**
 * @param publicUrl the address that people reach the server under
 * @param proxies addresses and ranges of proxies that are trusted; empty for none
 */
export function entranceOf(publicUrl: string, proxies: readonly string[]): Entrance {
  const trusts = proxies.length > 0 ? proxyAddress.compile([...proxies]) : () => false;
  const pub = new URL(publicUrl);
  // Whether it is trusted or not: whoever came by a proxy is somewhere else.
  const isProxied = (request: IncomingMessage) =>
    trusts(request.socket.remoteAddress ?? '', 0) || proxyHeaders.some(name => request.headers[name] !== undefined);
  const isLoopbackName = (name: string | null) =>
    name === 'localhost' || (name !== null && isIP(name) !== 0 && isOwn(name));
  const isForUs = (request: IncomingMessage): boolean => {
    const host = request.headers.host ?? '';
    if (host.toLowerCase() === pub.host) return true;
    const name = hostnameOf(host);
    const { remoteAddress, localAddress, localPort } = request.socket;
    const port = /:(\d+)$/.exec(host)?.[1];
    if (name === null || (port !== undefined && Number(port) !== localPort)) return false;
    if (isLoopbackName(name)) return isOwn(remoteAddress) && !isProxied(request);
    // An address in figures can't be made to mean another machine.
    return (
      isIP(name) !== 0 &&
      localAddress !== undefined &&
      ipaddr.process(name).toString() === ipaddr.process(localAddress).toString()
    );
  };
  return {
    isProxy: address => trusts(address, 0),
    isForUs,
    senderOf(request) {
      const address = proxies.length > 0 ? proxyAddress(request, trusts) : request.socket.remoteAddress;
      return address && ipaddr.isValid(address) ? ipaddr.process(address).toString() : (address ?? null);
    },
    isLoopback: request =>
      isOwn(request.socket.remoteAddress) &&
      isLoopbackName(hostnameOf(request.headers.host ?? '')) &&
      !isProxied(request),
    isOurs: (origin, request) =>
      origin === pub.origin ||
      (origin === `http://${(request.headers.host ?? '').toLowerCase()}` && pub.protocol === 'http:'),
  };
}

export const accountOf = (request: Request, accounts: Accounts): Account | null => {
  const token = cookieOf(request, SESSION_COOKIE);
  return token === null ? null : accounts.bySession(token);
};

/** Lets only signed-in people through. */
export function signedIn(accounts: Accounts): RequestHandler {
  return (request, response, next) => {
    const account = accountOf(request, accounts);
    if (!account) throw new HttpProblem(401, 'Sign in first.');
    response.locals.account = account;
    next();
  };
}

/** Refuses what is not meant for this server (RFC 9110 §15.5.20). */
export const forUs =
  ({ isForUs }: Entrance): RequestHandler =>
  (request, _response, next) => {
    if (!isForUs(request))
      throw new HttpProblem(
        421,
        'This server has another name.',
        'Use its own address, or set GRAMMATA_PUBLIC_URL to this one.',
      );
    next();
  };

/**
 * Refuses changes that another site's page asks for: the origin, when a browser tells it (Fetch Standard), must be ours,
 * with its scheme and its port. A page without an origin of its own tells `null`.
 */
export const sameOrigin =
  ({ isOurs }: Entrance): RequestHandler =>
  (request, _response, next) => {
    if (['GET', 'HEAD'].includes(request.method)) return next();
    const { origin } = request.headers;
    const site = request.headers['sec-fetch-site'];
    const isForeign =
      origin !== undefined ? !isOurs(origin, request) : site !== undefined && site !== 'same-origin' && site !== 'none';
    if (isForeign) throw new HttpProblem(403, 'This request came from another site.');
    next();
  };
