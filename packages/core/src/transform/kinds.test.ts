import { isJsonObject, type FieldKind, type Json } from '../submission';
import { checkKinds, transforms } from '.';

const steps = (...ids: string[]) => ids.map(id => ({ id, params: {} }));

test.each<[FieldKind, string[], string]>([
  [
    'files',
    ['text.trim', 'date.format'],
    '“Format date” takes text or a date and is given files. Put “File property” before it.',
  ],
  [
    'choices',
    ['phone.format'],
    '“Telephone number” takes text or a number and is given a list. Put “Join list” before it.',
  ],
  ['boolean', ['address.part'], '“Part of an address” takes an address or text and is given yes or no.'],
  ['text', ['number.read', 'number.round', 'files.part'], '“File property” takes files and is given a number.'],
])('%s through %j', (kind, ids, message) => {
  expect(checkKinds(kind, steps(...ids)).faults.map(each => each.message)).toEqual([message]);
});

test.each<[FieldKind, string[], FieldKind]>([
  ['choices', ['list.read', 'text.trim', 'list.join'], 'text'],
  ['email', ['text.trim', 'email.part'], 'email'],
  ['files', ['files.filter', 'files.part', 'list.join'], 'text'],
  ['json', ['date.format'], 'datetime'],
  ['choice', ['choice.match'], 'choice'],
])('%s through %j is sound and gives %s', (kind, ids, gives) =>
  expect(checkKinds(kind, steps(...ids))).toEqual({ faults: [], gives }),
);

test('a step that is off or unknown is passed over', () =>
  expect(
    checkKinds('files', [
      { id: 'date.format', params: {}, off: true },
      { id: 'no.such', params: {} },
    ]).faults,
  ).toEqual([]));

/** The kind of a value, as a reader would tell it. */
function kindOf(value: Json): FieldKind {
  if (typeof value === 'number') return 'number';
  if (typeof value === 'boolean') return 'boolean';
  if (!Array.isArray(value)) return isJsonObject(value) ? 'json' : 'text';
  const [first] = value;
  if (isJsonObject(first ?? null)) return 'name' in (first as object) ? 'files' : 'table';
  return Array.isArray(first) ? 'table' : 'choices';
}

/** A text where a list, files or a table belong is let be when it comes, and complained of beforehand. */
const plural = ['list', 'files', 'table'];

const sound = transforms.flatMap(({ id, family, examples }) =>
  examples
    .filter(({ in: value, out }) => {
      const isLetBe = plural.includes(family) && kindOf(value) === 'text';
      return !isLetBe && !(isJsonObject(out) && 'problem' in out);
    })
    .map(({ in: value, params }) => [id, value, params] as const),
);

test.each(sound)('%s takes what its own example is: %j', (id, value, params) =>
  expect(checkKinds(kindOf(value), [{ id, params: { ...params } }]).faults).toEqual([]),
);
