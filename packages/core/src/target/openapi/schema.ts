import { isJsonObject, percentDecoded, valueAt, type Json, type JsonObject } from '../../submission';

/** How many references may lead one to the next, and how deep schemas may stand in schemas. */
const limits = { references: 32, depth: 24 };

/** Resolves references inside one document. What it could not resolve it says, once each. */
export class References {
  readonly notes = new Set<string>();

  constructor(private readonly document: Json) {}

  /** What stands there, after following references within the document; null where there is nothing to be read. */
  resolve(value: Json | undefined): JsonObject | null {
    let at = value;
    for (let step = 0; step < limits.references; step++) {
      if (!isJsonObject(at ?? null)) return null;
      const here = at as JsonObject;
      const reference = here.$ref;
      if (typeof reference !== 'string') return here;
      if (!reference.startsWith('#')) {
        this.notes.add(`“${reference}” is in another document, and is not read.`);
        return null;
      }
      at = valueAt(this.document, pointerIn(reference));
      if (at === undefined) this.notes.add(`“${reference}” leads nowhere.`);
    }
    if (at !== undefined) this.notes.add('References lead round in a circle.');
    return null;
  }
}

/** The JSON Pointer in a reference of this document (RFC 6901 §6). */
const pointerIn = (reference: string): string => percentDecoded(reference.slice(1));

/** A schema with its references, `allOf` and alternatives put together: what is needed to fill it in. */
export interface FlatSchema {
  type: string | null;
  format: string | null;
  enum: Json[] | null;
  /** What its options are called, where the document says so: JSON Schema's annotated enumerations (`oneOf` of `const` and `title`). */
  names: string[] | null;
  title: string | null;
  description: string | null;
  /** A value as the document shows it. */
  example: Json | undefined;
  /** What the target assumes where nothing is sent. */
  default: Json | undefined;
  maxLength: number | null;
  minimum: number | null;
  maximum: number | null;
  pattern: string | null;
  readOnly: boolean;
  properties: Map<string, Json>;
  required: Set<string>;
  items: Json | undefined;
}

const blank = (): FlatSchema => ({
  type: null,
  format: null,
  enum: null,
  names: null,
  title: null,
  description: null,
  example: undefined,
  default: undefined,
  maxLength: null,
  minimum: null,
  maximum: null,
  pattern: null,
  readOnly: false,
  properties: new Map(),
  required: new Set(),
  items: undefined,
});

const numberOf = (value: Json | undefined): number | null => (typeof value === 'number' ? value : null);
const textOf = (value: Json | undefined): string | null => (typeof value === 'string' && value !== '' ? value : null);

/** Puts a schema together. Of alternatives all properties may be filled and none must; which one is meant is not decided. */
export function flatten(schema: Json | undefined, references: References, depth = 0): FlatSchema {
  const flat = blank();
  const own = references.resolve(schema);
  if (!own) return flat;
  if (depth > limits.depth) {
    references.notes.add('Schemas stand in each other without end; the deepest are not read.');
    return flat;
  }
  for (const part of listOf(own.allOf)) merge(flat, flatten(part, references, depth + 1), true);
  const alternatives = [...listOf(own.oneOf), ...listOf(own.anyOf)]
    .map(each => flatten(each, references, depth + 1))
    .filter(each => each.type !== 'null');
  for (const each of alternatives) merge(flat, each, alternatives.length === 1);
  if (alternatives.length > 1 && alternatives.every(each => each.enum)) {
    flat.enum = alternatives.flatMap(each => each.enum!);
    const areNamed = alternatives.every(each => each.enum!.length === 1) && alternatives.some(each => each.title);
    flat.names = areNamed ? alternatives.map(each => each.title ?? '') : null;
    if (areNamed) flat.title = null;
    if (areNamed) flat.description = null;
  }
  merge(flat, ownOf(own), true);
  return flat;
}

const listOf = (value: Json | undefined): Json[] => (Array.isArray(value) ? value : []);

function ownOf(own: JsonObject): FlatSchema {
  // OpenAPI 3.1 writes what may be null as a list of types, 3.0 as `nullable`.
  const type = Array.isArray(own.type) ? own.type.find(each => each !== 'null') : own.type;
  const options = Array.isArray(own.enum)
    ? own.enum.filter(each => each !== null)
    : own.const !== undefined
      ? [own.const]
      : null;
  return {
    type: textOf(type) ?? (isJsonObject(own.properties ?? null) ? 'object' : null),
    // OpenAPI 3.1 writes files as a media type, and as an encoding where they stand in a text.
    format:
      textOf(own.format) ??
      (typeof own.contentEncoding === 'string' ? 'byte' : typeof own.contentMediaType === 'string' ? 'binary' : null),
    enum: options,
    names: namesOf(own, options?.length ?? 0),
    title: textOf(own.title),
    description: textOf(own.description),
    example: own.example ?? (Array.isArray(own.examples) ? own.examples[0] : undefined),
    default: own.default,
    maxLength: numberOf(own.maxLength),
    minimum: numberOf(own.minimum),
    maximum: numberOf(own.maximum),
    pattern: textOf(own.pattern),
    readOnly: own.readOnly === true,
    properties: new Map(isJsonObject(own.properties ?? null) ? Object.entries(own.properties as JsonObject) : []),
    required: new Set(listOf(own.required).filter(each => typeof each === 'string')),
    items: own.items,
  };
}

/** Names of options beside them, as generators of documents write them. *Common practice, no source.* */
function namesOf(own: JsonObject, options: number): string[] | null {
  const names = own['x-enumNames'] ?? own['x-enum-varnames'];
  return Array.isArray(names) && names.length === options && names.every(each => typeof each === 'string')
    ? names
    : null;
}

/** Adds one schema to another; what the added one says goes before. */
function merge(into: FlatSchema, from: FlatSchema, withRequired: boolean): void {
  into.type = from.type ?? into.type;
  into.format = from.format ?? into.format;
  into.names = from.enum ? from.names : into.names;
  into.enum = from.enum ?? into.enum;
  into.title = from.title ?? into.title;
  into.description = from.description ?? into.description;
  into.example = from.example ?? into.example;
  into.default = from.default ?? into.default;
  into.maxLength = from.maxLength ?? into.maxLength;
  into.minimum = from.minimum ?? into.minimum;
  into.maximum = from.maximum ?? into.maximum;
  into.pattern = from.pattern ?? into.pattern;
  into.readOnly ||= from.readOnly;
  into.items = from.items ?? into.items;
  for (const [name, schema] of from.properties) into.properties.set(name, schema);
  if (withRequired) for (const name of from.required) into.required.add(name);
}
