import type { Auth } from './credentials';
import type { SecurityScheme } from './openapi';

/** Kinds of credentials in words: `a bearer token, or user and password`. */
export const schemeWords = (schemes: readonly SecurityScheme[]): string => schemes.map(wordsOf).join(', or ');

function wordsOf(scheme: SecurityScheme): string {
  switch (scheme.kind) {
    case 'bearer':
      return 'a bearer token';
    case 'basic':
      return 'user and password';
    case 'header':
      return `an API key in the header ${scheme.name}`;
    case 'query':
      return `an API key in the parameter ${scheme.name}`;
    case 'consent':
      return `OAuth 2 with user consent, authorization URL ${scheme.authorizeUrl}`;
    case 'oauth':
      return `OAuth 2 client credentials, token URL ${scheme.tokenUrl}`;
  }
}

/** The kinds of credentials that are asked for which a target has; its key in another header or parameter is another (RFC 9110 §5.1). */
export const schemesMet = (schemes: readonly SecurityScheme[], auth: Auth): SecurityScheme[] =>
  schemes.filter(
    each =>
      each.kind === auth.kind &&
      (each.kind !== 'header' || !('name' in auth) || each.name.toLowerCase() === auth.name.toLowerCase()) &&
      (each.kind !== 'query' || !('name' in auth) || each.name === auth.name),
  );
