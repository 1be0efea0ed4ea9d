import { escapeToken, isJsonObject, type Json, type JsonObject } from '../../submission';
import { fromSwagger, isSwagger, References, type Operation, type TargetField } from '../../target';

/** How deep schemas of bodies are read. */
const DEEPEST = 12;
const methods = ['get', 'post', 'put', 'patch', 'delete', 'options', 'head', 'trace'] as const;

/** Limits of a value by the keywords of JSON Schema (Validation, 2020-12, §6); those that say nothing are left out. */
export type Limits = Partial<Record<LimitName, number | string | boolean>>;
const limitNames = [
  'minLength',
  'maxLength',
  'minimum',
  'maximum',
  'exclusiveMinimum',
  'exclusiveMaximum',
  'multipleOf',
  'pattern',
  'minItems',
  'maxItems',
  'uniqueItems',
  'minProperties',
  'maxProperties',
] as const;
export type LimitName = (typeof limitNames)[number];

/** What may be sent at one place: a property of a body, or a parameter of the query. */
export interface Part {
  /** A JSON Pointer of property names, `/contact/email`, or `?name`. */
  field: string;
  required: boolean;
  /** In words: `string`, `integer`, `list of string`; null where the document does not say. */
  type: string | null;
  format: string | null;
  /** True where null may stand in its place. */
  nullable: boolean;
  options: string[] | null;
  limits: Limits;
  /** True where parts of its own tell what is in it. */
  isGroup: boolean;
  /** What is said of it. */
  words: string;
}

/** What a document offers under one method and path. */
export interface ApiOperation {
  /** `POST /contacts/{id}` */
  name: string;
  method: string;
  path: string;
  /** The path from the root of the server, as the first of its addresses says. */
  whole: string;
  id: string | null;
  parts: Map<string, Part>;
}

/** Operations of an OpenAPI document, as far as what is sent is concerned; null for what is none. */
export function apiOperations(given: Json): ApiOperation[] | null {
  if (!isJsonObject(given)) return null;
  const document = isSwagger(given) ? fromSwagger(given) : given;
  if (typeof document.openapi !== 'string') return null;
  const references = new References(document);
  const operations: ApiOperation[] = [];
  for (const [path, value] of Object.entries(references.resolve(document.paths) ?? {})) {
    const item = references.resolve(value);
    if (!item || !path.startsWith('/')) continue;
    for (const method of methods) {
      const operation = references.resolve(item[method]);
      if (!operation) continue;
      const servers = [operation.servers, item.servers, document.servers].find(
        each => Array.isArray(each) && each.length > 0,
      );
      operations.push({
        name: `${method.toUpperCase()} ${path}`,
        method: method.toUpperCase(),
        path,
        whole: `${basePath(servers)}${path}`,
        id: typeof operation.operationId === 'string' ? operation.operationId : null,
        parts: partsOf(operation, item, references),
      });
    }
  }
  return operations;
}

/** How changes name an operation: `POST /contacts/{id}`. */
export const operationName = ({ method, path }: Pick<Operation, 'method' | 'path'>): string => `${method} ${path}`;

/** How changes name a field of an operation; by its key where it stands nowhere. */
export const fieldPlace = ({ in: place, pointer, key }: Pick<TargetField, 'in' | 'pointer' | 'key'>): string =>
  place === 'query' ? `?${pointer}` : pointer || `/${key}`;

/** An operation of a target as what a document offers. */
export function apiOperation(operation: Operation): ApiOperation {
  const { id, method, path, fields } = operation;
  const parts = new Map<string, Part>();
  for (const field of fields) {
    if (field.readOnly || field.in === 'path' || field.in === 'header') continue;
    const name = fieldPlace(field);
    parts.set(name, partOfField(name, field));
  }
  return { name: operationName(operation), method, path, whole: path, id, parts };
}

function partOfField(name: string, field: TargetField): Part {
  const { type, format, options, required, maxLength, minimum, maximum, pattern, label, description } = field;
  return {
    field: name,
    required,
    type,
    format: format ?? null,
    nullable: false,
    options,
    limits: {
      ...(maxLength !== null && { maxLength }),
      ...(minimum !== undefined && { minimum }),
      ...(maximum !== undefined && { maximum }),
      ...(pattern !== undefined && { pattern }),
    },
    isGroup: false,
    words: [label, description].filter(Boolean).join(' '),
  };
}

