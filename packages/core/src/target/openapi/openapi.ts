import { operationWords } from '../operationWords';
import { asText, escapeToken, isBlank, isJsonObject, labelFromKey, type Json, type JsonObject } from '../../submission';
import type { AnswerField, BodyKind, Operation, TargetField, TargetType } from '../operation';
import { withNames } from '../options';
import { withOwnKeys } from '../ownKeys';
import { suchAs } from '../suchAs';
import { flatten, References, type FlatSchema } from './schema';
import { fromSwagger, isSwagger } from './swagger';

/** How a target wants to be shown who asks, as its document says. */
export type SecurityScheme =
  | { kind: 'bearer' }
  | { kind: 'basic' }
  | { kind: 'header' | 'query'; name: string }
  | { kind: 'oauth'; tokenUrl: string }
  | { kind: 'consent'; authorizeUrl: string; tokenUrl: string };

/** What an OpenAPI document offers. */
export interface ReadOpenApi {
  title: string;
  /** Base addresses, as they are written; those that are relative are to be resolved against the document's own. */
  servers: string[];
  operations: Operation[];
  security: SecurityScheme[];
  /** What was not read, in sentences. */
  notes: string[];
}

const limits = { operations: 2000, fields: 400, nesting: 5, answer: 100 };
const methods = ['get', 'post', 'put', 'patch', 'delete'] as const;

/** Operations of an OpenAPI document, 3.0 to 3.2, or of Swagger 2.0; or why it is none. Never throws, whatever it is given. */
export function readOpenApi(given: Json): ReadOpenApi | { fault: string } {
  if (!isJsonObject(given)) return { fault: 'Not an OpenAPI document: it is not an object.' };
  const document = isSwagger(given) ? fromSwagger(given) : given;
  const version = asText(document.openapi);
  if (!/^3\.[012](\.|$)/.test(version))
    return {
      fault:
        version || document.swagger !== undefined
          ? `It is an OpenAPI document of version ${version || asText(document.swagger)}; 2.0 and 3.0 to 3.2 are read.`
          : 'Not an OpenAPI document: the version is missing.',
    };
  const references = new References(document);
  const paths = references.resolve(document.paths) ?? {};
  const operations: Operation[] = [];
  for (const [path, value] of Object.entries(paths)) {
    const item = references.resolve(value);
    if (!item || !path.startsWith('/')) continue;
    for (const method of methods) {
      const operation = references.resolve(item[method]);
      if (!operation) continue;
      if (operations.length >= limits.operations) {
        references.notes.add(`Only the first ${limits.operations} operations are read.`);
        break;
      }
      operations.push(readOperation(path, method, operation, item, references));
    }
  }
  if (operations.length === 0) return { fault: 'The document offers no operation.' };
  const info = references.resolve(document.info);
  return {
    title: asText(info?.title),
    servers: listOf(document.servers)
      .map(server => serverAddress(references.resolve(server)))
      .filter(each => each !== ''),
    operations: withOwnIds(operations),
    security: securityOf(document, references),
    notes: [...references.notes],
  };
}

const listOf = (value: Json | undefined): Json[] => (Array.isArray(value) ? value : []);

/** The address with the default of each of its variables. */
function serverAddress(server: JsonObject | null): string {
  const variables = isJsonObject(server?.variables ?? null) ? (server!.variables as JsonObject) : {};
  return asText(server?.url).replace(/\{([^{}]+)\}/g, (whole, name: string) => {
    const variable = Object.hasOwn(variables, name) ? variables[name] : undefined;
    return isJsonObject(variable ?? null) ? asText((variable as JsonObject).default) : whole;
  });
}

/** Identifiers that are given twice get a number behind them. */
function withOwnIds(operations: Operation[]): Operation[] {
  const seen = new Map<string, number>();
  return operations.map(operation => {
    const times = (seen.get(operation.id) ?? 0) + 1;
    seen.set(operation.id, times);
    return times === 1 ? operation : { ...operation, id: `${operation.id} ${times}` };
  });
}

