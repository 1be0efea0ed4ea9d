import type { FieldKind, Json, JsonObject } from '../submission';
import type { FieldSchema, FormSchema } from './infer';

const text: JsonObject = { type: 'string' };
/** What values of each kind look like in a decoded submission. People's dates and numbers are text and stay so. */
const shapes: Record<FieldKind, JsonObject> = {
  text,
  multiline: text,
  name: { type: ['string', 'object'] },
  email: text,
  phone: text,
  url: text,
  number: { type: ['number', 'string'] },
  boolean: { type: ['boolean', 'string'] },
  date: { type: ['string', 'object'] },
  time: text,
  datetime: text,
  choice: { type: ['string', 'number', 'boolean'] },
  choices: { type: 'array', items: { type: ['string', 'number', 'boolean', 'null'] } },
  address: { type: ['string', 'object'] },
  files: {
    type: 'array',
    items: {
      type: 'object',
      required: ['name'],
      properties: {
        name: text,
        url: { type: ['string', 'null'] },
        type: { type: ['string', 'null'] },
        size: { type: ['number', 'null'] },
      },
    },
  },
  table: { type: ['array', 'object'] },
  json: {},
};

const schemaOf = (field: FieldSchema): JsonObject => {
  const kinds = Object.keys(field.kinds) as FieldKind[];
  const [only, ...others] = kinds.map(kind => shapes[kind]);
  const shape: JsonObject = others.length === 0 ? (only ?? {}) : { anyOf: kinds.map(kind => shapes[kind]) };
  const described: JsonObject = { title: field.label, ...shape };
  return field.examples.length > 0 ? { ...described, examples: field.examples } : described;
};

/**
 * The answers of a form as JSON Schema (draft 2020-12): an object with one property a question, by its key. Every
 * submission the schema was learned from satisfies it.
 */
export function jsonSchemaOf(schema: FormSchema, title: string): JsonObject {
  const properties: Record<string, Json> = Object.fromEntries(schema.fields.map(field => [field.key, schemaOf(field)]));
  const required = schema.fields
    .filter(field => field.filled === schema.count && schema.count > 0)
    .map(field => field.key);
  return { $schema: 'https://json-schema.org/draft/2020-12/schema', title, type: 'object', properties, required };
}
