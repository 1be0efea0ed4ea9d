import Ajv2020 from 'ajv/dist/2020';
import { decode } from '../decode';
import type { Json, Submission } from '../submission';
import { inferSchema, jsonSchemaOf } from '.';

const read = (document: object) =>
  decode(new TextEncoder().encode(JSON.stringify(document)), 'application/json').submissions[0]!;
const answers = ({ fields, files }: Submission): Record<string, Json> => ({
  ...Object.fromEntries(fields.map(field => [field.key, field.value])),
  ...Object.fromEntries(
    files.map(file => [
      file.field,
      files.filter(each => each.field === file.field).map(({ name, url, type, size }) => ({ name, url, type, size })),
    ]),
  ),
});

const samples = [
  {
    site: 'AB-07',
    ph: 7.4,
    signs: ['Foam'],
    when: '2026-11-04',
    agree_terms: 'yes',
    who: { first: 'Wen', last: 'Xiu' },
  },
  {
    site: 'AB-02',
    ph: 'about 7',
    signs: ['Foam', 'Litter'],
    photo: { name: 'a.jpg', url: 'https://files.example.org/a', size: 3 },
  },
  { site: 'AB-02', note: 'two\nlines', kits: [{ kit: 'Net', n: 2 }], ok: true },
].map(read);

// JSON Schema draft 2020-12: the meta-schema, through ajv.
test('the exported schema is valid JSON Schema, and every sample satisfies it', () => {
  const schema = jsonSchemaOf(inferSchema(samples), 'Sampling report');
  const ajv = new Ajv2020({ strict: false });
  expect(ajv.validateSchema(schema)).toBe(true);
  const validate = ajv.compile(schema);
  for (const sample of samples) expect([validate(answers(sample)), validate.errors]).toEqual([true, null]);
});

test('what every submission answered is required, and nothing else', () => {
  expect(jsonSchemaOf(inferSchema(samples), 'x').required).toEqual(['site']);
  expect(jsonSchemaOf(inferSchema([]), 'x')).toMatchObject({ properties: {}, required: [] });
});

test('what breaks the schema is found', () => {
  const validate = new Ajv2020({ strict: false }).compile(jsonSchemaOf(inferSchema(samples), 'x'));
  expect(validate({ signs: ['Foam'] })).toBe(false);
  expect(validate({ site: 'AB-07', signs: 'Foam' })).toBe(false);
});