function securityOf(document: JsonObject, references: References): SecurityScheme[] {
  const components = references.resolve(document.components);
  const schemes = references.resolve(components?.securitySchemes) ?? {};
  return Object.values(schemes).flatMap((value): SecurityScheme[] => {
    const scheme = references.resolve(value);
    const kind = asText(scheme?.scheme).toLowerCase();
    if (scheme?.type === 'http' && (kind === 'bearer' || kind === 'basic')) return [{ kind }];
    if (scheme?.type === 'apiKey' && (scheme.in === 'header' || scheme.in === 'query'))
      return [{ kind: scheme.in, name: asText(scheme.name) }];
    const flow = references.resolve(references.resolve(scheme?.flows)?.clientCredentials);
    if (scheme?.type === 'oauth2' && flow) return [{ kind: 'oauth', tokenUrl: asText(flow.tokenUrl) }];
    const byCode = references.resolve(references.resolve(scheme?.flows)?.authorizationCode);
    if (scheme?.type === 'oauth2' && byCode)
      return [{ kind: 'consent', authorizeUrl: asText(byCode.authorizationUrl), tokenUrl: asText(byCode.tokenUrl) }];
    return [];
  });
}

function readOperation(
  path: string,
  method: (typeof methods)[number],
  operation: JsonObject,
  item: JsonObject,
  references: References,
): Operation {
  const parameters = [...listOf(item.parameters), ...listOf(operation.parameters)];
  const inputs = new Map<string, TargetField>();
  for (const each of parameters) {
    const field = parameterField(references.resolve(each), references);
    // A parameter of the operation goes before one of the same name of its path.
    if (field) inputs.set(`${field.in} ${field.pointer}`, field);
  }
  const { kind, fields, root } = bodyFields(operation, references);
  const upper = method.toUpperCase() as Operation['method'];
  return {
    id: asText(operation.operationId) || `${upper} ${path}`,
    label: asText(operation.summary) || labelFromKey(asText(operation.operationId)) || operationWords(upper, path),
    method: upper,
    path,
    body: kind,
    ...(root && { root }),
    fields: withOwnKeys([...inputs.values(), ...fields]),
    answer: answerFields(operation, references),
    ...(answersPage(operation, references) && { answersPage: true }),
  };
}

/** Headers that are set by others than a mapping. */
const ownHeaders = /^(accept|content-type|authorization|content-length|host|idempotency-key)$/i;

function parameterField(parameter: JsonObject | null, references: References): TargetField | null {
  const [place, name] = [asText(parameter?.in), asText(parameter?.name)];
  if (!parameter || name === '' || !['path', 'query', 'header'].includes(place)) return null;
  if (place === 'header' && ownHeaders.test(name)) return null;
  const schema = flatten(parameter.schema, references);
  return {
    ...fieldOf(name, name, schema, references),
    in: place as 'path' | 'query' | 'header',
    pointer: name,
    required: place === 'path' || parameter.required === true,
    description: asText(parameter.description) || schema.description,
  };
}

/** Ways of writing a body, the ones that are taken first come first. */
const writings: { is: RegExp; kind: BodyKind }[] = [
  { is: /^application\/(.+\+)?json\b/i, kind: 'json' },
  { is: /^multipart\/form-data\b/i, kind: 'multipart' },
  { is: /^application\/x-www-form-urlencoded\b/i, kind: 'urlencoded' },
  { is: /^(application|text)\/(.+\+)?xml\b/i, kind: 'xml' },
  { is: /^text\/plain\b/i, kind: 'text' },
  { is: /^(application\/octet-stream|image\/|audio\/|video\/|application\/pdf|\*\/\*)/i, kind: 'raw' },
];