/** The path of the first server. */
function basePath(servers: Json | undefined): string {
  const [first] = Array.isArray(servers) ? servers : [];
  const url = isJsonObject(first ?? null) ? (first as JsonObject).url : undefined;
  if (typeof url !== 'string') return '';
  const path = URL.canParse(url) ? new URL(url).pathname : url;
  return path.endsWith('/') ? path.slice(0, -1) : path;
}

function partsOf(operation: JsonObject, item: JsonObject, references: References): Map<string, Part> {
  const parts = new Map<string, Part>();
  for (const each of [...listOf(item.parameters), ...listOf(operation.parameters)]) {
    const parameter = references.resolve(each);
    if (!parameter || parameter.in !== 'query' || typeof parameter.name !== 'string') continue;
    const [content] = Object.values(references.resolve(parameter.content) ?? {});
    const schema = parameter.schema ?? references.resolve(content)?.schema;
    const put = together(schema, references, new Set());
    const field = `?${parameter.name}`;
    parts.set(field, { ...partFrom(field, put, references), required: parameter.required === true, isGroup: false });
  }
  const body = references.resolve(operation.requestBody);
  const content = references.resolve(body?.content) ?? {};
  const media = mediaOf(Object.keys(content));
  const schema = media === undefined ? undefined : references.resolve(content[media])?.schema;
  if (schema !== undefined) addProperties(schema, '', parts, references, new Set(), 0);
  return parts;
}

const listOf = (value: Json | undefined): Json[] => (Array.isArray(value) ? value : []);

