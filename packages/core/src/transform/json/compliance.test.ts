import type { Json } from '../../submission';
import { queryPath } from './jsonPath';

// RFC 9535: the compliance suite that the registry package jsonpath-rfc9535 ships, every case of it.
interface Case {
  name: string;
  selector: string;
  document?: Json;
  result?: Json[];
  results?: Json[][];
  invalid_selector?: boolean;
}
const suite = require
  .resolve('jsonpath-rfc9535/package.json')
  .replace('package.json', 'src/__tests__/jsonpath-compliance-test-suite/cts.json');
const { tests } = jest.requireActual<{ tests: Case[] }>(suite);

test('the suite is there', () => expect(tests.length).toBeGreaterThan(600));

test.each(tests.map(each => [each.name, each] as const))(
  '%s',
  (_, { selector, document, result, results, invalid_selector }) => {
    const found = queryPath(selector, document ?? null);
    if (invalid_selector) expect(typeof found).toBe('string');
    else expect(results ?? [result]).toContainEqual(found);
  },
);
