import { documentChanges } from '@grammata/core/drift';
import { patchOf, valueChanges, type Json, type JsonObject } from '@grammata/core/submission';
import Ajv2020 from 'ajv/dist/2020';
import { applyPatch } from 'fast-json-patch';
import { Chance } from '../reading/draw';
import { demoScore } from './demoForms';
import { documentCase, documentScore } from './documents';
import { formScore } from './forms';
import { quietAlarms } from './quiet';

// Drawn changes are told. The forms of the half "held" were looked at while this was written, so they only guard it.
test('changes of drawn documents are told, and nothing else', () => {
  const { right, missed, wrong, falseAlarms, notes } = documentScore(40, 9000);
  expect([right > 30, missed, wrong, falseAlarms, notes]).toEqual([true, 0, 0, 0, []]);
});

test('changes of drawn forms are mostly told, and clean ones seldom alarm', () => {
  const { right, missed, clean, falseAlarms } = formScore(14, 'held', 7000);
  expect(right / (right + missed)).toBeGreaterThan(0.85);
  expect(falseAlarms).toBeLessThanOrEqual(1);
  expect(clean).toBeGreaterThan(2);
});

test('changes of the demo’s forms are mostly told, and clean ones seldom alarm', () => {
  const { right, missed, wrong, clean, falseAlarms } = demoScore(10, 300);
  expect(right / (right + missed)).toBeGreaterThan(0.7);
  expect(right / (right + wrong)).toBeGreaterThan(0.85);
  expect(falseAlarms).toBeLessThanOrEqual(1);
  expect(clean).toBeGreaterThan(0);
});

test('of forms that never change nothing is told to be gone or otherwise, however often they are looked at', () => {
  const alarms = quietAlarms(3, 60, 4000);
  alarms.delete('added');
  expect([...alarms]).toEqual([]);
});

test('what differs between drawn documents, as a patch (RFC 6902) that fast-json-patch applies, gives the document after', () => {
  let checked = 0;
  for (let seed = 1; seed < 200; seed++) {
    const one = documentCase(seed);
    if (!one) continue;
    const before = JSON.parse(JSON.stringify({ root: one.before })) as Json;
    const after = JSON.parse(JSON.stringify({ root: one.after })) as Json;
    const patch = patchOf(valueChanges(before, after)) as Parameters<typeof applyPatch>[1];
    if (patch.length > 0) checked += 1;
    expect(applyPatch(structuredClone(before), patch, true).newDocument).toEqual(after);
  }
  expect(checked).toBeGreaterThan(80);
});

/** A value that a schema takes, at random. */
function valueOf(schema: JsonObject, chance: Chance): Json {
  if (Array.isArray(schema.enum)) return chance.of(schema.enum);
  switch (schema.type) {
    case 'integer':
      return (
        ((schema.minimum as number) ?? 0) +
        chance.below(((schema.maximum as number) ?? 90) - ((schema.minimum as number) ?? 0) + 1)
      );
    case 'number':
      return chance.next() * 100;
    case 'boolean':
      return chance.is(0.5);
    case 'array':
      return Array.from({ length: chance.below((schema.maxItems as number) + 1) }, () => 'x');
    case 'object':
      return objectOf(schema, chance);
    default:
      return schema.format === undefined
        ? 'y'.repeat(chance.below(((schema.maxLength as number) ?? 30) + 1))
        : 'formatted';
  }
}

const objectOf = (schema: JsonObject, chance: Chance): JsonObject =>
  Object.fromEntries(
    Object.entries(schema.properties as Record<string, JsonObject>).flatMap(([name, each]) =>
      (schema.required as string[] | undefined)?.includes(name) || chance.is(0.7)
        ? [[name, valueOf(each, chance)]]
        : [],
    ),
  );

interface Body {
  requestBody: { content: { 'application/json': { schema: JsonObject } } };
}
const bodyOf = (document: Json, path: string): JsonObject | null => {
  const { paths } = document as unknown as { paths: Record<string, { post?: Body }> };
  return paths[path]?.post?.requestBody.content['application/json'].schema ?? null;
};
const breaking = new Set([
  'required',
  'type',
  'narrowed',
  'option-gone',
  'option-renamed',
  'format',
  'field-added',
  'field-renamed',
]);

test('where nothing that breaks is told, ajv (2020-12) takes after what it took before', () => {
  let checked = 0;
  let refused = 0;
  for (let seed = 1; seed < 250; seed++) {
    const one = documentCase(seed);
    const told = one && documentChanges(one.before, one.after);
    if (!one || !told) continue;
    for (const path of Object.keys((one.before as { paths: JsonObject }).paths)) {
      const ajv = new Ajv2020({ strict: false, validateFormats: false });
      const before = bodyOf(one.before, path);
      const after = bodyOf(one.after, path) ?? bodyOf(one.after, `/v1${path}`);
      if (!before?.properties || !after || JSON.stringify(after).includes('$ref')) continue;
      const [was, is] = [ajv.compile(before), ajv.compile(after)];
      const chance = new Chance(seed);
      for (let sample = 0; sample < 30; sample++) {
        const value = objectOf(before, chance);
        expect(was(value)).toBe(true);
        checked += 1;
        if (is(value)) continue;
        refused += 1;
        expect(told.filter(each => each.operation === `POST ${path}` && breaking.has(each.change))).not.toEqual([]);
      }
    }
  }
  expect([checked > 2000, refused > 50]).toEqual([true, true]);
});