/** The body in the first way of writing that is known here. */
function bodyFields(
  operation: JsonObject,
  references: References,
): { kind: BodyKind; fields: TargetField[]; root?: string } {
  const body = references.resolve(operation.requestBody);
  const content = references.resolve(body?.content) ?? {};
  const types = Object.keys(content);
  if (types.length === 0) return { kind: 'none', fields: [] };
  const [found] = writings.flatMap(each => types.filter(type => each.is.test(type)).map(type => ({ ...each, type })));
  if (!found) {
    references.notes.add(`A body of ${types[0]} is not written.`);
    return { kind: 'none', fields: [] };
  }
  const { kind, type } = found;
  const schema = flatten(references.resolve(content[type])?.schema, references);
  if (kind === 'text' || kind === 'raw') {
    const label = kind === 'text' ? 'Text' : 'File';
    const whole = { ...fieldOf('body', label, schema, references), label, required: body?.required === true };
    return { kind, fields: [{ ...whole, type: kind === 'text' ? 'text' : 'file' }] };
  }
  const fields: TargetField[] = [];
  collect(schema, '', [], true, fields, references);
  const inParts = kind === 'multipart' ? fields : fields.map(each => (each.type === 'file' ? asText64(each) : each));
  return { kind, fields: inParts, ...(kind === 'xml' && { root: schema.title ?? 'record' }) };
}

/** A file that has to stand inside a text does so in base64. */
const asText64 = (field: TargetField): TargetField => ({ ...field, type: 'base64' });

/** The fields of an object, those of objects inside it too, by their whole path. */
function collect(
  schema: FlatSchema,
  pointer: string,
  names: string[],
  isCertain: boolean,
  fields: TargetField[],
  references: References,
): void {
  for (const [name, value] of schema.properties) {
    if (fields.length >= limits.fields) {
      references.notes.add(`Only the first ${limits.fields} fields of a body are read.`);
      return;
    }
    const inner = flatten(value, references);
    const at = `${pointer}/${escapeToken(name)}`;
    const path = [...names, name];
    const required = isCertain && schema.required.has(name);
    if (inner.properties.size > 0 && path.length < limits.nesting && !inner.readOnly)
      collect(inner, at, path, required, fields, references);
    else fields.push({ ...fieldOf(path.join('.'), name, inner, references), pointer: at, required });
  }
}

function fieldOf(key: string, name: string, schema: FlatSchema, references: References): TargetField {
  const items = schema.type === 'array' ? flatten(schema.items, references) : null;
  const { enum: options, names } = items ?? schema;
  return {
    key,
    pointer: '',
    label: schema.title ?? labelFromKey(name),
    type: typeOf(schema, items),
    required: false,
    readOnly: schema.readOnly,
    ...(options
      ? withNames(options.map((each, at) => ({ value: asText(each), name: names?.[at] ?? '' })))
      : { options: null }),
    maxLength: schema.maxLength,
    description:
      schema.description ??
      suchAs(typeof schema.example === 'object' ? null : schema.example) ??
      formatNote(schema.format),
    ...(items && itemType(items) && { items: itemType(items) }),
    ...(schema.format === 'email' && { format: 'email' as const }),
    ...((schema.format === 'uri' || schema.format === 'url') && { format: 'uri' as const }),
    ...(schema.minimum !== null && { minimum: schema.minimum }),
    ...(schema.maximum !== null && { maximum: schema.maximum }),
    ...(schema.pattern !== null && { pattern: schema.pattern }),
    ...(schema.default !== undefined && !isBlank(schema.default) && { default: schema.default }),
  };
}

const formatNote = (format: string | null): string | null =>
  format !== null && !['date', 'date-time', 'int32', 'int64', 'float', 'double'].includes(format) ? format : null;

const simple: Record<string, TargetType> = {
  string: 'text',
  number: 'number',
  integer: 'integer',
  boolean: 'boolean',
};

