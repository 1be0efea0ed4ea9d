import { operationWords } from './operationWords';

test.each<[string, string, string]>([
  ['POST', '/contacts', 'Add to contacts'],
  ['POST', '/v1/contacts', 'Add to contacts'],
  ['POST', '/api/v2/field-reports', 'Add to field reports'],
  ['PATCH', '/contacts/{id}', 'Change one of contacts'],
  ['PUT', '/contacts/{id}', 'Replace one of contacts'],
  ['GET', '/contacts', 'Read contacts'],
  ['GET', '/contacts/{id}', 'Read one of contacts'],
  ['DELETE', '/contacts/{id}', 'Remove one of contacts'],
  ['POST', '/books/{book}/values/{range}/append', 'Append: values'],
  ['POST', '/books/{book}/values/{range}:append', 'Append: values'],
  ['POST', '/contacts/{id}', 'Act on one of contacts'],
  ['POST', '/send', 'Send'],
  ['POST', '/search?limit=3', 'Search'],
  ['PUT', '/settings', 'Replace settings'],
  // Nothing to tell from: as it is.
  ['POST', '/', 'POST /'],
  ['POST', '/{id}', 'POST /{id}'],
  ['POST', '/v1', 'POST /v1'],
])('%s %s: %s', (method, path, words) => expect(operationWords(method, path)).toBe(words));
