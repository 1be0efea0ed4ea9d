import type { RequestHandler, Request } from 'express';
import ipaddr from 'ipaddr.js';
import type { Accounts, Account } from '../store';
import { HttpProblem } from '../problems';

export const SESSION_COOKIE = 'grammata_session';
/** 30 days in ms. */
export const SESSION_LIFETIME = 30 * 24 * 3600 * 1000;

/** The value of a cookie (RFC 6265 §4.2), or null. */
export function cookieOf(request: Request, name: string): string | null {
  const pairs = (request.headers.cookie ?? '').split(';').map(pair => pair.trim().split('='));
  return pairs.find(([key]) => key === name)?.[1] ?? null;
}

/** True when the connection and the name it asked for are both this machine's own. */
export function isLoopback(request: Request): boolean {
  const address = request.socket.remoteAddress;
  const host = (request.headers.host ?? '').replace(/:\d+$/, '');
  const named = ['localhost', '127.0.0.1', '[::1]'].includes(host);
  return named && address !== undefined && ipaddr.process(address).range() === 'loopback';
}

export const accountOf = (request: Request, accounts: Accounts): Account | null => {
  const token = cookieOf(request, SESSION_COOKIE);
  return token === null ? null : accounts.bySession(token);
};

/** Lets only signed-in people through. */
export function signedIn(accounts: Accounts): RequestHandler {
  return (request, _response, next) => {
    if (!accountOf(request, accounts)) throw new HttpProblem(401, 'Sign in first.');
    next();
  };
}

/** Refuses changes that another site's page asks for: the Origin header, when sent, must be ours. */
export const sameOrigin: RequestHandler = (request, _response, next) => {
  const origin = request.headers.origin;
  const isChange = !['GET', 'HEAD'].includes(request.method);
  if (isChange && origin !== undefined && URL.canParse(origin) && new URL(origin).host !== request.headers.host) {
    throw new HttpProblem(403, 'This request came from another site.');
  }
  next();
};