/** The bytes of a file: `binary` in OpenAPI 3.0, a media type in 3.1; `byte` when they stand there in base64. */
const isContent = ({ type, format }: FlatSchema) =>
  (type === 'string' || type === null) && (format === 'binary' || format === 'byte');

/** What each item of a list is, where that is a number or a mark. */
const itemType = ({ type, enum: options }: FlatSchema): TargetField['items'] =>
  !options && (type === 'integer' || type === 'number' || type === 'boolean') ? type : undefined;

function typeOf(schema: FlatSchema, items: FlatSchema | null): TargetType {
  if (items && isContent(items)) return 'file';
  if (items) return items.type === 'string' || items.enum || itemType(items) ? 'choices' : 'json';
  if (isContent(schema)) return schema.format === 'byte' ? 'base64' : 'file';
  if (schema.enum && (schema.type === 'string' || schema.enum.every(each => typeof each === 'string'))) return 'choice';
  if (schema.type === 'string' && schema.format === 'date') return 'date';
  if (schema.type === 'string' && schema.format === 'date-time') return 'datetime';
  return (schema.type !== null && Object.hasOwn(simple, schema.type) && simple[schema.type]) || 'json';
}

const isJsonType = (type: string) => /^application\/(.+\+)?json\b/i.test(type);

/** The content of the first answer of 2xx, by media type. */
function answerContent(operation: JsonObject, references: References): JsonObject | null {
  const responses = references.resolve(operation.responses) ?? {};
  const status = Object.keys(responses).find(each => /^2(\d\d|XX)$/i.test(each));
  return references.resolve(status === undefined ? undefined : references.resolve(responses[status])?.content);
}

/** True where a success is described as a web page and as no data. */
function answersPage(operation: JsonObject, references: References): boolean {
  const types = Object.keys(answerContent(operation, references) ?? {});
  return types.some(type => /^(text\/html|application\/xhtml\+xml)\b/i.test(type)) && !types.some(isJsonType);
}

/** What the operation answers when all went well: the first answer of 2xx with JSON. */
function answerFields(operation: JsonObject, references: References): AnswerField[] {
  const content = answerContent(operation, references);
  const json = Object.keys(content ?? {}).find(isJsonType);
  if (!content || json === undefined) return [];
  return partsOf(flatten(references.resolve(content[json])?.schema, references), references, 0);
}

/** What an answer holds; of a list of records, what each of them holds. */
function partsOf(schema: FlatSchema, references: References, depth: number): AnswerField[] {
  const listed = schema.type === 'array' ? [['', schema] as const] : listsIn(schema, references);
  const lists =
    depth > 1
      ? []
      : listed.flatMap(([pointer, list]): AnswerField[] => {
          const items = partsOf(flatten(list.items, references), references, depth + 1);
          return items.length === 0 ? [] : [{ pointer, label: list.title ?? '', type: 'json', items }];
        });
  const fields: TargetField[] = [];
  collect(schema, '', [], false, fields, references);
  const isList = new Set(lists.map(each => each.pointer));
  return [
    ...fields
      .filter(each => !isList.has(each.pointer))
      .slice(0, limits.answer)
      .map(({ pointer, label, type }) => ({ pointer, label, type })),
    ...lists,
  ];
}

/** How deep below an answer its lists are looked for: they are often wrapped, seldom more than twice. */
const DEEPEST_LIST = 3;

/** Lists among the properties of an object, and of objects in it, with where they stand. */
const listsIn = (schema: FlatSchema, references: References, depth = 1): [pointer: string, FlatSchema][] =>
  [...schema.properties].slice(0, limits.answer).flatMap(([name, value]): [string, FlatSchema][] => {
    const flat = flatten(value, references);
    const at = `/${escapeToken(name)}`;
    if (flat.type === 'array') return [[at, flat]];
    if (depth >= DEEPEST_LIST || flat.properties.size === 0) return [];
    return listsIn(flat, references, depth + 1).map(([inner, list]) => [`${at}${inner}`, list]);
  });