/** Of several ways to send a body the one that is read: JSON before forms before any other. */
const mediaOf = (types: readonly string[]): string | undefined =>
  types.find(each => /[/+]json\b/i.test(each)) ??
  types.find(each => /^application\/x-www-form-urlencoded/i.test(each)) ??
  types.find(each => /^multipart\//i.test(each)) ??
  types[0];

function addProperties(
  schema: Json | undefined,
  at: string,
  parts: Map<string, Part>,
  references: References,
  above: ReadonlySet<JsonObject>,
  depth: number,
): void {
  if (depth > DEEPEST) return;
  const whole = together(schema, references, above);
  const inner = whole.items === undefined ? whole : together(whole.items, references, whole.above);
  for (const [name, each] of inner.properties) {
    const put = together(each, references, inner.above);
    // Where a schema stands in itself, the parts of the first are told.
    if (put.isCircle || put.readOnly) continue;
    const field = `${at}/${escapeToken(name)}`;
    const part = partFrom(field, put, references);
    parts.set(field, { ...part, required: inner.required.has(name) });
    if (part.isGroup) addProperties(each, field, parts, references, inner.above, depth + 1);
  }
}

/** A schema with its references, `allOf` and alternatives put together. */
interface Together {
  types: Set<string>;
  format: string | null;
  nullable: boolean;
  options: Json[] | null;
  limits: Limits;
  readOnly: boolean;
  properties: Map<string, Json>;
  required: Set<string>;
  items: Json | undefined;
  words: string;
  isCircle: boolean;
  /** The schemas that it is made of, and those it stands in. */
  above: ReadonlySet<JsonObject>;
}

function together(schema: Json | undefined, references: References, above: ReadonlySet<JsonObject>): Together {
  const empty: Together = {
    types: new Set(),
    format: null,
    nullable: false,
    options: null,
    limits: {},
    readOnly: false,
    properties: new Map(),
    required: new Set(),
    items: undefined,
    words: '',
    isCircle: false,
    above,
  };
  const own = references.resolve(schema);
  if (!own) return empty;
  if (above.has(own)) return { ...empty, isCircle: true };
  const within = new Set([...above, own]);
  const made = ownOf(own, within);
  // What a part says of itself beside a reference goes with it (JSON Schema 2020-12 §8.2.3.1).
  if (isJsonObject(schema ?? null) && schema !== own && (schema as JsonObject).readOnly === true) made.readOnly = true;
  for (const part of listOf(own.allOf)) add(made, together(part, references, within), true);
  const alternatives = [...listOf(own.oneOf), ...listOf(own.anyOf)].map(each => together(each, references, within));
  const real = alternatives.filter(each => !(each.types.size === 1 && each.types.has('null')));
  if (real.length < alternatives.length) made.nullable = true;
  if (real.length === 1) add(made, real[0]!, true);
  else if (real.length > 1) {
    const isOptions = real.every(each => each.options !== null);
    const required = [...real[0]!.required].filter(name => real.every(each => each.required.has(name)));
    for (const each of real) add(made, { ...each, options: null, limits: {} }, false);
    if (isOptions) made.options = real.flatMap(each => each.options!);
    required.forEach(name => made.required.add(name));
  }
  if (made.types.delete('null')) made.nullable = true;
  return made;
}

function ownOf(own: JsonObject, above: ReadonlySet<JsonObject>): Together {
  const types = new Set((Array.isArray(own.type) ? own.type : [own.type]).filter(each => typeof each === 'string'));
  const isObject = isJsonObject(own.properties ?? null);
  if (types.size === 0 && isObject) types.add('object');
  if (types.size === 0 && own.items !== undefined) types.add('array');
  const options = Array.isArray(own.enum) ? own.enum : own.const !== undefined ? [own.const] : null;
  return {
    types,
    format: typeof own.format === 'string' ? own.format : null,
    nullable: own.nullable === true || options?.includes(null) === true,
    options: options?.filter(each => each !== null) ?? null,
    limits: limitsOf(own),
    readOnly: own.readOnly === true,
    properties: new Map(isObject ? Object.entries(own.properties as JsonObject) : []),
    required: new Set(listOf(own.required).filter(each => typeof each === 'string')),
    items: own.items,
    words: [own.title, own.description].filter(each => typeof each === 'string').join(' '),
    isCircle: false,
    above,
  };
}

/** Limits that say something: least amounts of nothing are none, and what OpenAPI 3.0 writes as a flag is a number (2020-12 §6.2.3). */
function limitsOf(own: JsonObject): Limits {
  const limits: Limits = {};
  for (const name of limitNames) {
    const value = own[name];
    if (typeof value === 'number' || (name === 'pattern' && typeof value === 'string')) limits[name] = value;
    if (name === 'uniqueItems' && value === true) limits[name] = true;
  }
  for (const [flag, bound] of [
    ['exclusiveMinimum', 'minimum'],
    ['exclusiveMaximum', 'maximum'],
  ] as const)
    if (own[flag] === true && limits[bound] !== undefined) {
      limits[flag] = limits[bound];
      delete limits[bound];
    }
  for (const name of ['minLength', 'minItems', 'minProperties'] as const) if (limits[name] === 0) delete limits[name];
  return limits;
}

function add(into: Together, from: Together, withRequired: boolean): void {
  for (const each of from.types) into.types.add(each);
  into.format ??= from.format;
  into.nullable ||= from.nullable;
  into.options ??= from.options;
  into.limits = { ...from.limits, ...into.limits };
  into.readOnly ||= from.readOnly;
  into.items ??= from.items;
  into.words ||= from.words;
  into.above = new Set([...into.above, ...from.above]);
  for (const [name, each] of from.properties) if (!into.properties.has(name)) into.properties.set(name, each);
  if (withRequired) for (const name of from.required) into.required.add(name);
}

function partFrom(field: string, put: Together, references: References): Part {
  const items = put.items === undefined ? null : together(put.items, references, put.above);
  const inner = items ?? put;
  const type = items ? `list of ${typeOf(items) ?? 'anything'}` : typeOf(put);
  return {
    field,
    required: false,
    type,
    format: inner.format,
    nullable: put.nullable,
    options: inner.options?.map(each => (typeof each === 'string' ? each : JSON.stringify(each))) ?? null,
    limits: items ? { ...items.limits, ...put.limits } : put.limits,
    isGroup: inner.properties.size > 0 && !inner.isCircle,
    words: put.words,
  };
}

/** Types in words. What only has options is of their type. */
function typeOf({ types, options }: Together): string | null {
  const all =
    types.size > 0 ? types : new Set((options ?? []).map(each => (typeof each === 'object' ? 'object' : typeof each)));
  // A whole number is a number: where both may be sent, the wider one counts.
  if (all.has('number')) all.delete('integer');
  return all.size === 0 ? null : [...all].sort().join(' or ');
}
