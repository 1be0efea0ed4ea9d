import type { SecurityScheme } from './openapi';
import { schemesMet, schemeWords } from './schemes';

const all: SecurityScheme[] = [
  { kind: 'bearer' },
  { kind: 'basic' },
  { kind: 'header', name: 'X-Key' },
  { kind: 'query', name: 'key' },
  { kind: 'oauth', tokenUrl: 'https://r.example.org/token' },
  { kind: 'consent', authorizeUrl: 'https://r.example.org/ask', tokenUrl: 'https://r.example.org/token' },
];

test('kinds of credentials in words', () =>
  expect(all.map(each => schemeWords([each]))).toEqual([
    'a bearer token',
    'user and password',
    'an API key in the header X-Key',
    'an API key in the parameter key',
    'OAuth 2 client credentials, token URL https://r.example.org/token',
    'OAuth 2 with user consent, authorization URL https://r.example.org/ask',
  ]));

test.each<[Parameters<typeof schemesMet>[1], number[]]>([
  [{ kind: 'bearer' }, [0]],
  [{ kind: 'basic', user: 'Rowan' }, [1]],
  [{ kind: 'none' }, []],
  // Names of headers have no case, those of parameters do (RFC 9110 §5.1, RFC 3986 §6.2.2.1).
  [{ kind: 'header', name: 'x-key' }, [2]],
  [{ kind: 'header', name: 'X-Other' }, []],
  [{ kind: 'query', name: 'key' }, [3]],
  [{ kind: 'query', name: 'Key' }, []],
])('%j meets %j', (auth, met) => expect(schemesMet(all, auth)).toEqual(met.map(at => all[at])));
